"""Taking a photo in: decoded, turned upright, stripped of all that is not the picture, bounded."""

from __future__ import annotations

import hashlib
import io
import warnings
from contextlib import suppress

from django.core.files.base import ContentFile, File
from PIL import Image, ImageOps, UnidentifiedImageError
from pillow_heif import register_heif_opener
from rest_framework import exceptions, status

from core.errors import CoreError
from server.photos.models import Photo, place
from server.shops.models import Shop, User

MOST_BYTES = 15_000_000
MOST_PIXELS = 60_000_000
LONGEST_SIDE = 1600
QUALITY = 82
FORMATS = ("JPEG", "PNG", "WEBP", "HEIF")  # Telephones write the last (".heic").
register_heif_opener()


class StorageFull(exceptions.APIException):
    """The server could not write a file; nothing was wrong with what was sent."""

    status_code = status.HTTP_507_INSUFFICIENT_STORAGE
    default_code = "storage-full"
    default_detail = "The server has no room for photos. Yours is kept and sent again."


class StorageAway(exceptions.APIException):
    """Photos cannot be read now."""

    status_code = status.HTTP_503_SERVICE_UNAVAILABLE
    default_code = "storage-away"
    default_detail = "Where photos are kept does not answer. They are not lost."


class PhotoRefused(CoreError):
    """A file that is no picture that can be kept."""


def keep(*, shop: Shop, by: User, data: bytes) -> Photo:
    """Keep a photo once; the same picture again is the one that is there.

    Raises
    ------
    PhotoRefused
        If it is too large, or no JPEG, PNG, WebP or HEIC that can be read to its end.
    """
    made, size = reencoded(data)
    sha256 = hashlib.sha256(made).hexdigest()
    known = Photo.objects.filter(shop=shop, sha256=sha256).first()
    if known:
        return known
    photo = Photo(shop=shop, sha256=sha256, width=size[0], height=size[1], by=by)
    _write(photo, made)
    photo.save()
    return photo


def opened(photo: Photo) -> File[bytes]:
    """A photo's file, to be read.

    Raises
    ------
    FileNotFoundError
        If it is lost.
    StorageAway
        If where it is kept does not answer.
    """
    try:
        return photo.file.open("rb")
    except FileNotFoundError:
        raise
    except OSError as error:
        raise StorageAway from error


def _write(photo: Photo, made: bytes) -> None:
    """Write the file whole or not at all; a full disk leaves nothing behind and is said so."""
    name = place(photo, "")
    storage = photo.file.storage
    try:
        photo.file.save("photo.jpg", ContentFile(made), save=False)
    except OSError as error:
        with suppress(OSError):
            storage.delete(name)
        raise StorageFull from error


def reencoded(data: bytes) -> tuple[bytes, tuple[int, int]]:
    """The picture alone as a JPEG, its longest side bounded: no place, no time, no camera."""
    if len(data) > MOST_BYTES:
        megabytes = f"{len(data) / 1e6:.0f} MB"
        raise PhotoRefused("too-large", "/", megabytes, f"at most {MOST_BYTES / 1e6:.0f} MB")
    upright = decoded(data)
    upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE), Image.Resampling.LANCZOS)
    plain = Image.new("RGB", upright.size, "white")
    plain.paste(upright, mask=upright.getchannel("A") if "A" in upright.mode else None)
    target = io.BytesIO()
    plain.save(target, "JPEG", quality=QUALITY, optimize=True)
    return target.getvalue(), plain.size


def decoded(data: bytes) -> Image.Image:
    """A picture read to its end and turned upright.

    Raises
    ------
    PhotoRefused
        If it has too many pixels, or is no JPEG, PNG, WebP or HEIC that can be read to its end.
    """
    try:
        with warnings.catch_warnings(), Image.open(io.BytesIO(data), formats=FORMATS) as opened:
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            if opened.width * opened.height > MOST_PIXELS:
                pixels = f"{opened.width} x {opened.height}"
                raise PhotoRefused("too-large", "/", pixels, "at most 60 million pixels")
            return ImageOps.exif_transpose(opened)
    except PhotoRefused:
        raise
    except (Image.DecompressionBombError, Image.DecompressionBombWarning):
        raise PhotoRefused("too-large", "/", None, "at most 60 million pixels") from None
    except Exception as error:  # Whatever is wrong with a file, it is the file that is refused.
        expected = "a JPEG, PNG, WebP or HEIC picture, whole"
        # What the library says of a stream names its place in memory.
        said = "" if isinstance(error, UnidentifiedImageError) else str(error)[:80]
        raise PhotoRefused("not-a-picture", "/", said, expected) from None
