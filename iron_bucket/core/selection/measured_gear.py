"""A whole bench with its readings applied: what a pick computes with."""

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.measured_configuration import (
    MeasuredConfiguration,
    measured_configuration,
    measured_head,
    trim_stops,
)
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.bench.unit import Unit
from iron_bucket.core.colour.transmission import Transmission
from iron_bucket.core.figure import Figure
from iron_bucket.core.modifiers.gelled import by_curve
from iron_bucket.core.selection.measured_modifiers import measured_passes


@dataclass(frozen=True, slots=True, kw_only=True)
class UnitTrim:
    """One very lamp in one configuration: stops against the model, from ``count`` readings of it."""

    unit: Unit
    trim: Figure
    count: int


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasuredGear:
    """``gear``: every configuration, head and modifier with its best figure. ``configurations``: how each measured one
    came about, by slug.

    ``trims``: what very lamps give against their model, by configuration.
    """

    gear: Gear
    configurations: Mapping[str, MeasuredConfiguration]
    trims: Mapping[str, tuple[UnitTrim, ...]]


def measured_gear(gear: Gear, readings: Iterable[Reading]) -> MeasuredGear:
    """Readings of what is not in the gear count for nothing. A spectrum of a sheet is what it passes."""
    every, gear = tuple(readings), _with_curves(gear)
    of_configuration: dict[str, list[Reading]] = defaultdict(list)
    for reading in every:
        of_configuration[reading.configuration_slug].append(reading)
    heads = {head.slug: head for head in gear.heads}
    found = {
        each.slug: measured
        for each in gear.configurations
        if each.slug in of_configuration
        and (measured := measured_configuration(each, heads[each.head_slug], tuple(of_configuration[each.slug])))
        is not None
    }
    of_head: dict[str, list[Reading]] = defaultdict(list)
    for each in gear.configurations:
        of_head[each.head_slug] += of_configuration.get(each.slug, ())
    in_use = replace(
        gear,
        heads=tuple(measured_head(head, tuple(of_head[head.slug])) for head in gear.heads),
        configurations=tuple(found[each.slug].in_use if each.slug in found else each for each in gear.configurations),
    )
    trims = {
        each.slug: found_trims
        for each in in_use.configurations
        if each.slug in of_configuration
        and (found_trims := _trims(gear, each, heads[each.head_slug], tuple(of_configuration[each.slug])))
    }
    read_with = {reading.configuration_slug for reading in every if reading.modifier_slug}
    if read_with:
        concerned = tuple(reading for reading in every if reading.configuration_slug in read_with)
        in_use = replace(in_use, measured=measured_passes(_only(in_use, read_with), concerned))
    return MeasuredGear(gear=in_use, configurations=found, trims=trims)


def _with_curves(gear: Gear) -> Gear:
    if not any(sheet.slug in gear.spectra for sheet in gear.sheets):
        return gear
    return replace(
        gear,
        sheets=tuple(
            by_curve(sheet, Transmission.of(taken[-1])) if (taken := gear.spectra.get(sheet.slug)) else sheet
            for sheet in gear.sheets
        ),
    )


def _only(gear: Gear, configuration_slugs: set[str]) -> Gear:
    """Some configurations with their heads, and every modifier: what readings of modifiers depend on."""
    configurations = tuple(each for each in gear.configurations if each.slug in configuration_slugs)
    heads = {each.head_slug for each in configurations}
    return replace(
        gear,
        heads=tuple(head for head in gear.heads if head.slug in heads),
        configurations=configurations,
        batteries=(),
        stands=(),
        units=(),
    )


def _trims(gear: Gear, model: Configuration, head: Head, readings: tuple[Reading, ...]) -> tuple[UnitTrim, ...]:
    """Every unit of the head that was read in this configuration, by name."""
    trims = []
    for unit in sorted((each for each in gear.units if each.head_slug == head.slug), key=lambda each: each.name):
        own = tuple(reading for reading in readings if reading.unit_slug == unit.slug)
        trim = trim_stops(own, head, model)
        if trim is not None:
            trims.append(UnitTrim(unit=unit, trim=trim, count=len(own)))
    return tuple(trims)
