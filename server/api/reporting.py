"""What an error report may tell: the fault and its route, and nobody's name, link or entry."""

from __future__ import annotations

from typing import Any

KEPT_OF_A_REQUEST = ("method",)


def without_addresses(event: Any, hint: Any) -> Any:
    """An event without its request's address, headers and body: a link is a secret, a body a name.

    The route stands in the event's `transaction`.
    """
    request = event.get("request", {})
    event["request"] = {name: request[name] for name in KEPT_OF_A_REQUEST if name in request}
    for name in ("user", "breadcrumbs", "extra"):
        event.pop(name, None)
    return event


REPORTED: dict[str, Any] = {
    "send_default_pii": False,
    "max_request_body_size": "never",
    "include_local_variables": False,
    "before_send": without_addresses,
}
