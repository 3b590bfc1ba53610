"""The report's own drawings, as SVG: the engine's plan, plugs face on, and strips.

They say the same as the screen's, in the same tones, made for paper.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

from core.comparison.board import Strip
from core.document.readings import final_of
from core.document.records import Engine, Tests
from core.engine.layout import stations
from core.knowledge.plug_words import plug_words
from core.language import cylinders_said, say, word_said

INK, SOFT, LINE, TEAL, RUST, WASH = "#1b292d", "#54635f", "#cfc7b6", "#0d4f55", "#9c3517", "#e4ddce"
# A letter, and a shape that needs no colour to be told apart.
SHAPES = {
    "A": '<circle r="9" fill="none" stroke="{c}" stroke-width="2"/>',
    "B": '<rect x="-8.5" y="-8.5" width="17" height="17" rx="4" fill="none" stroke="{c}" '
    'stroke-width="2"/>',
    "C": '<path d="M0-11 10.5 0 0 11-10.5 0z" fill="none" stroke="{c}" stroke-width="2"/>',
    "D": '<path d="M-11-9H11L7 9H-7z" fill="{c}"/>',
    "E": '<path d="M-5-11H5L11-5V5L5 11H-5L-11 5V-5z" fill="{c}"/>',
    "U": '<circle r="9" fill="none" stroke="{c}" stroke-width="2" stroke-dasharray="3 3"/>',
}
STATION_W, STATION_H, GAP = 92, 108, 8


def grade_mark(grade: str, x: float, y: float, size: float = 1.0) -> str:
    """A grade's letter in its shape, centred."""
    filled = grade in "DE"
    colour = RUST if grade in "DE" else "#835500" if grade == "C" else TEAL
    letter = "#fbf8f1" if filled else colour
    return (
        f'<g transform="translate({x} {y}) scale({size})">{SHAPES[grade].format(c=colour)}'
        f'<text y="4" text-anchor="middle" font-size="11" font-weight="700" fill="{letter}">'
        f"{grade}</text></g>"
    )


def grade_svg(grade: str) -> SafeString:
    """A grade by itself."""
    return _svg(48, 48, grade_mark(grade, 24, 24, 2.0), say("Grade {grade}", grade=grade))


def plan(
    document: Mapping[str, Any], assessment: Mapping[str, Any], states: Mapping[int, str]
) -> SafeString:
    """The engine from above, its front on the left: each cylinder with its plug and its state."""
    placed = stations(Engine.of(document["engine"]))
    grades = {one["number"]: left_grade(one) for one in assessment["cylinders"]}
    records = {one["number"]: one for one in document.get("cylinders", [])}
    if document["engine"]["layout"] == "radial":
        size = max(len(placed), 3) * 34.0
        spots = {s.cylinder: (s.across * size, s.along * size) for s in placed}
    else:
        longest = max(1, len({s.along for s in placed if s.across == placed[0].across}))
        spots = {
            s.cylinder: (s.along * longest * (STATION_W + GAP), s.across * (STATION_H + GAP))
            for s in placed
        }
    left, top = (min(spot[side] for spot in spots.values()) for side in (0, 1))
    spots = {number: (x - left, y - top) for number, (x, y) in spots.items()}
    wide = max(x for x, _ in spots.values()) + STATION_W + 4
    high = max(y for _, y in spots.values()) + STATION_H + 4
    drawn = [
        f'<g transform="translate({x + 2} {y + 2})"><rect width="{STATION_W}" height="{STATION_H}" '
        f'rx="6" fill="#fff" stroke="{RUST if grades[n] in "DE" else LINE}" '
        f'stroke-width="{2.5 if grades[n] in "DE" else 1.2}"/>'
        f'<text x="9" y="20" font-size="14" font-weight="700">{n}</text>'
        f"{grade_mark(grades[n], STATION_W - 17, 17, 0.8)}"
        f'<g transform="translate({STATION_W / 2 - 26} 22) scale(0.52)">'
        f"{_firing_end(records.get(n, {}))}</g>"
        f'<text x="{STATION_W / 2}" y="{STATION_H - 19}" text-anchor="middle" font-size="11" '
        f'font-weight="700">{escape(states[n])}</text>'
        f'<text x="{STATION_W / 2}" y="{STATION_H - 6}" text-anchor="middle" font-size="10">'
        f"{escape(_reading(document, n))}</text></g>"
        for n, (x, y) in sorted(spots.items())
    ]
    told = "; ".join(
        say(
            "cylinder {number}: {state}, {reading}, plug {plug}",
            number=n,
            state=states[n],
            reading=_reading(document, n),
            plug=plug_told(records.get(n, {})),
        )
        for n in sorted(spots)
    )
    label = say("The engine from above, its front on the left. {told}", told=told)
    return _svg(wide, high, "".join(drawn), label, scale_mm=min(176 / wide, 64 / high, 0.34))


def left_grade(one: Mapping[str, Any]) -> str:
    """A cylinder's grade now: as it was left, where something was done."""
    left = one.get("as_left")
    return str(left["grade"] if left else one["grade"])


def _reading(document: Mapping[str, Any], number: int) -> str:
    shown = say("no pressure")
    for test in Tests.of(document.get("tests", {})).compression:
        for item in test.readings:
            final = final_of(item)
            if test.kind == "dry" and item.cylinder == number and final:
                shown = str(final)
    return shown


