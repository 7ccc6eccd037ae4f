"""Polar picture, beam cross-section and level against distance, as places on paper."""

import math
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.output import cross_section_lx, level_lx
from iron_bucket.core.photometry.widths import beam_deg, field_deg, plane_profile
from iron_bucket.core.quantities import spoken
from iron_bucket.core.quantities.units import UnitSystem

POLAR_SIZE = 280.0
SECTION_THROW_M = 3.0
FALL_THROWS_M = (0.5, 1.0, 2.0, 3.0, 5.0, 10.0, 20.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Tick:
    """A place on an axis and what stands there."""

    at: float
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Curve:
    """A picture of one or two lines with its axes. ``marks``: where half and a tenth lie."""

    width: float
    height: float
    lines: tuple[str, ...]
    along: tuple[Tick, ...]
    up: tuple[Tick, ...]
    marks: tuple[Tick, ...]
    description: str


def _path(x: np.ndarray, y: np.ndarray) -> str:
    return "M" + "L".join(f"{a:.1f} {b:.1f}" for a, b in zip(x, y, strict=True))


def polar(configuration: Configuration) -> Curve:
    """Candela over direction, C0 plane and C90 plane; the lamp at the top looks down."""
    radius, centre = POLAR_SIZE - 40.0, POLAR_SIZE / 2 + 30.0
    profiles = [plane_profile(configuration.distribution, plane) for plane in (0.0, 90.0)]
    peak = max(float(profile.candela.max()) for profile in profiles)
    lines = []
    for profile in profiles:
        inside = np.abs(profile.angle_deg) <= 90.0
        angle, reach = np.radians(profile.angle_deg[inside]), profile.candela[inside] / peak * radius
        keep = slice(None, None, max(1, len(angle) // 240))
        lines.append(_path(centre + reach[keep] * np.sin(angle[keep]), 20.0 + reach[keep] * np.cos(angle[keep])))
    beam, field = beam_deg(configuration.distribution), field_deg(configuration.distribution)
    rings = tuple(Tick(at=radius * share, text=f"{peak * share:,.0f}".replace(",", "\u202f")) for share in (0.5, 1.0))
    words = f"peak {peak:,.0f} candela, beam {_angle(beam)}, field {_angle(field)}"
    return Curve(
        width=centre * 2,
        height=POLAR_SIZE,
        lines=tuple(lines),
        along=(),
        up=rings,
        marks=(),
        description=f"Polar picture of {configuration.name}: {words}.",
    )


def _angle(angle_deg: float | None) -> str:
    return f"{angle_deg:.0f} degrees" if angle_deg is not None else "not defined"


def cross_section(configuration: Configuration, units: UnitSystem) -> Curve:
    """Level across the beam at three metres, with the half and tenth edges."""
    width, height, foot, side = 420.0, 220.0, 26.0, 8.0
    reach = SECTION_THROW_M * 0.8
    places = np.linspace(-reach, reach, 121)
    level = cross_section_lx(configuration, SECTION_THROW_M, places)
    peak = float(level.max())
    x, y = (
        side + (places + reach) / (2 * reach) * (width - 2 * side),
        12.0 + (1.0 - level / peak) * (height - foot - 12.0),
    )
    along = tuple(
        Tick(at=side + (place + reach) / (2 * reach) * (width - 2 * side), text=str(spoken.length(abs(place), units)))
        for place in (-2.0, -1.0, 0.0, 1.0, 2.0)
    )
    marks = tuple(
        Tick(at=12.0 + (1.0 - share) * (height - foot - 12.0), text=f"{spoken.illuminance(peak * share, units)}")
        for share in (1.0, 0.5, 0.1)
    )
    words = f"{spoken.illuminance(peak, units)} in the middle at {spoken.length(SECTION_THROW_M, units)}"
    return Curve(
        width=width,
        height=height,
        lines=(_path(x, y),),
        along=along,
        up=(),
        marks=marks,
        description=f"Cross-section of the beam of {configuration.name}: {words}.",
    )


def fall_off(configuration: Configuration, head: Head, units: UnitSystem) -> Curve:
    """Level against distance, both scales logarithmic; nearby the line bends where the area law takes over."""
    width, height, foot, side = 420.0, 220.0, 26.0, 56.0
    throws = np.geomspace(FALL_THROWS_M[0], FALL_THROWS_M[-1], 60)
    level = np.array([level_lx(configuration, float(throw)) for throw in throws])
    low, high = math.log2(float(level.min())), math.log2(float(level.max()))
    span = math.log(FALL_THROWS_M[-1] / FALL_THROWS_M[0])

    def across(throw: float) -> float:
        return side + math.log(throw / FALL_THROWS_M[0]) / span * (width - side - 8.0)

    def up(value: float) -> float:
        return 12.0 + (high - math.log2(value)) / (high - low) * (height - foot - 12.0)

    x, y = np.array([across(float(each)) for each in throws]), np.array([up(float(each)) for each in level])
    tens = [10.0**power for power in range(-2, 8) if low <= math.log2(10.0**power) <= high]
    words = "; ".join(
        f"{spoken.illuminance(level_lx(configuration, throw), units)} at {spoken.length(throw, units)}"
        for throw in (1.0, 3.0, 5.0, 10.0)
    )
    return Curve(
        width=width,
        height=height,
        lines=(_path(x, y),),
        along=tuple(Tick(at=across(each), text=str(spoken.length(each, units))) for each in FALL_THROWS_M),
        up=tuple(Tick(at=up(each), text=str(spoken.illuminance(each, units))) for each in tens),
        marks=(),
        description=f"Level against distance of {head.name}, {configuration.name}: {words}.",
    )
