"""A light behind the sheets that it wears."""

from collections.abc import Sequence
from dataclasses import replace

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import HeadClass
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.tint import duv_from_tint, tint_from_duv
from iron_bucket.core.colour.transmission import TOLD_FOR, Transmission
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.modifiers.kinds import Sheet


def gelled(colour: LightColour, sheets: Sequence[Sheet], more_mired: float = 0.0) -> LightColour:
    """Shifts add; a sheet with a curve of its own makes of the light what the curve says. ``more_mired``: of what
    else it meets.
    """
    plain = [sheet for sheet in sheets if sheet.curve is None]
    colour = colour.shifted(
        more_mired + sum(sheet.shift_mired for sheet in plain), float(duv_from_tint(sum(sheet.tint for sheet in plain)))
    )
    for sheet in sheets:
        if sheet.curve is not None:
            colour = sheet.curve.behind(colour).colour
    return colour


def by_curve(sheet: Sheet, curve: Transmission) -> Sheet:
    """The same sheet with the figures that its curve gives it on daylight."""
    told = curve.behind(TOLD_FOR)
    return replace(
        sheet,
        curve=curve,
        transmittance=Figure(value=told.passes, origin=Origin.MEASURED),
        shift_mired=told.shift_mired,
        tint=float(tint_from_duv(told.duv)),
    )


def as_measured(sheet: Sheet, gear: Gear, head_class: HeadClass) -> Sheet:
    """With the colour that a meter found behind it on that class of head, where one did."""
    found = next(
        (each for each in gear.measured if each.modifier_slug == sheet.slug and each.head_class is head_class), None
    )
    if found is None or found.shift_mired is None:
        return sheet
    tint = sheet.tint if found.tint is None else found.tint
    return replace(sheet, shift_mired=found.shift_mired, tint=tint, curve=None)
