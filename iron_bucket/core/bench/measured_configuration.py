"""A configuration and its readings: what the meter makes of the maker's figures."""

from collections import Counter
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.configuration import Configuration, FaceShape
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.output import level_lx
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.bench.reading_fit import FAR_OFF_STOPS, FitKind, ReadingFit, fit_readings
from iron_bucket.core.bench.setting_output import setting_points
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.photometry.distribution import straight_cd
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.scaled import scaled, stretch_through, stretched
from iron_bucket.core.photometry.tabulated import Tabulated

#: A beam is measured with so many readings beside the axis.
FEWEST_ASIDE = 3
SAME_SETTING_K = 25.0


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasuredConfiguration:
    """``claimed`` is the maker's; ``in_use`` what everything computes with from now on.

    ``readings`` are those that the fit went through, in the order of its residuals; ``at_cct_k`` the colour that they
    were taken at, where it
    was noted. ``stretch``: the measured beam over the claimed one, None where nobody measured beside the axis.
    """

    claimed: Configuration
    in_use: Configuration
    fit: ReadingFit
    readings: tuple[Reading, ...]
    at_cct_k: float | None
    stretch: float | None

    @property
    def middle_m(self) -> float:
        """The distance at which claim and meter are compared: halfway through the readings, by ratio."""
        return float(np.sqrt(self.fit.nearest_m * self.fit.farthest_m))

    @property
    def gap_stops(self) -> float:
        """Measured over claimed, at the middle distance."""
        return float(np.log2(self.fit.illuminance_lx(self.middle_m) / level_lx(self.claimed, self.middle_m)))

    @property
    def contradicts(self) -> bool:
        """Whether the maker's figure is off by more than a third of a stop."""
        return abs(self.gap_stops) > FAR_OFF_STOPS


def at_full_lx(readings: tuple[Reading, ...], head: Head) -> Array:
    """Levels as they would be at full output, ambient taken off. Shape (N,)."""
    settings = np.array([reading.setting for reading in readings])
    return np.array([reading.net_lx for reading in readings]) / head.dimming.output(settings)


@lru_cache(maxsize=4096)
def measured_configuration(
    configuration: Configuration, head: Head, readings: tuple[Reading, ...]
) -> MeasuredConfiguration | None:
    """What bare readings make of a configuration; None where there are none on the axis.

    Where a lamp of several colours was read at several, the colour with the most readings counts.
    """
    bare = tuple(reading for reading in readings if not reading.modifier_slug)
    at_cct_k = _commonest_cct_k(bare)
    alike = tuple(
        each
        for each in bare
        if at_cct_k is None or each.set_cct_k is None or abs(each.set_cct_k - at_cct_k) < SAME_SETTING_K
    )
    on_axis = tuple(reading for reading in alike if reading.is_on_axis)
    if not on_axis:
        return None
    fit = fit_readings(
        np.array([reading.throw_m for reading in on_axis]),
        at_full_lx(on_axis, head),
        FitKind.FACE if configuration.is_lambertian else FitKind.OFFSET,
        assumed_second=_claimed_second(configuration),
    )
    stretch = _stretch(configuration, head, tuple(each for each in alike if not each.is_on_axis), fit)
    return MeasuredConfiguration(
        claimed=configuration,
        in_use=_in_use(configuration, fit, stretch, at_cct_k),
        fit=fit,
        readings=on_axis,
        at_cct_k=at_cct_k,
        stretch=stretch,
    )


def _commonest_cct_k(readings: tuple[Reading, ...]) -> float | None:
    counts = Counter(reading.set_cct_k for reading in readings if reading.set_cct_k is not None)
    return max(sorted(counts), key=lambda each: counts[each]) if counts else None


def _claimed_second(configuration: Configuration) -> float:
    """The maker's virtual source, or the squared radius of a disc of the face's area."""
    if not configuration.is_lambertian:
        return configuration.offset_m
    face = configuration.face
    return face.width_m * face.height_m / (4.0 if face.shape is FaceShape.DISC else np.pi)


def _stretch(configuration: Configuration, head: Head, aside: tuple[Reading, ...], fit: ReadingFit) -> float | None:
    """Measured beam over claimed one, from readings on a plane square to the beam: I(gamma) = E d^2 / cos^3 gamma."""
    if len(aside) < FEWEST_ASIDE or isinstance(configuration.distribution, Tabulated):
        return None
    throws = np.array([reading.throw_m for reading in aside])
    gamma = np.arctan(np.abs([reading.aside_m for reading in aside]) / throws)
    shares = at_full_lx(aside, head) / fit.illuminance_lx(throws) / np.cos(gamma) ** 3
    return stretch_through(configuration.distribution, np.degrees(gamma), shares)


def _in_use(
    configuration: Configuration, fit: ReadingFit, stretch: float | None, at_cct_k: float | None
) -> Configuration:
    """The maker's shape with the meter's output, virtual source and beam.

    A face keeps its size, which a tape tells better than a fall-off; only its output is brought to the readings, at
    their middle.
    """
    if fit.kind is FitKind.OFFSET:
        factor = fit.intensity_cd / straight_cd(configuration.distribution)
        configuration = replace(configuration, offset_m=fit.offset_m)
    else:
        middle_m = float(np.sqrt(fit.nearest_m * fit.farthest_m))
        factor = float(fit.illuminance_lx(middle_m)) / level_lx(configuration, middle_m)
    distribution = scaled(configuration.distribution, factor)
    flux = configuration.lumens * factor
    if stretch is not None:
        before = lumens(distribution)
        distribution = stretched(distribution, stretch)
        flux *= lumens(distribution) / before
    return replace(
        configuration, distribution=distribution, lumens=flux, origin=Origin.MEASURED, told_at_k=at_cct_k or 0.0
    )


def trim_stops(unit_readings: tuple[Reading, ...], head: Head, model: Configuration) -> Figure | None:
    """What one very lamp gives against its model: the median over its readings; None where it has none on the axis."""
    on_axis = tuple(reading for reading in unit_readings if reading.is_on_axis and not reading.modifier_slug)
    if not on_axis:
        return None
    wanted = np.array([level_lx(model, reading.throw_m) for reading in on_axis])
    return Figure(value=float(np.median(np.log2(at_full_lx(on_axis, head) / wanted))), origin=Origin.MEASURED)


def measured_head(head: Head, readings: tuple[Reading, ...]) -> Head:
    """The head with watts as a meter at the plug found them at full output, and its output at several settings;
    unchanged where nobody looked.
    """
    points = setting_points(head, readings)
    if points:
        head = replace(head, setting_points=points)
    watts = [reading.watts for reading in readings if reading.watts is not None and reading.setting >= 0.999]
    if not watts:
        return head
    full_w = Figure(value=float(np.median(watts)), origin=Origin.MEASURED)
    nameplate_w = head.nameplate_w or head.draw.full_w.value
    idle_w = min(head.draw.idle_w, full_w.value)
    return replace(head, draw=replace(head.draw, full_w=full_w, idle_w=idle_w), nameplate_w=nameplate_w)
