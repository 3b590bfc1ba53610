"""An archive read into a server that has no shop yet: all of it, or nothing."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from collections.abc import Iterable, Iterator
from contextlib import suppress
from typing import IO, Any

from django.contrib.auth.hashers import make_password
from django.core import serializers
from django.core.exceptions import ValidationError
from django.core.files.base import ContentFile
from django.core.management.color import no_style
from django.core.serializers.base import DeserializationError
from django.db import DatabaseError, connection, transaction

from core.document import check_document
from core.document.log import replay
from core.document.signing import digest
from core.errors import CoreError
from server.archive.contents import EVERYTHING, SUMS, Rows
from server.inspections.models import Inspection
from server.photos.models import Photo
from server.reports.models import Signing
from server.shops.models import Shop, User

CHUNK = 200


class ArchiveRefused(Exception):
    """A file that is no whole archive, or a server that is not empty."""


def read(file: IO[bytes]) -> Shop:
    """The shop that an archive holds. Its people have no passwords: an owner needs a link.

    Raises
    ------
    ArchiveRefused
        With what is wrong; nothing was kept then.
    """
    if Shop.objects.exists():
        raise ArchiveRefused("this server has a shop already; an archive goes into an empty one")
    try:
        packed = zipfile.ZipFile(file)
    except zipfile.BadZipFile:
        raise ArchiveRefused("this is no ZIP file") from None
    _check(packed)
    kept: list[Photo] = []
    try:
        with transaction.atomic():
            names = packed.namelist()
            for rows in (one for one in EVERYTHING if one.name in names or not one.newer):
                with packed.open(rows.name) as raw:
                    _take(rows, io.TextIOWrapper(raw, "utf-8"))
            _belongs_together()
            _count_on()
            for photo in Photo.objects.all():
                _keep(photo, packed, kept)
            return Shop.objects.get()
    except Exception:
        for photo in kept:
            with suppress(OSError):
                photo.file.storage.delete(str(photo.file.name))
        raise


def _take(rows: Rows, lines: Iterable[str]) -> None:
    """Keep the rows of one file: of its own table alone, with its own fields and no other.

    What an older version did not have yet may be missing, where it may be empty.
    """
    label = rows.model._meta.label_lower
    wanted = {name for name in rows.fields if name != rows.model._meta.pk.name}
    may_miss = {name for name in wanted if rows.model._meta.get_field(name).null}
    for number, line in enumerate(lines, start=1):
        place = f"{rows.name}, row {number}"
        try:
            row = json.loads(line)
            fields = set(row["fields"])
        except (ValueError, KeyError, TypeError):
            raise ArchiveRefused(f"{place}: this is no row") from None
        if row.get("model") != label or not wanted - may_miss <= fields <= wanted:
            raise ArchiveRefused(f"{place}: this is no row of {label}, or has other fields")
        try:
            made = next(iter(serializers.deserialize("python", [row])))
            if isinstance(made.object, User):
                made.object.password = make_password(None)
            made.save(force_insert=True)
        except (DeserializationError, DatabaseError, ValidationError, ValueError) as error:
            raise ArchiveRefused(f"{place}: {str(error).splitlines()[0]}") from None


def _belongs_together() -> None:
    """Every row is the one shop's; every log folds to its document; what is signed is as signed."""
    shops = list(Shop.objects.all())
    if len(shops) != 1:
        raise ArchiveRefused(f"rows/shop.jsonl: it holds {len(shops)} shops, and not one")
    for rows in EVERYTHING:
        strays = rows.model._default_manager.exclude(**{rows.shop: shops[0].pk})
        if strays.exists():
            raise ArchiveRefused(f"{rows.name}: {strays.first().pk} is not of this shop")  # type: ignore[union-attr]
    for inspection in Inspection.objects.order_by("pk").iterator(chunk_size=CHUNK):
        why = _unfit(inspection)
        if why:
            raise ArchiveRefused(f"rows/inspection.jsonl: {inspection.pk}: {why}")
    for signing in Signing.objects.order_by("pk").iterator(chunk_size=CHUNK):
        if digest(signing.content) != signing.digest:
            raise ArchiveRefused(f"rows/signing.jsonl: {signing.pk}: it is not what was signed")


def _unfit(inspection: Inspection) -> str:
    """Why an inspection's log cannot be gone on with; nothing where it can."""
    rows = list(inspection.observations.order_by("sequence"))
    if [row.sequence for row in rows] != list(range(1, len(rows) + 1)):
        return "its log has gaps"
    if inspection.sequence != len(rows):
        return f"it counts {inspection.sequence} entries, its log {len(rows)}"
    counted = [(row.path, row.value) for row in rows if not row.held and not row.keeps]
    try:
        document = check_document(replay(counted)[0])
    except CoreError as error:
        return f"its log is no record: {error}"
    return "" if document == inspection.document else "its log folds to another document"


def _check(packed: zipfile.ZipFile) -> None:
    names = set(packed.namelist())
    if SUMS not in names:
        raise ArchiveRefused(f"it holds no {SUMS}: it was cut off, or is no archive of a shop")
    told = dict(_told(packed.read(SUMS).decode()))
    for name, wanted in told.items():
        if name not in names or _sum(packed, name) != wanted:
            raise ArchiveRefused(f"{name} is not what it was when the archive was written")
    missing = [rows.name for rows in EVERYTHING if rows.name not in told and not rows.newer]
    if missing:
        raise ArchiveRefused(f"{missing[0]} is missing")


def _told(sums: str) -> Iterator[tuple[str, str]]:
    for line in sums.splitlines():
        digest, name = line.split("  ", 1)
        yield name, digest


def _sum(packed: zipfile.ZipFile, name: str) -> str:
    with packed.open(name) as raw:
        return hashlib.file_digest(raw, "sha256").hexdigest()  # type: ignore[arg-type]


def _count_on() -> None:
    """Numbers that the database gives go on after those that came with the archive."""
    models: list[Any] = [rows.model for rows in EVERYTHING]
    with connection.cursor() as cursor:
        for statement in connection.ops.sequence_reset_sql(no_style(), models):
            cursor.execute(statement)


def _keep(photo: Photo, packed: zipfile.ZipFile, kept: list[Photo]) -> None:
    name = f"photos/{photo.sha256}.jpg"
    if name not in packed.namelist():
        return  # Lost before the archive was written; the inspection still says that it was there.
    photo.file.storage.save(photo.file.name, ContentFile(packed.read(name)))
    kept.append(photo)
