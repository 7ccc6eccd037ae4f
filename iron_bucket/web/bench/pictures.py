"""Polar picture, beam cross-section and level against distance, as places on paper."""

import math
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.measured_configuration import MeasuredConfiguration, at_full_lx
from iron_bucket.core.bench.output import cross_section_lx, level_lx
from iron_bucket.core.photometry.widths import beam_deg, field_deg, plane_profile
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem

POLAR_SIZE = 240.0
SECTION_THROW_M = 3.0
FALL_THROWS_M = (0.5, 1.0, 2.0, 3.0, 5.0, 10.0, 20.0)
FALL_WIDTH, FALL_HEIGHT, FALL_FOOT, FALL_SIDE = 460.0, 470.0, 26.0, 56.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Tick:
    """A place on an axis and what stands there."""

    at: float
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Spoke:
    """A direction of the polar picture: where its line ends, and its angle beside that."""

    x: float
    y: float
    text: str
    text_x: float
    text_y: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Dot:
    """A reading. ``is_aside``: left out of the fit."""

    x: float
    y: float
    is_aside: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Curve:
    """A picture of some lines with its axes.

    ``marks``: where half and a tenth lie; ``band``: an outline to be filled.
    """

    width: float
    height: float
    lines: tuple[str, ...]
    along: tuple[Tick, ...] | tuple[Spoke, ...]
    up: tuple[Tick, ...]
    marks: tuple[Tick, ...]
    description: str
    dots: tuple[Dot, ...] = ()
    band: str = ""


def _path(x: np.ndarray, y: np.ndarray) -> str:
    return "M" + "L".join(f"{a:.1f} {b:.1f}" for a, b in zip(x, y, strict=True))


