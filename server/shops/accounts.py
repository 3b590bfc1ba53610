"""How people come into a shop, change what they may do, and leave it."""

from __future__ import annotations

import uuid
from dataclasses import dataclass

from django.contrib.auth.password_validation import validate_password
from django.contrib.auth.tokens import default_token_generator
from django.core import signing
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.utils.http import urlsafe_base64_decode, urlsafe_base64_encode

from core.errors import CoreError
from server.shops.keys import end_keys
from server.shops.models import Shop, User
from server.shops.sessions import end_all

SET_UP_VALID_S = 24 * 3600
_SET_UP = signing.TimestampSigner(salt="fiacre.set-up")


@dataclass(frozen=True)
class Newcomer:
    """What somebody says of themselves who comes with a link."""

    name: str
    password: str


def checked_password(password: str, user: User | None = None) -> str:
    """A password that the validators let pass.

    Raises
    ------
    CoreError
        With what is wrong with it; the password itself is not repeated.
    """
    try:
        validate_password(password, user)
    except ValidationError as error:
        raise CoreError("weak-password", "/password", None, " ".join(error.messages)) from None
    return password


def set_up_code() -> str:
    """A code that makes one shop and its first owner, within a day, once."""
    return _SET_UP.sign(uuid.uuid4().hex)


@transaction.atomic
def set_up(code: str, shop: str, email: str, owner: Newcomer) -> User:
    """The shop that a code stands for, with its first owner.

    Raises
    ------
    CoreError
        If the code is none, is old or was used; if the password is weak or the address is taken.
    """
    try:
        shop_id = uuid.UUID(_SET_UP.unsign(code, max_age=SET_UP_VALID_S))
    except (signing.BadSignature, ValueError):
        raise CoreError(
            "link-closed", "/code", None, "a set-up link of the last 24 hours"
        ) from None
    checked_password(owner.password)
    try:
        # Its own id makes the code good for one shop only.
        with transaction.atomic():
            made = Shop.objects.create(id=shop_id, name=shop)
    except IntegrityError:
        raise CoreError("link-closed", "/code", None, "a set-up link that was not used") from None
    return _person(made, email, owner.name, User.Role.OWNER, owner.password)


@transaction.atomic
def invite(shop: Shop, name: str, email: str, role: str) -> User:
    """Somebody new, who comes in by their link."""
    return _person(shop, email, name, role, None)


def _person(shop: Shop, email: str, name: str, role: str, password: str | None) -> User:
    try:
        with transaction.atomic():
            return User.objects.create_user(email, password, name=name, role=role, shop=shop)
    except IntegrityError:
        raise CoreError("taken", "/email", email, "an address that no account has") from None


def link_of(user: User) -> str:
    """The path by which a person sets a password; spent once it is set, closed after three days."""
    who = urlsafe_base64_encode(user.pk.bytes)
    return f"/welcome/{who}/{default_token_generator.make_token(user)}"


def followed(who: str, token: str) -> User:
    """Whose link this is.

    Raises
    ------
    CoreError
        If it is nobody's, was used or is too old.
    """
    try:
        user = User.objects.select_related("shop").get(
            pk=uuid.UUID(bytes=urlsafe_base64_decode(who)), is_active=True
        )
    except (ValueError, User.DoesNotExist):
        user = None
    if user is None or not default_token_generator.check_token(user, token):
        raise CoreError("link-closed", "/link", None, "a link that was not used yet, of these days")
    return user


@transaction.atomic
def welcome(who: str, token: str, given: Newcomer) -> User:
    """Set the password of whoever follows their link; they are signed out everywhere else."""
    user = followed(who, token)
    user.set_password(checked_password(given.password, user))
    user.name = given.name or user.name
    user.save(update_fields=["password", "name"])
    end_all(user)
    end_keys(user)
    return user


@transaction.atomic
def change(person: User, *, role: str, active: bool, name: str) -> None:
    """What a person may do from now on.

    Raises
    ------
    CoreError
        If the shop would be without an owner.
    """
    owners = User.objects.select_for_update().filter(
        shop_id=person.shop_id, role=User.Role.OWNER, is_active=True
    )
    others = [one for one in owners if one.pk != person.pk]
    if not others and (role != User.Role.OWNER or not active):
        raise CoreError("last-owner", "/role", role, "another owner first")
    another = (person.role, person.is_active) != (role, active)
    person.role, person.is_active, person.name = role, active, name
    person.save(update_fields=["role", "is_active", "name"])
    if another:
        end_keys(person)
    if not active:
        end_all(person)
