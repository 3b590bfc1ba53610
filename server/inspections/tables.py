"""Reading a table of cells for an inspection: what it would record, for a person to confirm."""

from __future__ import annotations

import csv
import io
import zipfile
from datetime import datetime
from typing import Any

from django.db.models.functions import Lower
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from openpyxl import load_workbook
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from core.errors import CoreError
from core.narration.past import MOST_ROWS as MOST_OF_HISTORIES
from core.narration.past import histories
from core.narration.table import MOST_COLUMNS, MOST_ROWS, known_columns, understand
from server.api.parsers import Bytes, sent
from server.api.views import ShopView
from server.engines.models import Engine
from server.inspections.models import Inspection

MOST_UNPACKED = 20_000_000
MOST_STYLES = 1_000_000  # Bytes; a large workbook of a shop has some ten thousand.
DELIMITERS = "\t;,|"


class TableBytes(Bytes):
    """A spreadsheet's file, or cells as they were pasted."""

    most = 2_000_000


class ColumnSerializer(serializers.Serializer[Any]):
    head = serializers.CharField(allow_blank=True)
    sample = serializers.CharField(allow_blank=True)
    holds = serializers.CharField(allow_blank=True)
    unit = serializers.CharField(allow_blank=True)


class CellEntrySerializer(serializers.Serializer[Any]):
    path = serializers.CharField()
    value = serializers.JSONField()
    cylinder = serializers.IntegerField()
    cell = serializers.CharField(allow_blank=True)


class CellRefusedSerializer(serializers.Serializer[Any]):
    row = serializers.IntegerField()
    column = serializers.IntegerField()
    cell = serializers.CharField(allow_blank=True)
    why = serializers.CharField()


class HoldsSerializer(serializers.Serializer[Any]):
    id = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]


class CellsSerializer(serializers.Serializer[Any]):
    """A table as it is understood, and what a column can hold."""

    columns = ColumnSerializer(many=True)
    entries = CellEntrySerializer(many=True)
    refused = CellRefusedSerializer(many=True)
    turned = serializers.BooleanField(help_text="its cylinders stood side by side")
    can_hold = HoldsSerializer(many=True)


OF_EACH_COLUMN = [
    OpenApiParameter(name, OpenApiTypes.STR, many=True, description="of each column")
    for name in ("holds", "unit")
]


def taken_for(request: Request) -> tuple[list[str], list[str]]:
    """What each column is said to hold, and its unit; empty where the guess is to stand."""
    asked = request.query_params
    return asked.getlist("holds")[:MOST_COLUMNS], asked.getlist("unit")[:MOST_COLUMNS]


class CellsView(ShopView):
    """Understand a table: CSV of any common dialect, cells as pasted, XLSX; nothing is recorded."""

    parser_classes = [TableBytes]

    @extend_schema(
        operation_id="read_table",
        parameters=OF_EACH_COLUMN,
        request={"application/octet-stream": OpenApiTypes.BINARY},
        responses=CellsSerializer,
    )
    def post(self, request: Request, inspection_id: str) -> Response:
        inspection = get_object_or_404(Inspection.objects.visible_to(self.user), pk=inspection_id)
        holds, units = taken_for(request)
        table = understand(cells(sent(request)), inspection.document, holds, units)
        body = {
            "columns": table.columns,
            "entries": table.entries,
            "refused": table.refused,
            "turned": table.turned,
            "can_hold": list(known_columns().values()),
        }
        return Response(CellsSerializer(body).data)


class PastSerializer(serializers.Serializer[Any]):
    """One inspection that a table tells of; its document is what `import` takes."""

    engine = serializers.CharField()
    date = serializers.DateField()
    known = serializers.BooleanField(help_text="whether the shop has the engine")
    entries = serializers.IntegerField()
    document = serializers.JSONField()


class HistoriesSerializer(serializers.Serializer[Any]):
    """A table of several inspections as it is understood."""

    columns = ColumnSerializer(many=True)
    inspections = PastSerializer(many=True)
    refused = CellRefusedSerializer(many=True)
    can_hold = HoldsSerializer(many=True)


class HistoriesView(ShopView):
    """Understand a table of several engines' inspections; nothing is recorded."""

    parser_classes = [TableBytes]

    @extend_schema(
        operation_id="read_histories",
        parameters=OF_EACH_COLUMN,
        request={"application/octet-stream": OpenApiTypes.BINARY},
        responses=HistoriesSerializer,
    )
    def post(self, request: Request) -> Response:
        holds, units = taken_for(request)
        rows = cells(sent(request), MOST_OF_HISTORIES + 1)
        named = {cell.strip().lower() for row in rows for cell in row}
        engines = Engine.objects.visible_to(self.user).annotate(mark=Lower("identifier"))
        named_so = engines.filter(mark__in=named).exclude(mark="")
        known = dict(named_so.values_list("mark", "data"))
        told = histories(rows, known, holds, units)
        body = {
            "columns": told.columns,
            "inspections": told.inspections,
            "refused": told.refused,
            "can_hold": list(known_columns(visits=True).values()),
        }
        return Response(HistoriesSerializer(body).data)


def cells(data: bytes, most: int = MOST_ROWS) -> list[list[str]]:
    """The cells of a file: of the first sheet, as text.

    Raises
    ------
    CoreError
        Where it is larger than any round at an engine, or no table.
    """
    if len(data) > TableBytes.most:
        raise _refused("at most 2 MB")
    if data.startswith(b"PK"):
        return _of_workbook(data, most)
    text = _decoded(data)
    if "\x00" in text:
        raise _refused("a table: CSV, cells as pasted, or XLSX")
    try:
        dialect: Any = csv.Sniffer().sniff(text[:5000], DELIMITERS)
    except csv.Error:
        dialect = csv.excel_tab if "\t" in text else csv.excel
    try:
        rows = csv.reader(io.StringIO(text, newline=""), dialect)
        return [row for _, row in zip(range(most), rows, strict=False)]
    except csv.Error as wrong:
        raise _refused(f"a table: {wrong}") from None


def _decoded(data: bytes) -> str:
    for encoding in ("utf-8-sig", "utf-16" if data[:2] in (b"\xff\xfe", b"\xfe\xff") else "cp1252"):
        try:
            return data.decode(encoding)
        except UnicodeDecodeError:
            continue
    return data.decode("latin-1")


def _of_workbook(data: bytes, most: int) -> list[list[str]]:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if sum(one.file_size for one in packed.infolist()) > MOST_UNPACKED:
                raise _refused("a workbook that unpacks to 20 MB at most")
            if any(one.file_size > MOST_STYLES for one in packed.infolist() if _is_style(one)):
                raise _refused("a workbook with fewer styles")
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        sheet = book.worksheets[0]
        rows = sheet.iter_rows(max_row=most, max_col=MOST_COLUMNS, values_only=True)
        return [[_text(cell) for cell in row] for row in rows]
    except CoreError:
        raise
    except Exception:  # Whatever is wrong with a file, it is the file that is refused.
        raise _refused("a workbook that can be read (XLSX)") from None


def _is_style(part: zipfile.ZipInfo) -> bool:
    """Whether a part of a workbook says how cells look: read whole, and of no use here."""
    return part.filename.endswith(("styles.xml", "theme1.xml"))


def _text(cell: object) -> str:
    if cell is None:
        return ""
    if isinstance(cell, datetime):
        return cell.date().isoformat()
    return f"{cell:.10g}" if isinstance(cell, float) else str(cell)


def _refused(expected: str) -> CoreError:
    return CoreError("table", "", None, expected)