def polar(configuration: Configuration) -> Curve:
    """Candela over direction, C0 plane and C90 plane; the lamp at the top looks down."""
    radius, centre = POLAR_SIZE - 40.0, POLAR_SIZE / 2 + 92.0
    profiles = [plane_profile(configuration.distribution, plane) for plane in (0.0, 90.0)]
    peak = max(float(profile.candela.max()) for profile in profiles)
    lines = []
    for profile in profiles:
        inside = np.abs(profile.angle_deg) <= 90.0
        angle, reach = np.radians(profile.angle_deg[inside]), profile.candela[inside] / peak * radius
        keep = slice(None, None, max(1, len(angle) // 240))
        lines.append(_path(centre + reach[keep] * np.sin(angle[keep]), 20.0 + reach[keep] * np.cos(angle[keep])))
    beam, field = beam_deg(configuration.distribution), field_deg(configuration.distribution)
    rings = tuple(Tick(at=radius * share, text=display.plain(peak * share, "").value) for share in (0.5, 1.0))
    words = f"peak {peak:,.0f} candela, beam {_angle(beam)}, field {_angle(field)}"
    return Curve(
        width=centre * 2,
        height=POLAR_SIZE,
        lines=tuple(lines),
        along=tuple(_spoke(angle, centre, radius) for angle in (-60.0, -30.0, 30.0, 60.0)),
        up=rings,
        marks=(),
        description=f"Polar picture of {configuration.name}: {words}.",
    )


def _spoke(angle_deg: float, centre: float, radius: float) -> Spoke:
    sine, cosine = math.sin(math.radians(angle_deg)), math.cos(math.radians(angle_deg))
    return Spoke(
        x=centre + radius * sine,
        y=20.0 + radius * cosine,
        text=f"{abs(angle_deg):.0f}°",
        text_x=centre + (radius + 14.0) * sine,
        text_y=24.0 + (radius + 14.0) * cosine,
    )


def _angle(angle_deg: float | None) -> str:
    return f"{angle_deg:.0f} degrees" if angle_deg is not None else "not defined"


def cross_section(configuration: Configuration, units: UnitSystem) -> Curve:
    """Level across the beam at three metres, with the half and tenth edges."""
    width, height, foot, side = 420.0, 200.0, 26.0, 8.0
    reach = SECTION_THROW_M * 0.8
    places = np.linspace(-reach, reach, 121)
    level = cross_section_lx(configuration, SECTION_THROW_M, places)
    peak = float(level.max())
    x, y = (
        side + (places + reach) / (2 * reach) * (width - 2 * side),
        12.0 + (1.0 - level / peak) * (height - foot - 12.0),
    )
    along = tuple(
        Tick(at=side + (place + reach) / (2 * reach) * (width - 2 * side), text=str(display.length(abs(place), units)))
        for place in (-2.0, -1.0, 0.0, 1.0, 2.0)
    )
    marks = tuple(
        Tick(at=12.0 + (1.0 - share) * (height - foot - 12.0), text=f"{display.illuminance(peak * share, units)}")
        for share in (1.0, 0.5, 0.1)
    )
    words = f"{display.illuminance(peak, units)} in the middle at {display.length(SECTION_THROW_M, units)}"
    return Curve(
        width=width,
        height=height,
        lines=(_path(x, y),),
        along=along,
        up=(),
        marks=marks,
        description=f"Cross-section of the beam of {configuration.name}: {words}.",
    )


def fall_off(
    configuration: Configuration,
    claimed: Configuration,
    head: Head,
    units: UnitSystem,
    measured: MeasuredConfiguration | None = None,
) -> Curve:
    """Level against distance, both scales logarithmic: what is in use whole, the claim broken where a meter says
    otherwise, the readings
    on it as dots with the band of the fit. Nearby the line bends where the area law takes over.
    """
    scale = _FallScale.around(configuration, claimed, measured)
    throws = np.geomspace(FALL_THROWS_M[0], FALL_THROWS_M[-1], 60)
    level = np.array([level_lx(configuration, float(throw)) for throw in throws])
    lines = [_path(scale.across(throws), scale.up(level))]
    dots: tuple[Dot, ...] = ()
    band = ""
    if measured is not None:
        lines.append(
            _path(scale.across(throws), scale.up(np.array([level_lx(claimed, float(throw)) for throw in throws])))
        )
        dots = _dots(measured, head, scale)
        band = _band(measured, throws, scale)
    words = "; ".join(
        f"{display.illuminance(level_lx(configuration, throw), units)} at {display.length(throw, units)}"
        for throw in (1.0, 3.0, 5.0, 10.0)
    )
    read = f" {len(dots)} readings, {measured.gap_stops:+.1f} stops against the claim." if measured else ""
    return Curve(
        width=FALL_WIDTH,
        height=FALL_HEIGHT,
        lines=tuple(lines),
        along=tuple(
            Tick(at=float(scale.across(np.array(each))), text=str(display.length(each, units)))
            for each in FALL_THROWS_M
        ),
        up=tuple(
            Tick(at=float(scale.up(np.array(each))), text=str(display.illuminance(each, units)))
            for each in scale.tens()
        ),
        marks=(),
        dots=dots,
        band=band,
        description=f"Level against distance of {head.name}, {configuration.name}: {words}.{read}",
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class _FallScale:
    """Both scales of the fall-off picture; ``low`` and ``high`` are log2 of lux."""

    low: float
    high: float

    @classmethod
    def around(
        cls, configuration: Configuration, claimed: Configuration, measured: MeasuredConfiguration | None
    ) -> "_FallScale":
        """Room for every line and dot."""
        levels = [
            level_lx(each, throw)
            for each in (configuration, claimed)
            for throw in (FALL_THROWS_M[0], FALL_THROWS_M[-1])
        ]
        if measured is not None:
            levels += [reading.net_lx for reading in measured.readings]
        return cls(low=math.log2(min(levels)), high=math.log2(max(levels)))

    def across(self, throw_m: Array) -> Array:
        """Place of a distance."""
        span = math.log(FALL_THROWS_M[-1] / FALL_THROWS_M[0])
        return np.asarray(FALL_SIDE + np.log(throw_m / FALL_THROWS_M[0]) / span * (FALL_WIDTH - FALL_SIDE - 8.0))

    def up(self, level_lx: Array) -> Array:
        """Place of a level."""
        return np.asarray(
            12.0 + (self.high - np.log2(level_lx)) / (self.high - self.low) * (FALL_HEIGHT - FALL_FOOT - 12.0)
        )

    def tens(self) -> list[float]:
        """Round levels in between."""
        return [10.0**power for power in range(-2, 8) if self.low <= math.log2(10.0**power) <= self.high]


def _dots(measured: MeasuredConfiguration, head: Head, scale: _FallScale) -> tuple[Dot, ...]:
    full = at_full_lx(measured.readings, head)
    return tuple(
        Dot(x=float(scale.across(np.array(reading.throw_m))), y=float(scale.up(level)), is_aside=is_aside)
        for reading, level, is_aside in zip(measured.readings, full, measured.fit.is_aside, strict=True)
        if FALL_THROWS_M[0] <= reading.throw_m <= FALL_THROWS_M[-1]
    )


def _band(measured: MeasuredConfiguration, throws: Array, scale: _FallScale) -> str:
    """The 95 % band as a closed outline; empty where the readings do not tell."""
    half = measured.fit.band_stops(throws)
    if half is None:
        return ""
    level = measured.fit.illuminance_lx(throws)
    top, foot = scale.up(level * 2.0**half), scale.up(level * 2.0**-half)
    x = scale.across(throws)
    return _path(np.concatenate([x, x[::-1]]), np.concatenate([top, foot[::-1]])) + "Z"
