"""How much of the light a lamp gives at a setting of its dimmer."""

from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.errors import BadValue


class DimmingCurve(StrEnum):
    """The maker's word for it; ``MEASURED`` goes by points that a meter gave."""

    LINEAR = "linear"
    SQUARE = "square"
    S_SHAPED = "S"
    MEASURED = "measured"


@dataclass(frozen=True, slots=True, kw_only=True)
class Dimming:
    """Settings and outputs are shares from 0 to 1. ``points``: (setting, output), for a measured curve alone.

    Source: linear L = s; square L = s^2; S-shaped L = s^2 (3 - 2 s), the typical smooth step.
    """

    curve: DimmingCurve = DimmingCurve.LINEAR
    points: tuple[tuple[float, float], ...] = ()

    def __post_init__(self) -> None:
        if (self.curve is DimmingCurve.MEASURED) != bool(self.points):
            raise BadValue("dimming points", len(self.points), "two or more for a measured curve, none for another")
        if not self.points:
            return
        settings, outputs = np.array(self.points, dtype=float).T
        rising = (np.diff(settings) > 0).all() and (np.diff(outputs) > 0).all()
        if len(self.points) < 2 or not rising or min(self.points[0]) < 0.0 or self.points[-1] != (1.0, 1.0):
            raise BadValue("dimming points", self.points, "settings and outputs that rise together and end at 1, 1")

    def output(self, setting: Floats) -> Array:
        """Share of full output at a setting.

        Below the first measured point the light falls in a straight line to nothing.
        """
        share = np.clip(np.asarray(setting, dtype=float), 0.0, 1.0)
        match self.curve:
            case DimmingCurve.SQUARE:
                return np.asarray(np.square(share))
            case DimmingCurve.S_SHAPED:
                return np.asarray(share**2 * (3.0 - 2.0 * share))
            case DimmingCurve.MEASURED:
                settings, outputs = self._table()
                return np.asarray(np.interp(share, settings, outputs))
        return np.asarray(share)

    def setting(self, output: Floats) -> Array:
        """The setting that gives a share of full output: the inverse of ``output``."""
        level = np.clip(np.asarray(output, dtype=float), 0.0, 1.0)
        match self.curve:
            case DimmingCurve.SQUARE:
                return np.asarray(np.sqrt(level))
            case DimmingCurve.S_SHAPED:
                return np.asarray(0.5 - np.sin(np.arcsin(1.0 - 2.0 * level) / 3.0))
            case DimmingCurve.MEASURED:
                settings, outputs = self._table()
                return np.asarray(np.interp(level, outputs, settings))
        return np.asarray(level)

    def _table(self) -> tuple[Array, Array]:
        settings, outputs = np.array(self.points, dtype=float).T
        if settings[0] > 0.0 and outputs[0] > 0.0:
            settings, outputs = np.insert(settings, 0, 0.0), np.insert(outputs, 0, 0.0)
        return settings, outputs
