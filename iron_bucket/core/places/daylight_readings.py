"""Readings of daylight carried through the day: each is a ratio to what is computed for its own hour and weather."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.places.place import AmbientReading

#: Typical: a day changes so fast that after so many hours a ratio has faded to its 1/e-th power. Source: docs/craft.md,
#: section 3.
FADES_H = 2.0
#: Within so many hours the light counts as measured.
MEASURED_WITHIN_H = 1.5
#: Two readings that lie further apart than this cannot both be right.
DISAGREE_STOPS = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingFactor:
    """A reading, and how many times more (or less) daylight it found than was computed.

    ``shift``: how much warmer (mired) and greener (Duv) that daylight was; None where no colour was read.
    """

    reading: AmbientReading
    factor: float
    shift: tuple[float, float] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Carried:
    """What daylight is multiplied by at a time, and whether a reading lies near enough to call it measured."""

    factor: float
    is_measured: bool
    shift_mired: float = 0.0
    shift_duv: float = 0.0
    is_colour_measured: bool = False


def hours_apart(one: datetime, other: datetime) -> float:
    """Between two times of day, the short way round the clock; on which day does not matter."""
    apart = abs((one.hour - other.hour) + (one.minute - other.minute) / 60.0)
    return min(apart, 24.0 - apart)


def carried(factors: Sequence[ReadingFactor], when: datetime) -> Carried | None:
    """The median of the ratios by their nearness, faded by the hours from the nearest; None without readings.

    Source: docs/craft.md, section 3: factor ^ exp(-hours / 2).
    """
    if not factors:
        return None
    rising = sorted(factors, key=lambda each: each.factor)
    hours = np.array([hours_apart(each.reading.taken_at, when) for each in rising])
    passed = np.cumsum(np.exp(-hours / FADES_H))
    median = rising[int(np.searchsorted(passed, passed[-1] / 2.0))].factor
    nearest_h = float(hours.min())
    return Carried(
        factor=median ** math.exp(-nearest_h / FADES_H),
        is_measured=nearest_h <= MEASURED_WITHIN_H,
        **_colour_carried(rising, hours),
    )


def _colour_carried(factors: Sequence[ReadingFactor], hours: Array) -> dict[str, Any]:
    """The mean shift by nearness, faded like the level."""
    read = [(each.shift, float(apart)) for each, apart in zip(factors, hours, strict=True) if each.shift is not None]
    if not read:
        return {}
    shifts, apart = np.array([shift for shift, _ in read]), np.array([hour for _, hour in read])
    nearest_h = float(apart.min())
    mired, duv = np.average(shifts, axis=0, weights=np.exp(-apart / FADES_H)) * math.exp(-nearest_h / FADES_H)
    return {"shift_mired": float(mired), "shift_duv": float(duv), "is_colour_measured": nearest_h <= MEASURED_WITHIN_H}


def disagreeing(factors: Sequence[ReadingFactor]) -> tuple[tuple[ReadingFactor, ReadingFactor, float], ...]:
    """Pairs that tell of different days: the lower, the higher, and by how many stops."""
    pairs = []
    for at, one in enumerate(factors):
        for other in factors[at + 1 :]:
            low, high = sorted((one, other), key=lambda each: each.factor)
            stops = math.log2(high.factor / low.factor)
            if stops > DISAGREE_STOPS:
                pairs.append((low, high, stops))
    return tuple(pairs)
