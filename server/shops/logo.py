"""A shop's picture for its reports: only what was drawn is kept, made anew as PNG."""

from __future__ import annotations

import io

from PIL import Image

from server.api.parsers import Bytes
from server.photos.services import PhotoRefused, decoded

MOST_BYTES = 2_000_000
LARGEST = (600, 240)


class Picture(Bytes):
    """A logo's file."""

    most = MOST_BYTES


def made_safe(data: bytes) -> bytes:
    """The picture as a PNG of bounded size, with nothing else that the file held.

    Raises
    ------
    PhotoRefused
        If it is too large, or no picture that can be read to its end.
    """
    if not isinstance(data, bytes) or len(data) > MOST_BYTES:
        raise PhotoRefused(
            "too-large", "/", None, f"a picture of at most {MOST_BYTES / 1e6:.0f} MB"
        )
    picture = decoded(data)
    picture.thumbnail(LARGEST, Image.Resampling.LANCZOS)
    plain = Image.new("RGBA", picture.size)
    plain.paste(picture.convert("RGBA"))
    target = io.BytesIO()
    plain.save(target, "PNG", optimize=True)
    return target.getvalue()
