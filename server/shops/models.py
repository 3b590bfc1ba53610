"""Shops and the people who work in them. Everything else belongs to a shop."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any, Self, TypeVar
from zoneinfo import ZoneInfo

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.contrib.sessions.base_session import AbstractBaseSession, BaseSessionManager
from django.db import models

from core.document.units import SYSTEMS
from core.language import ENGLISH, LANGUAGES

M = TypeVar("M", bound=models.Model)


class Paper(models.TextChoices):
    """What reports are printed on; the values are those of CSS."""

    A4 = "A4"
    LETTER = "letter", "Letter"


class Units(models.TextChoices):
    """In what a report gives its figures; the values are the core's."""

    AS_READ = "as-read"
    METRIC = "metric"
    BAR = "bar"
    IMPERIAL = "imperial"


class Shop(models.Model):
    """A business or club whose people share engines and inspections."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=200)
    # What stands on its reports.
    address = models.TextField(blank=True, default="")
    liability = models.TextField(blank=True, default="")
    fee = models.CharField(max_length=300, blank=True, default="")
    units = models.CharField(max_length=10, choices=Units.choices, default=Units.AS_READ)
    time_zone = models.CharField(max_length=64, default="UTC")
    language = models.CharField(max_length=5, choices=list(LANGUAGES.items()), default=ENGLISH)
    paper = models.CharField(max_length=6, choices=Paper.choices, default=Paper.A4)
    logo = models.BinaryField(blank=True, default=b"")  # PNG, made anew from what was given.
    # Years after which clients are erased of whose engines nothing was recorded since; none: kept.
    keep_clients = models.PositiveSmallIntegerField(null=True, blank=True)
    # Everybody needs a second factor to sign in.
    second_factor = models.BooleanField(default=False)

    def __str__(self) -> str:
        return self.name

    def at(self, moment: datetime) -> datetime:
        """A moment in the shop's own time."""
        return moment.astimezone(ZoneInfo(self.time_zone))

    def when(self, moment: datetime) -> str:
        """The same as its clock shows it, with the name of its time."""
        return f"{self.at(moment):%Y-%m-%d %H:%M %Z}"


class UserManager(BaseUserManager["User"]):
    """Makes people; there is nobody without a shop."""

    def create_user(self, email: str, password: str | None, **fields: Any) -> User:
        """Without a password nobody signs in as this person, until a link sets one."""
        user = self.model(email=self.normalize_email(email).lower(), **fields)
        user.set_password(password)
        user.save(using=self._db)
        return user


class User(AbstractBaseUser):
    """A person who signs in. The role says what they may do; the shop, what they may see.

    Owners decide (rules, prices, people, archive, links of signed reports, reopening); inspectors
    record and sign; viewers look.
    """

    class Role(models.TextChoices):
        OWNER = "owner"
        INSPECTOR = "inspector"
        VIEWER = "viewer"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="people")
    email = models.EmailField(unique=True)
    name = models.CharField(max_length=200)
    role = models.CharField(max_length=20, choices=Role.choices, default=Role.INSPECTOR)
    is_active = models.BooleanField(default=True)
    tools = models.JSONField(default=dict)  # Blades and wrench, as the contract spells them.
    units = models.CharField(max_length=10, choices=Units.choices, blank=True, default="")

    USERNAME_FIELD = "email"
    objects = UserManager()

    @property
    def measures(self) -> dict[str, str]:
        """In what this person reads each kind of quantity; empty where the engine says it."""
        system = SYSTEMS.get(self.units or self.shop.units, {})
        return {str(kind): unit for kind, unit in system.items()}

    @property
    def may_write(self) -> bool:
        return self.role in (self.Role.OWNER, self.Role.INSPECTOR)

    @property
    def is_owner(self) -> bool:
        return self.role == self.Role.OWNER

    def __str__(self) -> str:
        return self.name


class SignedIn(AbstractBaseSession):
    """A session, and whose it is, so that a person can see and end their own."""

    user = models.ForeignKey(User, null=True, on_delete=models.CASCADE, related_name="sessions")
    device = models.CharField(max_length=200, blank=True, default="")
    seen = models.DateTimeField(auto_now=True)

    objects = BaseSessionManager()  # type: ignore[misc]

    @classmethod
    def get_session_store_class(cls) -> type[Any]:
        from server.shops.sessions import SessionStore

        return SessionStore


class AccessKey(models.Model):
    """A way in for another program in somebody's name: for reading, for recording, for a calendar.

    Only a digest is kept. It may never more than the person, and nothing that is an owner's.
    """

    class Scope(models.TextChoices):
        READ = "read"
        WRITE = "write"
        CALENDAR = "calendar"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="keys")
    name = models.CharField(max_length=100)
    scope = models.CharField(max_length=10, choices=Scope.choices)
    digest = models.CharField(max_length=64, unique=True)
    made = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()
    used = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-made"]

    def __str__(self) -> str:
        return f"{self.name} ({self.scope})"


class AccountEvent(models.Model):
    """One thing that happened to somebody's account. Never changed."""

    class Kind(models.TextChoices):
        CAME_IN = "came-in"
        INVITED = "invited"
        LINK_MADE = "link-made"
        LINK_USED = "link-used"
        PASSWORD = "password-changed"
        FACTOR_ADDED = "factor-added"
        FACTOR_TAKEN = "factor-taken"
        KEY_MADE = "key-made"
        KEY_TAKEN = "key-taken"
        ROLE = "role-changed"
        EXPORTED = "exported"
        ERASED = "erased"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="+")
    kind = models.CharField(max_length=20, choices=Kind.choices)
    whom = models.ForeignKey(User, on_delete=models.CASCADE, related_name="happened")
    by = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    address = models.CharField(max_length=64)
    told = models.CharField(max_length=200, blank=True, default="")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-at"]
        indexes = [
            models.Index(fields=["shop", "-at"], name="account_log_of_a_shop"),
            models.Index(fields=["whom", "kind", "address"], name="account_log_of_a_person"),
        ]

    def __str__(self) -> str:
        return f"{self.kind} {self.at:%Y-%m-%d}"


class HouseRules(models.Model):
    """One version of a shop's house rules, as the contract's `house_rules` spells them.

    Never changed: a change is a new version. An inspection carries the version that it was opened
    under.
    """

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="rules")
    version = models.PositiveIntegerField()
    rules = models.JSONField()
    by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "version"], name="each_version_of_rules_once")
        ]

    def __str__(self) -> str:
        return f"version {self.version}"


class ShopQuerySet(models.QuerySet[M]):
    """The one place that knows who may see a row: people see their own shop's, nothing else."""

    def visible_to(self, user: User) -> Self:
        return self.filter(shop_id=user.shop_id)
