"""What stands round a place and hides a low sun: hills, houses, trees, by bearing and angle."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.checks import require_at_most, require_between

#: Read from a phone's level, walking round; no more than a circle in steps of three degrees.
MOST_POINTS = 120


@dataclass(frozen=True, slots=True, kw_only=True)
class Horizon:
    """``points``: azimuth, clockwise from true north, and how high what stands there reaches; straight in between, all
    round. Without points nothing stands anywhere.
    """

    points: tuple[tuple[float, float], ...] = ()

    def __post_init__(self) -> None:
        require_at_most("points of the horizon", len(self.points), MOST_POINTS)
        for azimuth_deg, angle_deg in self.points:
            require_between("bearing of the horizon", azimuth_deg, low=0.0, high=360.0, unit="degrees")
            require_between("angle of the horizon", angle_deg, low=0.0, high=89.0, unit="degrees")

    def angle_deg(self, azimuth_deg: float) -> float:
        """How high it reaches there."""
        if not self.points:
            return 0.0
        azimuths, angles = zip(*sorted(self.points), strict=True)
        return float(np.interp(azimuth_deg, azimuths, angles, period=360.0))

    def hides(self, altitude_deg: float, azimuth_deg: float) -> bool:
        """Whether something at that height stands behind it; a bare horizon hides nothing above it."""
        return bool(self.points) and altitude_deg < self.angle_deg(azimuth_deg)
