"""A shop's archive, of one moment: no part of it is held whole in memory, however large the shop.

People write while it is written. Rows, log and documents are all read from one snapshot of the
database, so that an inspection's log folds to the document beside it. That snapshot lasts no longer
than the reading does: who takes the file slowly takes it from a file.
"""

from __future__ import annotations

import csv
import hashlib
import io
import tempfile
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from typing import IO, Any

from django.core import serializers
from django.core.serializers.json import DjangoJSONEncoder
from django.db import DEFAULT_DB_ALIAS, connections, transaction
from django.db.models import QuerySet

from core.document import write_document
from server.archive.contents import EVERYTHING, README, SUMS, Rows
from server.inspections.models import Inspection
from server.learning.record import record_rows
from server.photos.models import Photo
from server.photos.services import opened
from server.reports.exports import Table, cylinder_rows, reading_rows, signed_file
from server.reports.models import Signing
from server.shops.models import Shop

STAMP = (1980, 1, 1, 0, 0, 0)  # The same rows make the same bytes, whenever they are written.
CHUNK = 200
LOST = b"The storage lost this photo.\n"


class Exactly(DjangoJSONEncoder):
    """Times to the microsecond."""

    def default(self, o: Any) -> Any:
        return o.isoformat() if isinstance(o, datetime) else super().default(o)


@contextmanager
def one_moment() -> Iterator[None]:
    """Read the first database as it is now, whatever is written meanwhile.

    Within a transaction that began already it reads what that reads.
    """
    connection = connections[DEFAULT_DB_ALIAS]
    if connection.in_atomic_block:
        yield
        return
    with transaction.atomic():
        with connection.cursor() as cursor:
            cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY")
        yield


def whole(shop: Shop) -> IO[bytes]:
    """A shop's archive in a file that is gone once it is closed; read from its beginning."""
    file = tempfile.TemporaryFile()  # noqa: SIM115 - whoever asked for it closes it
    try:
        with one_moment():
            for piece in Archive(shop).stream():
                file.write(piece)
    except BaseException:
        file.close()
        raise
    file.seek(0)
    return file


class _Outlet(io.RawIOBase):
    """Where the ZIP is written to: what came in is handed on and forgotten."""

    def __init__(self) -> None:
        self.parts: list[bytes] = []

    def writable(self) -> bool:
        return True

    def write(self, data: Any) -> int:
        self.parts.append(bytes(data))
        return len(data)

    def taken(self) -> bytes:
        whole = b"".join(self.parts)
        self.parts.clear()
        return whole


class Archive:
    """Writes the files of one shop's archive, and their sums last."""

    def __init__(self, shop: Shop) -> None:
        self.shop = shop
        self.outlet = _Outlet()
        self.sums: list[str] = []

    def stream(self) -> Iterator[bytes]:
        """The bytes of the ZIP, as they are made."""
        with zipfile.ZipFile(self.outlet, "w", zipfile.ZIP_DEFLATED) as self.packed:
            for _ in self._files():
                yield self.outlet.taken()
            self._write(SUMS, "".join(sorted(self.sums, key=_by_name)).encode())
        yield self.outlet.taken()

    def _files(self) -> Iterator[str]:
        """Write one file after the other, naming each once it is written."""
        yield self._write("README.txt", README.encode())
        for rows in EVERYTHING:
            yield self._rows(rows)
        inspections = Inspection.objects.filter(shop=self.shop).order_by("pk")
        for one in inspections.only("document").iterator(chunk_size=CHUNK):
            yield self._write(f"inspections/{one.pk}.json", write_document(one.document))
        signings = Signing.objects.filter(inspection__shop=self.shop).order_by("digest")
        for signing in signings.distinct("digest"):
            yield self._write(f"signed/{signing.digest}.json", signed_file(signing.content))
        for photo in Photo.objects.filter(shop=self.shop).order_by("sha256"):
            yield self._photo(photo)
        yield self._table("cylinders.csv", _over_all(inspections, cylinder_rows))
        yield self._table("readings.csv", _over_all(inspections, reading_rows))
        known = inspections.filter(has_outcome=True)
        yield self._table("record.csv", record_rows(known.iterator(chunk_size=CHUNK)))

    def _rows(self, rows: Rows) -> str:
        found = rows.model._default_manager.filter(**{rows.shop: self.shop.pk}).order_by("pk")
        with self._file(rows.name) as raw, io.TextIOWrapper(raw, "utf-8", newline="") as text:
            serializers.serialize(
                "jsonl",
                found.iterator(chunk_size=CHUNK),
                stream=text,
                fields=rows.fields,
                cls=Exactly,
            )
        return rows.name

    def _photo(self, photo: Photo) -> str:
        try:
            with opened(photo) as kept:
                return self._write(f"photos/{photo.sha256}.jpg", kept.read())
        except FileNotFoundError:
            return self._write(f"photos/{photo.sha256}.missing.txt", LOST)

    def _table(self, name: str, rows: Iterator[list[Any]]) -> str:
        with self._file(name) as raw, io.TextIOWrapper(raw, "utf-8", newline="") as text:
            csv.writer(text).writerows(rows)
        return name

    def _write(self, name: str, data: bytes) -> str:
        with self._file(name) as raw:
            raw.write(data)
        return name

    @contextmanager
    def _file(self, name: str) -> Iterator[IO[bytes]]:
        entry = zipfile.ZipInfo(name, STAMP)
        entry.compress_type = zipfile.ZIP_DEFLATED
        entry.external_attr = 0o644 << 16
        with self.packed.open(entry, "w", force_zip64=True) as raw:
            summed = _Summed(raw)
            yield summed  # type: ignore[misc]
        self.sums.append(f"{summed.digest.hexdigest()}  {name}\n")


class _Summed(io.RawIOBase):
    """Hands bytes on and keeps their sum; closing it leaves the entry to the archive."""

    def __init__(self, raw: IO[bytes]) -> None:
        self.raw = raw
        self.digest = hashlib.sha256()

    def writable(self) -> bool:
        return True

    def write(self, data: Any) -> int:
        self.digest.update(data)
        return self.raw.write(data)


def _by_name(line: str) -> str:
    return line.split("  ", 1)[1]


def _over_all(rows: QuerySet[Inspection], table: Table) -> Iterator[list[Any]]:
    """One table over many inspections, each row led by its inspection."""
    for index, one in enumerate(rows.iterator(chunk_size=CHUNK)):
        heading, *own = table(one.document, one.assessment)
        if index == 0:
            yield ["inspection", *heading]
        yield from ([one.pk, *row] for row in own)
