"""Traces from instruments: read from open files, turned into figures a person confirms."""

from core.signals.relative import Share, relative_compression
from core.signals.trace import Trace, TraceRefused, read_trace, thinned, write_trace

__all__ = [
    "Share",
    "Trace",
    "TraceRefused",
    "read_trace",
    "relative_compression",
    "thinned",
    "write_trace",
]
