"""Bodies that are handed on as they came: what reads them stands behind the view."""

from __future__ import annotations

from typing import Any, ClassVar

from rest_framework import exceptions
from rest_framework.parsers import BaseParser, JSONParser
from rest_framework.request import Request


class Json(JSONParser):
    """JSON that is nested no deeper than a document can be."""

    def parse(self, stream: Any, media_type: Any = None, parser_context: Any = None) -> Any:
        try:
            return super().parse(stream, media_type, parser_context)
        except RecursionError:
            raise exceptions.ParseError("This is nested too deep to be anything of ours.") from None


class Bytes(BaseParser):
    """The body's bytes, whatever they call themselves; one more than `most` tells of too many."""

    media_type = "*/*"
    most: ClassVar[int]

    def parse(self, stream: Any, media_type: Any = None, parser_context: Any = None) -> Any:
        return stream.read(self.most + 1)


def sent(request: Request) -> bytes:
    """The bytes of a body; an empty body never reaches a parser."""
    return request.data if isinstance(request.data, bytes) else b""
