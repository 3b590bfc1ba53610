"""What is done for people by a worker, after they were answered."""

from __future__ import annotations

from datetime import timedelta
from smtplib import SMTPException

from django.conf import settings
from django.core.mail import send_mail
from django.utils import timezone
from django_tasks import task
from django_tasks.base import Task

from server.shops.accounts import link_of
from server.shops.models import User

TRIES = 6
FIRST_WAIT = timedelta(minutes=1)  # Doubled each time: half an hour in all.


def mail_link(user: User, origin: str) -> bool:
    """Have a person's link mailed to them; False where no mail server is set up."""
    if not settings.EMAIL_HOST:
        return False
    send_link.enqueue(str(user.pk), origin)
    return True


def mail_warning(user: User, text: str) -> None:
    """Have a person told by mail what was done to their account, where mail is set up."""
    if settings.EMAIL_HOST:
        send_warning.enqueue(user.email, user.shop.name, text)


@task
def send_warning(email: str, shop: str, text: str, tried: int = 0) -> bool:
    """Mail somebody what happened to their account, and what to do if it was not them."""
    body = f"{text}\n\nIf that was not you, ask an owner of {shop} to shut the account at once.\n"
    return _sent(f"Your account at {shop}", body, email) or _later(
        send_warning, tried, email, shop, text
    )


@task(priority=50)  # Somebody waits at the door.
def send_link(person: str, origin: str, tried: int = 0) -> bool:
    """Mail somebody their link, made as it is sent, so that no queue holds a secret.

    Parameters
    ----------
    person : key of the User.
    origin : address of the application, without a slash at its end.
    tried : how often the mail server did not take it yet.
    """
    user = User.objects.select_related("shop").filter(pk=person, is_active=True).first()
    if user is None:
        return False
    text = (
        f"{user.name},\n\nset a password for {user.shop.name} here:\n\n{origin}{link_of(user)}\n\n"
        "The link works once and for three days. If you did not ask for it, do nothing.\n"
    )
    return _sent(f"Your way into {user.shop.name}", text, user.email) or _later(
        send_link, tried, person, origin
    )


def _sent(subject: str, text: str, email: str) -> bool:
    try:
        send_mail(subject, text, None, [email])
    except (SMTPException, OSError):
        return False
    return True


def _later(job: Task[..., bool], tried: int, *given: str) -> bool:
    """Try once more after a while that doubles.

    Raises
    ------
    OSError
        If the mail server took nothing for half an hour.
    """
    if tried + 1 >= TRIES:
        raise OSError("the mail server takes nothing")
    job.using(run_after=timezone.now() + FIRST_WAIT * 2**tried).enqueue(*given, tried + 1)
    return False
