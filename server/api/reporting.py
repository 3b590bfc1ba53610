"""What an error report may tell: the fault and its route, and nobody's name, link or entry."""

from __future__ import annotations

from typing import Any

KEPT_OF_A_REQUEST = ("method",)


def without_addresses(event: Any, hint: Any) -> Any:
    """An event without its request's address, headers and body, and without what errors say: a link
    is a secret, a body a name, and an error repeats either. Kind and place of the error stay.

    The route stands in the event's `transaction`.
    """
    request = event.get("request", {})
    event["request"] = {name: request[name] for name in KEPT_OF_A_REQUEST if name in request}
    for name in ("user", "breadcrumbs", "extra", "logentry", "message"):
        event.pop(name, None)
    for one in event.get("exception", {}).get("values", []):
        one["value"] = ""  # A database repeats the row that it refuses, a parser what it read.
    return event


REPORTED: dict[str, Any] = {
    "send_default_pii": False,
    "max_request_body_size": "never",
    "include_local_variables": False,
    "before_send": without_addresses,
}
