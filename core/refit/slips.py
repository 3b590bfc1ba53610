"""Figures of a refit that were probably written in another unit than meant; values untouched."""

from __future__ import annotations

from collections.abc import Iterator

from core.caution import Caution
from core.document.records import Premix
from core.knowledge.limits import limits
from core.language import number_said, ranged, say
from core.plugs.gap import Window
from core.quantities import Dimension, Figure, Quantity, length_mm, meant_unit, pressure_pa

TORQUE_FACTOR = limits().slips_of_work.torque  # A set torque further off than this is asked about.
MEANT_FACTOR = limits().slips_of_work.meant  # A unit was meant if it brings the figure this near.
GAP_FACTOR = limits().slips_of_work.gap
TURN_FACTOR = limits().slips_of_work.turn  # Further than this past the usual angle is asked about.
MIX_WITHIN = limits().slips_of_work.mix  # How near a mix is poured.
PRESSURE_FACTOR = (
    limits().slips_of_work.pressure
)  # A repair does more than double a reading, hardly more than this.
NEAR_PRESSURE = limits().slips_of_work.near_pressure


def torque_slip(raw: Figure, wanted_nm: float, path: str) -> Iterator[Caution]:
    """A torque as it was set, beside what should reach the plug."""
    given = Quantity.read(raw, Dimension.TORQUE).si
    if 1 / TORQUE_FACTOR <= given / wanted_nm <= TORQUE_FACTOR:
        return
    meant = meant_unit(raw, Dimension.TORQUE, wanted_nm / MEANT_FACTOR, wanted_nm * MEANT_FACTOR)
    read = f"{raw}" if raw.unit == "N.m" else say("{raw} is {given:.3g} N.m", raw=raw, given=given)
    written = say("{read}; this plug wants {wanted_nm:.3g} N.m", read=read, wanted_nm=wanted_nm)
    harm = say("stripped thread") if given > wanted_nm else say("plug that backs out")
    ask = (
        say("was {value:g} {meant} meant?", value=raw.value, meant=meant)
        if meant
        else say("check the figure and its unit.")
    )
    yield Caution(
        "unit-slip",
        path,
        say("{written}: {ask} If not, expect a {harm}.", written=written, ask=ask, harm=harm),
    )


def turn_slip(given: float, wanted: tuple[float, float], path: str) -> Iterator[Caution]:
    """An angle far past what a gasket or a cone takes after it sat finger-tight. [degrees]"""
    if given <= wanted[1] * TURN_FACTOR:
        return
    usual = ranged([number_said(f"{one:g}") for one in dict.fromkeys(wanted)])
    text = say(
        "{given:g} degrees after finger-tight; usual is {usual}: counted from there?",
        given=given,
        usual=usual,
    )
    yield Caution("implausible", path, say("{text} If so, look at the thread.", text=text))


def mix_slip(premix: Premix, wanted: float | None) -> Iterator[Caution]:
    """A two-stroke's fuel as it was mixed, beside the ratio that is wanted."""
    if premix.fuel is None or premix.oil is None:
        return
    fuel, oil = (Quantity.read(one, Dimension.VOLUME).si for one in (premix.fuel, premix.oil))
    path = "/refit/premix/oil"
    if oil >= fuel:
        ask = say("exchanged, or another unit meant?")
        yield Caution(
            "unit-slip",
            path,
            say("{oil} of oil in {fuel} of fuel: {ask}", oil=premix.oil, fuel=premix.fuel, ask=ask),
        )
        return
    ratio, aim = fuel / oil, premix.ratio or wanted
    if aim and abs(ratio / aim - 1) > MIX_WITHIN:
        side = say("too little oil: it seizes") if ratio > aim else say("too much oil: it fouls")
        mixed = say(
            "{fuel} with {oil} is {ratio:.3g} to one", fuel=premix.fuel, oil=premix.oil, ratio=ratio
        )
        yield Caution(
            "mix",
            path,
            say("{mixed}; wanted {aim:g} to one: {side}", mixed=mixed, aim=aim, side=side),
        )


def pressure_slip(raw: Figure, before: Figure, path: str) -> Iterator[Caution]:
    """A pressure read again that lies so far from the first that another unit was meant."""
    found, now = (pressure_pa(one) for one in (before, raw))
    if found <= 0 or (now >= found / PRESSURE_FACTOR and now <= found * PRESSURE_FACTOR):
        return
    meant = meant_unit(raw, Dimension.PRESSURE, found / NEAR_PRESSURE, found * NEAR_PRESSURE)
    if meant:
        ask = say("was {value:g} {meant} meant?", value=raw.value, meant=meant)
        yield Caution(
            "unit-slip",
            path,
            say("{raw} beside {before} before: {ask}", raw=raw, before=before, ask=ask),
        )


def gap_slip(raw: Figure, window: Window, path: str) -> Iterator[Caution]:
    """A gap of a new plug that fits only in another unit."""
    low, high = window.low_mm / GAP_FACTOR, window.high_mm * GAP_FACTOR
    if low <= length_mm(raw) <= high:
        return
    meant = meant_unit(raw, Dimension.LENGTH, low / 1e3, high / 1e3)
    if meant:
        text = say(
            "{raw} is no gap for this engine; {value:g} {meant} would be",
            raw=raw,
            value=raw.value,
            meant=meant,
        )
        yield Caution("unit-slip", path, text)
