"""What an archive of a shop holds, in the order in which it can be read back."""

from __future__ import annotations

from dataclasses import dataclass, field

from django.db.models import Model

from server.clients.models import Client
from server.engines.models import Engine
from server.inspections.models import Inspection, Observation
from server.photos.models import Photo
from server.reports.models import ReportLink, Signing
from server.shops.models import AccountEvent, HouseRules, Shop, User
from server.training.models import Attempt, OwnCase, PlugReading, TrainingClass

VERSION = 1
SUMS = "SHA256SUMS"
README = f"""Archive of one shop, version {VERSION}.

rows/NAME.jsonl       every row the shop has, one JSON object a line: model, pk, fields. Times are
                      ISO 8601 in UTC; what points to another row holds its pk. People stand
                      without passwords and second factors, links without their secrets.
inspections/ID.json   each inspection as the document that any Fiacre can import.
signed/DIGEST.json    each signed file, as it was signed.
photos/SHA256.jpg     each photo.
cylinders.csv, readings.csv, record.csv
                      the same as tables: a row a cylinder, a row a reading, and what was claimed
                      against what was found.
{SUMS}            SHA-256 of every file above: sha256sum -c {SUMS}

manage.py import_shop FILE reads it into a server that has no shop yet; an archive written from
there is the same, byte for byte.
"""


@dataclass(frozen=True)
class Rows:
    """The rows of one model that belong to a shop."""

    model: type[Model]
    shop: str  # The way from a row to its shop.
    without: frozenset[str] = field(default_factory=frozenset)
    newer: bool = False  # Archives from before it was kept have no file of it.

    @property
    def name(self) -> str:
        return f"rows/{self.model._meta.model_name}.jsonl"

    @property
    def fields(self) -> list[str]:
        return [f.name for f in self.model._meta.concrete_fields if f.name not in self.without]


EVERYTHING = (
    Rows(Shop, "pk"),
    Rows(User, "shop", frozenset({"password", "last_login"})),
    Rows(AccountEvent, "shop", newer=True),
    Rows(HouseRules, "shop"),
    Rows(Client, "shop"),
    Rows(Engine, "shop"),
    Rows(Inspection, "shop"),
    Rows(Observation, "inspection__shop"),
    Rows(Signing, "inspection__shop"),
    Rows(ReportLink, "inspection__shop"),
    Rows(Photo, "shop"),
    Rows(TrainingClass, "shop"),
    Rows(OwnCase, "shop"),
    Rows(Attempt, "person__shop"),
    Rows(PlugReading, "person__shop"),
)
