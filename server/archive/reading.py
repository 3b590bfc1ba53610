"""An archive read into a server that has no shop yet: all of it, or nothing."""

from __future__ import annotations

import hashlib
import io
import zipfile
from collections.abc import Iterator
from contextlib import suppress
from typing import IO, Any

from django.contrib.auth.hashers import make_password
from django.core import serializers
from django.core.files.base import ContentFile
from django.core.management.color import no_style
from django.db import connection, transaction

from server.archive.contents import EVERYTHING, SUMS
from server.photos.models import Photo
from server.shops.models import Shop, User


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
            for rows in EVERYTHING:
                with packed.open(rows.name) as raw:
                    for made in serializers.deserialize("jsonl", io.TextIOWrapper(raw, "utf-8")):
                        if isinstance(made.object, User):
                            made.object.password = make_password(None)
                        made.save()
            _count_on()
            for photo in Photo.objects.all():
                _keep(photo, packed, kept)
            return Shop.objects.get()
    except Exception:
        for photo in kept:
            with suppress(OSError):
                photo.file.storage.delete(str(photo.file.name))
        raise


def _check(packed: zipfile.ZipFile) -> None:
    names = set(packed.namelist())
    if SUMS not in names:
        raise ArchiveRefused(f"it holds no {SUMS}: it was cut off, or is no archive of a shop")
    told = dict(_told(packed.read(SUMS).decode()))
    for name, wanted in told.items():
        if name not in names or _sum(packed, name) != wanted:
            raise ArchiveRefused(f"{name} is not what it was when the archive was written")
    missing = [rows.name for rows in EVERYTHING if rows.name not in told]
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
