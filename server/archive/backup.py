"""A backup of the whole server in one file: the database as PostgreSQL dumps it, and the storage.

The database comes first and the files after it: files are never changed, so each that a row in the
dump tells of is there when it is copied.
"""

from __future__ import annotations

import io
import os
import shutil
import subprocess
import tarfile
import tempfile
import time
from pathlib import Path
from typing import Any

from django.core.files.base import File
from django.core.files.storage import default_storage
from django.core.management import call_command
from django.db import connection

from server.photos.models import Photo

DUMP = "database.dump"
MEDIA = "media/"
EMPTIED = "DROP SCHEMA public CASCADE; CREATE SCHEMA public"


class BackupFailed(Exception):
    """What PostgreSQL's own tools or the disk said."""


def write(file: Path) -> None:
    """Write a backup; a half-written one never stands under its name.

    Raises
    ------
    BackupFailed
        If the database cannot be dumped.
    """
    partial = file.with_name(f"{file.name}.partial")
    with tempfile.TemporaryDirectory() as folder:
        dump = Path(folder) / DUMP
        _run("pg_dump", "--format=custom", "--no-owner", f"--file={dump}")
        # It holds every secret of the house: nobody else on the machine reads it, from the start.
        partial.unlink(missing_ok=True)
        with (
            os.fdopen(os.open(partial, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600), "wb") as kept,
            tarfile.open(fileobj=kept, mode="w:gz", compresslevel=1) as packed,
        ):
            packed.add(dump, DUMP)
            for photo in Photo.objects.order_by("pk").iterator(chunk_size=200):
                _pack(packed, str(photo.file.name))
    partial.replace(file)


def _pack(packed: tarfile.TarFile, name: str) -> None:
    try:
        with default_storage.open(name) as kept:
            data = kept.read()
    except FileNotFoundError:
        return  # Lost before; what is shown of it says so.
    entry = tarfile.TarInfo(MEDIA + name)
    entry.size, entry.mtime, entry.mode = len(data), int(time.time()), 0o600
    packed.addfile(entry, io.BytesIO(data))


def restore(file: Path) -> int:
    """Put the database and the storage back as they were; returns how many files came back.

    Everything that the database holds is replaced, in one transaction; what an older version wrote
    is brought up to date after it.

    Raises
    ------
    BackupFailed
        If the file is no whole backup, or PostgreSQL refuses it; the database is as before then.
    """
    try:
        with tarfile.open(file, "r:gz") as packed, tempfile.TemporaryDirectory() as folder:
            # By hand: `extract` has no filter in the Python 3.11 of Debian 12.
            dump = packed.extractfile(DUMP)
            if dump is None:
                raise KeyError(DUMP)
            with (Path(folder) / DUMP).open("wb") as target:
                shutil.copyfileobj(dump, target)
            names = packed.getnames()  # Reads to the end: a file that was cut off stops here.
            script = Path(folder) / "restore.sql"
            _run("pg_restore", "--no-owner", f"--file={script}", str(Path(folder) / DUMP))
            # Whatever stands there goes, tables of a newer Fiacre too, in the same transaction.
            _run(
                "psql", "--quiet", "--no-psqlrc", "--single-transaction", "--set=ON_ERROR_STOP=1",
                "--output=/dev/null", f"--command={EMPTIED}", f"--file={script}",
            )  # fmt: skip
            media = [name for name in names if name.startswith(MEDIA)]
            for name in media:
                _unpack(packed, name)
    except (tarfile.TarError, EOFError, KeyError, OSError) as error:
        raise BackupFailed(f"{file} is no whole backup: {error}") from None
    connection.close()
    call_command("migrate", verbosity=0, interactive=False)  # It may be of an older version.
    return len(media)


def _unpack(packed: tarfile.TarFile, name: str) -> None:
    kept = packed.extractfile(name)
    own = name.removeprefix(MEDIA)
    if kept is not None and not default_storage.exists(own):
        default_storage.save(own, File(kept))


def _name() -> str:
    return str(connection.settings_dict["NAME"])


def _run(program: str, *arguments: str) -> None:
    settings: dict[str, Any] = connection.settings_dict
    environment = {
        **os.environ,
        "PGHOST": str(settings["HOST"]),
        "PGPORT": str(settings["PORT"]),
        "PGUSER": str(settings["USER"]),
        "PGPASSWORD": str(settings["PASSWORD"]),
        "PGDATABASE": _name(),
    }
    done = subprocess.run(
        [_program(program), *arguments], env=environment, capture_output=True, text=True
    )
    if done.returncode:
        raise BackupFailed("\n".join(done.stderr.strip().splitlines()[-4:]))


def _program(name: str) -> str:
    """PostgreSQL's own tool: the newest that is installed, for it reads what older ones wrote."""
    found = sorted(
        Path("/usr/lib/postgresql").glob(f"*/bin/{name}"), key=lambda path: int(path.parts[4])
    )
    known = str(found[-1]) if found else shutil.which(name)
    if known is None:
        raise BackupFailed(f"{name} is not installed (Debian: postgresql-client)")
    return known
