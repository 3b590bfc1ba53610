"""Every view of the case: verdict, panel, page one, running, money, next acts, and the record.

Views render; they do not decide. What they need to know, the case says (`core/judgement`).
"""

from core.telling.answer import assess
from core.telling.client import ClientAnswer, client_answer
from core.telling.record import Entry, field_said, record_entries
from core.telling.stands_open import stands_open

__all__ = [
    "ClientAnswer",
    "Entry",
    "assess",
    "client_answer",
    "field_said",
    "record_entries",
    "stands_open",
]
