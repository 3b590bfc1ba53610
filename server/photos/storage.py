"""Files in a bucket of an object store instead of a folder, for several machines."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from botocore.exceptions import BotoCoreError, ClientError
from storages.backends.s3 import S3Storage


@contextmanager
def _as_a_disk_would() -> Iterator[None]:
    """What the store says it cannot do, as an OSError: whoever minds a full disk minds that too."""
    try:
        yield
    except (BotoCoreError, ClientError) as error:
        raise OSError(f"the object store: {error}") from error


class Bucket(S3Storage):  # type: ignore[misc]
    """An object store spoken to over the S3 protocol."""

    def _open(self, name: str, mode: str = "rb") -> Any:
        with _as_a_disk_would():
            return super()._open(name, mode)

    def _save(self, name: str, content: Any) -> Any:
        with _as_a_disk_would():
            return super()._save(name, content)

    def exists(self, name: str) -> Any:
        """Whether a file of that name is there."""
        with _as_a_disk_would():
            return super().exists(name)

    def delete(self, name: str) -> None:
        """Take a file away; one that is not there is no error."""
        with _as_a_disk_would():
            super().delete(name)
