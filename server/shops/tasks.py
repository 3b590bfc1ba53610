"""What is done for people by a worker, after they were answered."""

from __future__ import annotations

from datetime import timedelta
from smtplib import SMTPException

from django.conf import settings
from django.core.mail import send_mail
from django.utils import timezone
from django_tasks import task

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
    try:
        send_mail(f"Your way into {user.shop.name}", text, None, [user.email])
    except (SMTPException, OSError):
        if tried + 1 >= TRIES:
            raise
        again = send_link.using(run_after=timezone.now() + FIRST_WAIT * 2**tried)
        again.enqueue(person, origin, tried + 1)
        return False
    return True
