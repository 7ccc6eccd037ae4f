"""The incident-light equation, both ways: the lux a camera wants, and the camera that some lux want.

Source: ISO 2720:1974, E = C N^2 / (t S), here with the light lost in filters made up for: E = C N^2 2^stops / (t S).
"""

import math
from dataclasses import dataclass
from enum import StrEnum

from iron_bucket.core.checks import require_between, require_positive
from iron_bucket.core.constants import METER_CONSTANT_DOME, METER_CONSTANT_FLAT
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.quantities.rounding import at_most


class Receptor(StrEnum):
    """The meter's receptor; each has its own constant."""

    FLAT = "flat"
    DOME = "dome"

    @property
    def constant(self) -> float:
        """C of the source equation."""
        return METER_CONSTANT_FLAT if self is Receptor.FLAT else METER_CONSTANT_DOME


@dataclass(frozen=True, slots=True, kw_only=True)
class Camera:
    """What fixes the exposure. ``filter_stops`` adds up ND and every other filter."""

    t_stop: float
    iso: float
    time_s: float
    filter_stops: float = 0.0

    def __post_init__(self) -> None:
        require_between("t_stop", self.t_stop, low=0.3, high=512.0, unit="")
        require_between("iso", self.iso, low=0.1, high=1e8, unit="")
        require_between("time_s", self.time_s, low=1e-7, high=86400.0, unit="s")
        require_between("filter_stops", self.filter_stops, low=0.0, high=40.0, unit="stops")


def illuminance_lx(camera: Camera, receptor: Receptor) -> float:
    """Lux at the subject that this camera calls for."""
    return float(receptor.constant * camera.t_stop**2 * 2.0**camera.filter_stops / (camera.time_s * camera.iso))


def exposure_value(*, t_stop: float, time_s: float) -> float:
    """EV at ISO 100 scale. Source: EV = log2(N^2 / t)."""
    require_positive("t_stop", t_stop, unit="")
    require_positive("time_s", time_s, unit="s")
    return math.log2(t_stop**2 / time_s)


def t_stop_for(level_lx: float, *, iso: float, time_s: float, filter_stops: float, receptor: Receptor) -> float:
    """The stop at which ``level_lx`` is middle exposure."""
    require_positive("illuminance_lx", level_lx, unit="lx")
    at_one = illuminance_lx(Camera(t_stop=1.0, iso=iso, time_s=time_s, filter_stops=filter_stops), receptor)
    return math.sqrt(level_lx / at_one)


def iso_for(level_lx: float, *, t_stop: float, time_s: float, filter_stops: float, receptor: Receptor) -> float:
    """The exposure index at which ``level_lx`` is middle exposure."""
    require_positive("illuminance_lx", level_lx, unit="lx")
    return illuminance_lx(Camera(t_stop=t_stop, iso=1.0, time_s=time_s, filter_stops=filter_stops), receptor) / level_lx


def time_s_for(level_lx: float, *, t_stop: float, iso: float, filter_stops: float, receptor: Receptor) -> float:
    """The exposure time at which ``level_lx`` is middle exposure."""
    require_positive("illuminance_lx", level_lx, unit="lx")
    return illuminance_lx(Camera(t_stop=t_stop, iso=iso, time_s=1.0, filter_stops=filter_stops), receptor) / level_lx


def filter_stops_for(level_lx: float, *, t_stop: float, iso: float, time_s: float, receptor: Receptor) -> float:
    """Stops of filter that bring ``level_lx`` down to middle exposure.

    Raises: NoAnswer where the level is too low already: no filter adds light.
    """
    require_positive("illuminance_lx", level_lx, unit="lx")
    bare_lx = illuminance_lx(Camera(t_stop=t_stop, iso=iso, time_s=time_s), receptor)
    stops = math.log2(level_lx / bare_lx)
    if not at_most(0.0, stops):
        raise NoAnswer(
            f"{level_lx:g} lx is {-stops:.1f} stops too little even without a filter; this camera calls for"
            f" {bare_lx:.4g} lx"
        )
    return max(stops, 0.0)
