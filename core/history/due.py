"""What is due on an engine: when somebody is to look again, when its plugs have run their time."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from core.history.over_time import Visit, family, gap_growth, gone
from core.history.story import PlugsIn, a_day, plugs_in
from core.language import cylinders_said, say
from core.quantities import Figure, figure
from core.refit.put_right import PutRight

FARTHEST_DAYS = 3650.0  # What lies farther off has no day.
YEAR_DAYS = 365.25


@dataclass(frozen=True)
class Due:
    """One thing that is due.

    Attributes
    ----------
    kind : str
        `again`, `plugs`, `gap` or `watch`.
    on : str
        Its day; empty where it cannot be said.
    text : str
    """

    kind: str
    on: str
    text: str


def due(visits: Sequence[Visit]) -> list[Due]:
    """What is due on an engine, what has a day first, the earliest of all before.

    Parameters
    ----------
    visits : sequence of Visit
        In the order of their dates.
    """
    if not visits:
        return []
    found = [*_again(visits[-1]), *_plugs(visits), *_gaps(visits)]
    return sorted(found, key=lambda one: (not one.on, one.on, one.text))


def _again(visit: Visit) -> Iterator[Due]:
    proof = visit.document.proof
    if proof.follow_up and not proof.followed_up:
        yield Due("again", proof.follow_up, say("to be looked at again, as was promised"))
    elif not proof.follow_up:
        watched = [one.number for one in visit.assessment.cylinders if one.grade_now == "C"]
        if watched:
            yield Due(
                "watch",
                "",
                say("{watched} on watch: read again in some hours", watched=_of(watched)),
            )


def _plugs(visits: Sequence[Visit]) -> Iterator[Due]:
    wanted = visits[-1].document.engine.specification
    for one in plugs_in(visits):
        of = PutRight("plug", "renewed", one.cylinders).where
        if wanted.plug_interval and one.run:
            yield from _by_distance(visits, one, of, wanted.plug_interval)
        if wanted.plug_interval_years and one.since:
            years = wanted.plug_interval_years
            day = date.fromisoformat(one.since) + timedelta(days=years * YEAR_DAYS)
            yield Due(
                "plugs",
                day.isoformat(),
                say(
                    "{of}: {years} years since {since}", of=of, years=figure(years), since=one.since
                ),
            )


def _by_distance(visits: Sequence[Visit], one: PlugsIn, of: str, interval: Figure) -> Iterator[Due]:
    if one.run is None or family(one.run) != family(interval):
        return
    unit = family(interval)
    ran, allowed = gone(one.run), gone(interval)
    text = say(
        "{of}: {ran} of {allowed} {unit}",
        of=of,
        ran=figure(ran, 4),
        allowed=figure(allowed, 4),
        unit=unit,
    )
    if ran >= allowed:
        yield Due("plugs", visits[-1].date, say("{text}, overdue", text=text))
    else:
        yield Due("plugs", _day(visits, unit, allowed - ran), text)


def _gaps(visits: Sequence[Visit]) -> Iterator[Due]:
    """Gaps that grow to their limit, the first of them."""
    growing = [one for one in gap_growth(visits) if one.limit is not None]
    soonest = min(growing, key=lambda one: (one.limit or 0.0) - one.run, default=None)
    if soonest is not None and soonest.limit is not None:
        left = soonest.limit - soonest.run
        text = say(
            "gap of {cylinder} at its limit with {limit} {unit}",
            cylinder=soonest.cylinder,
            limit=figure(soonest.limit, 4),
            unit=soonest.unit,
        )
        if left <= 0:
            yield Due("gap", visits[-1].date, say("{text}, past", text=text))
        else:
            yield Due("gap", _day(visits, soonest.unit, left), text)


def _day(visits: Sequence[Visit], unit: str, left: float) -> str:
    """The day on which the engine will have gone so much farther; empty if nobody can say."""
    rate = a_day(visits, unit)
    if rate is None or not visits[-1].date or left / rate > FARTHEST_DAYS:
        return ""
    return (date.fromisoformat(visits[-1].date) + timedelta(days=left / rate)).isoformat()


def _of(cylinders: Sequence[int]) -> str:
    return cylinders_said(cylinders)
