"""What a client reads: the answer in plain words, and the record as it was said."""

from core.wording.client import ClientAnswer, client_answer
from core.wording.record import Entry, field_said, record_entries

__all__ = ["ClientAnswer", "Entry", "client_answer", "field_said", "record_entries"]
