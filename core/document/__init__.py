"""The inspection document: its schema, its reading and its writing."""

from core.document.reading import check_document, read_document
from core.document.records import FORMAT, VERSION, Document
from core.document.schema import SCHEMA
from core.document.writing import canonical, write_document

__all__ = [
    "FORMAT",
    "SCHEMA",
    "VERSION",
    "Document",
    "canonical",
    "check_document",
    "read_document",
    "write_document",
]
