"""What happened to accounts: who came in, what was changed, by whom and from where.

Owners see their shop's, everybody their own. What somebody could use against a person is told to
that person by mail as well, where mail is set up.
"""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest

from server.api.access import address_of
from server.shops.models import AccountEvent, User
from server.shops.tasks import mail_warning

Kind = AccountEvent.Kind
MOST_SHOWN = 200
WARNED_OF = {
    Kind.LINK_USED: "Somebody set your password by a link.",
    Kind.PASSWORD: "Your password was changed.",
    Kind.FACTOR_ADDED: "A second factor was added to your account.",
    Kind.FACTOR_TAKEN: "The second factor was taken off your account.",
    Kind.KEY_MADE: "A key for another program was made in your name.",
}


def note(request: HttpRequest, kind: Kind, whom: User, *, told: str = "") -> None:
    """Write down what happened to somebody's account.

    Parameters
    ----------
    request : of whoever did it: whom it concerns, if nobody is signed in.
    told : in a few words what of; never a secret.
    """
    by = request.user if isinstance(request.user, User) else whom
    AccountEvent.objects.create(
        shop_id=whom.shop_id, kind=kind, whom=whom, by=by, address=address_of(request), told=told
    )
    if kind in WARNED_OF:
        mail_warning(whom, WARNED_OF[kind])


def by_what_guesses_count(seen: Any, credentials: dict[str, Any] | None = None) -> list[str]:
    """Whether wrong passwords are counted for the account as well as for the address.

    For the account they are, wherever they come from; but where its person has come in before they
    are not, so that no stranger keeps them out.
    """
    email = (credentials or {}).get("username") or getattr(seen, "username", None) or ""
    address = getattr(seen, "axes_ip_address", None) or getattr(seen, "ip_address", None)
    known = AccountEvent.objects.filter(
        whom__email=str(email).strip().lower(), kind=Kind.CAME_IN, address=address or ""
    )
    return ["ip_address"] if known.exists() else ["username", "ip_address"]