def plug_told(record: Mapping[str, Any]) -> str:
    """What a drawn firing end shows, for whoever does not see it."""
    seen = record.get("plug", {})
    told = [
        word_said(str(seen[name]))
        for name in ("deposit_colour", "deposit_texture", "wetness")
        if name in seen and seen[name] != "clean"
    ]
    if seen.get("wetness") in ("wet", "damp") and "wet_with" in seen:
        told.append(say("with {what}", what=word_said(seen["wet_with"])))
    for name, fine in (("insulator", "sound"), ("ground_electrode", "square")):
        if seen.get(name, fine) != fine:
            told.append(f"{word_said(name)} {word_said(seen[name])}")
    if seen.get("gap_bridged"):
        told.append(say("gap bridged"))
    return ", ".join(told) if told else say("not described")


def plug(record: Mapping[str, Any]) -> SafeString:
    """A firing end, face on, as it was recorded; dashed where nothing was."""
    label = say(
        "Cylinder {number}, its plug: {plug}",
        number=record.get("number", ""), plug=plug_told(record),
    )  # fmt: skip
    return _svg(100, 100, _firing_end(record), label)


def _firing_end(record: Mapping[str, Any]) -> str:
    seen = record.get("plug", {})
    colour = _tone("deposit_colour", seen, "#fff")
    nose = "none" if "deposit_colour" in seen else "3 3"
    parts = [
        '<circle cx="50" cy="50" r="44" fill="#8c9794"/>',
        '<circle cx="50" cy="50" r="37" fill="#f6f2e8"/>',
        f'<circle cx="50" cy="50" r="28" fill="{INK}"/>',
        f'<circle cx="50" cy="50" r="22" fill="{colour}" stroke="{INK}" '
        f'stroke-dasharray="{nose}"/>',
    ]
    if seen.get("wetness") in ("wet", "damp"):
        tone = _tone("wet_with", seen, plug_words()["wet_with"]["unknown"].tone)
        width = 6 if seen["wetness"] == "wet" else 3
        parts.append(
            f'<circle cx="50" cy="50" r="32" fill="none" stroke="{tone}" stroke-width="{width}"/>'
        )
    if seen.get("insulator") in ("cracked-nose", "cracked-body", "chipped"):
        parts.append(
            f'<path d="M38 34l8 12-6 8 9 14" fill="none" stroke="{RUST}" stroke-width="2.5"/>'
        )
    parts.append('<circle cx="50" cy="50" r="7" fill="#8c9794" stroke="#1b292d"/>')
    if seen.get("ground_electrode") != "missing":
        corner = 7 if seen.get("ground_electrode") in ("rounded", "thinned", "melted") else 1
        parts.append(
            f'<rect x="42" y="44" width="16" height="50" rx="{corner}" fill="#8c9794" '
            f'stroke="{INK}"/>'
        )
    if seen.get("gap_bridged"):
        parts.append(f'<circle cx="50" cy="47" r="5" fill="{INK}"/>')
    return "".join(parts)


def _tone(field: str, seen: Mapping[str, Any], otherwise: str) -> str:
    """The colour in which what was said of a plug is drawn."""
    return plug_words()[field][seen[field]].tone if field in seen else otherwise


def strip(made: Strip, groups: Sequence[Sequence[int]]) -> SafeString:
    """One kind of evidence across the cylinders: band, lines, bars, the odd ones."""
    wide, high, apart = 470.0, 62.0, 14.0
    count = sum(len(group) for group in groups)
    step = (wide - apart * (len(groups) - 1)) / max(count, 1)
    marks = {mark.cylinder: mark for mark in made.marks}

    def y(value: float) -> float:
        return high * (1 - (max(value, made.low) - made.low) / (made.high - made.low))

    drawn = []
    if made.band:
        low, top = y(made.band[0]), y(made.band[1])
        drawn.append(f'<rect y="{top:.1f}" width="{wide}" height="{low - top:.1f}" fill="{WASH}"/>')
    for at, line in enumerate(made.lines):
        drawn.append(
            f'<path d="M0 {y(line.value):.1f}H{wide}" stroke="{SOFT}" stroke-width="0.7" '
            f'stroke-dasharray="3 3"/>'
            f'<text x="{wide + 3}" y="{y(line.value) + 3:.1f}" font-size="8" fill="{SOFT}">'
            f"{'abcde'[at]}</text>"
        )
    x = 0.0
    for group in groups:
        for number in group:
            middle, mark = x + step / 2, marks.get(number)
            if mark:
                tone = RUST if mark.odd else TEAL
                drawn.append(
                    f'<rect x="{middle - step * 0.22:.1f}" y="{y(mark.value):.1f}" '
                    f'width="{step * 0.44:.1f}" height="{high - y(mark.value):.1f}" fill="{tone}"/>'
                    f'<text x="{middle:.1f}" y="{high + 11}" text-anchor="middle" font-size="9">'
                    f"{escape(mark.shown)}</text>"
                )
            drawn.append(
                f'<text x="{middle:.1f}" y="{high + 22}" text-anchor="middle" font-size="9" '
                f'font-weight="700">{number}</text>'
            )
            x += step
        x += apart
    drawn.append(f'<path d="M0 {high}H{wide}" stroke="{LINE}"/>')
    told = "; ".join(
        f"{cylinders_said([mark.cylinder])}: {mark.shown}{say(', odd') if mark.odd else ''}"
        for mark in made.marks
    )
    return _svg(wide + 16, high + 26, "".join(drawn), f"{made.label}. {told}")


def _svg(
    wide: float, high: float, inner: str, label: str, *, scale_mm: float | None = None
) -> SafeString:
    """A drawing with its words for whoever does not see it: a PDF takes them from its title."""
    size = f' width="{wide * scale_mm:.1f}mm" height="{high * scale_mm:.1f}mm"' if scale_mm else ""
    return mark_safe(
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {wide:.0f} {high:.0f}"{size} '
        f'role="img" fill="{INK}" font-family="Archivo"><title>{escape(label)}</title>{inner}</svg>'
    )
