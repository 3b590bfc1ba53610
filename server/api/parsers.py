"""Bodies that are handed on as they came: what reads them stands behind the view."""

from __future__ import annotations

from typing import Any, ClassVar

from django.http.request import RawPostDataException
from rest_framework import exceptions
from rest_framework.parsers import BaseParser, JSONParser
from rest_framework.request import Request


class Json(JSONParser):
    """JSON that is nested no deeper than a document can be."""

    def parse(self, stream: Any, media_type: Any = None, parser_context: Any = None) -> Any:
        plainly = {**(parser_context or {}), "encoding": "utf-8"}  # RFC 8259, whatever is said.
        try:
            return super().parse(stream, media_type, plainly)
        except RecursionError:
            raise exceptions.ParseError("This is nested too deep to be anything of ours.") from None


class Bytes(BaseParser):
    """The body's bytes, whatever they call themselves; one more than `most` tells of too many."""

    media_type = "*/*"
    most: ClassVar[int]

    def parse(self, stream: Any, media_type: Any = None, parser_context: Any = None) -> Any:
        try:
            return stream.read(self.most + 1)
        except RawPostDataException:  # It was read as the form that it calls itself.
            raise exceptions.UnsupportedMediaType(media_type or "a form") from None


def sent(request: Request) -> bytes:
    """The bytes of a body; an empty body never reaches a parser."""
    return request.data if isinstance(request.data, bytes) else b""
