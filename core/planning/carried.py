"""What an engine's earlier inspections taught, offered to the next and never asserted."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from core.document.records import Document
from core.language import listed, say, word_said
from core.quantities import spoken
from core.refit.put_right import put_right


@dataclass(frozen=True)
class Offer:
    """Something that held last time and is taken over with one tap.

    Attributes
    ----------
    id, title : str
    text : str
        What it comes to, to be judged before it is taken.
    date : str
        Of the inspection that it is from.
    entries : tuple of (path, value)
        What taking it records.
    """

    id: str
    title: str
    text: str
    date: str
    entries: tuple[tuple[str, Any], ...]


@dataclass(frozen=True)
class Carried:
    """Offers, and what is to be known beside them: what was renewed, and what was left open."""

    offers: tuple[Offer, ...]
    renewed: tuple[str, ...]
    left_open: tuple[str, ...]


def carried(document: Document, earlier: Sequence[tuple[str, Document]]) -> Carried:
    """What to offer to an inspection.

    Parameters
    ----------
    document : Document
        The inspection that begins; what it says already is not offered.
    earlier : sequence of (str, Document)
        The date and record of the same engine's inspections before it, the newest first.
    """
    offers: dict[str, Offer] = {}
    for date, past in earlier:
        for offer in _offers(document, date, past):
            offers.setdefault(offer.id, offer)
    renewed = [text for date, past in earlier for text in _renewed(date, past)]
    left_open = [text for date, past in earlier[:1] for text in _open(date, past)]
    return Carried(tuple(offers.values()), tuple(renewed), tuple(left_open))


def _offers(document: Document, date: str, past: Document) -> Iterator[Offer]:
    off = [one.what for one in past.work.removed if one.what]
    if off and not document.work.removed:
        places = (f"/work/removed/off-{at}/what" for at in range(1, len(off) + 1))
        taken = tuple(zip(places, off, strict=True))
        yield Offer("removed", say("What had to come off"), ", ".join(off), date, taken)
    access = {one.number: one.access for one in past.cylinders if one.access}
    if access and not any(one.access for one in document.cylinders):
        awkward = [number for number, word in access.items() if word == "awkward"]
        text = (
            say("awkward: {awkward}", awkward=listed(awkward)) if awkward else say("none awkward")
        )
        reached = tuple((f"/cylinders/{n}/access", word) for n, word in sorted(access.items()))
        yield Offer("access", say("How each cylinder is reached"), text, date, reached)
    given, now = past.inspection, document.inspection
    if given.order and not now.order:
        text = ", ".join(map(str, given.order))
        yield _one("order", say("The order round the engine"), text, date, "/inspection/order",
                   list(given.order))  # fmt: skip
    if given.instruments and not now.instruments:
        text = ", ".join(word_said(one) for one in given.instruments)
        yield _one("instruments", say("Instruments at hand"), text, date, "/inspection/instruments",
                   list(given.instruments))  # fmt: skip
    if past.work.consent and not document.work.consent:
        consent = word_said(past.work.consent)
        if past.work.consent_by:
            consent = say("{consent}, said by {who}", consent=consent, who=past.work.consent_by)
        text = say("{consent}: to be asked again", consent=consent)
        yield _one("consent", say("What the owner agreed to"), text, date, "/work/consent",
                   past.work.consent)  # fmt: skip
    if given.note and not now.note:
        yield _one("note", say("The note of last time"), given.note, date, "/inspection/note",
                   given.note)  # fmt: skip


def _one(name: str, title: str, text: str, date: str, path: str, value: Any) -> Offer:
    """An offer of a single entry."""
    return Offer(name, title, text, date, ((path, value),))


def _renewed(date: str, past: Document) -> Iterator[str]:
    """Parts that were renewed, with how far the engine had gone: a set in part has two ages."""
    ran = past.inspection.odometer
    at = say("{date}, at {run}", date=date, run=spoken(ran)) if ran else date
    for one in put_right(past):
        if one.action == "renewed":
            yield f"{at}: {one.where}"


def _open(date: str, past: Document) -> Iterator[str]:
    """What the last inspection left to be looked at."""
    if past.proof.follow_up and not past.proof.followed_up:
        yield say(
            "{date}: to be looked at again on {follow_up}",
            date=date,
            follow_up=past.proof.follow_up,
        )
    for one in past.inspection.not_inspected:
        yield say(
            "{date}, not looked at: {item}",
            date=date,
            item=f"{one.item} ({one.reason})" if one.reason else one.item,
        )
    back = [one.what for one in past.work.removed if one.what and one.back is False]
    if back:
        yield say("{date}, not put back: {back}", date=date, back=", ".join(back))
