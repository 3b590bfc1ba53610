"""The second factor: codes of an authenticator by time (RFC 6238), and recovery codes."""

from __future__ import annotations

import io
from dataclasses import dataclass

import segno
from django.db import transaction
from django_otp import devices_for_user, match_token
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice

from core.errors import CoreError
from server.shops.models import User

RECOVERY_CODES = 10


@dataclass(frozen=True)
class Enrolment:
    """What an authenticator is given: an address, and the same as a picture."""

    address: str
    picture: str


def confirmed(user: User) -> bool:
    """Whether a person has a second factor."""
    return any(devices_for_user(user, confirmed=True))


def holds(user: User, code: str) -> bool:
    """Whether a code is right now; wrong ones slow down the next, recovery codes are spent."""
    return match_token(user, code.replace(" ", "")) is not None


@transaction.atomic
def begin(user: User) -> Enrolment:
    """A new secret, of no effect until a code proves that it arrived."""
    TOTPDevice.objects.filter(user=user, confirmed=False).delete()
    device = TOTPDevice.objects.create(user=user, name="authenticator", confirmed=False)
    drawn = io.BytesIO()
    segno.make(device.config_url, error="m").save(
        drawn, kind="svg", xmldecl=False, svgns=True, scale=4, border=4
    )
    return Enrolment(device.config_url, drawn.getvalue().decode())


@transaction.atomic
def confirm(user: User, code: str) -> list[str]:
    """Put the new secret in force; returns the recovery codes, shown this once.

    Raises
    ------
    CoreError
        If the code is not the one the new secret makes now.
    """
    device = TOTPDevice.objects.select_for_update().filter(user=user, confirmed=False).first()
    if device is None or not device.verify_token(code.replace(" ", "")):
        raise CoreError("wrong-code", "/code", code, "the six figures that are shown now")
    forget(user)
    device.confirmed = True
    device.save()
    kept = StaticDevice.objects.create(user=user, name="recovery", confirmed=True)
    codes = [StaticToken.random_token() for _ in range(RECOVERY_CODES)]
    StaticToken.objects.bulk_create(StaticToken(device=kept, token=code) for code in codes)
    return codes


def forget(user: User) -> None:
    """Take the second factor away."""
    TOTPDevice.objects.filter(user=user, confirmed=True).delete()
    StaticDevice.objects.filter(user=user).delete()
