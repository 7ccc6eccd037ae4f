"""A board that throws the sun at a mark: how it is aimed by the hour, what it throws, and when it is aimed anew."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from iron_bucket.core.arrays import Array, angle_rad, runs, units
from iron_bucket.core.checks import require_between, require_share
from iron_bucket.core.places.bearing import bearing_of, tilt_of
from iron_bucket.core.scene.sunlight import SUN_DEG

#: A board turned farther from the sun than this shows it next to nothing of itself.
_FLATTEST_COSINE = 0.17
#: So finely is the way of the sun followed.
_STEP = timedelta(seconds=30)
_LONGEST = timedelta(hours=2)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Reflector:
    """A board ``at_m`` that throws at ``mark_m``, shapes (3,). ``spread_deg``: half width of what it scatters, by its
    surface and by how flat it is held; 0 is a flat mirror.
    """

    at_m: Array
    mark_m: Array
    width_m: float
    height_m: float
    reflectance: float
    spread_deg: float = 0.0

    def __post_init__(self) -> None:
        require_share("reflectance", self.reflectance)
        require_between("spread", self.spread_deg, low=0.0, high=60.0, unit="degrees")

    @property
    def throw_m(self) -> float:
        """To the mark."""
        return float(np.linalg.norm(self.mark_m - self.at_m))

    @property
    def towards_mark(self) -> Array:
        """Shape (3,), of length 1."""
        return np.asarray((self.mark_m - self.at_m) / self.throw_m)


@dataclass(frozen=True, slots=True, kw_only=True)
class Aim:
    """``bearing_deg`` on the plan and ``tilt_deg`` of the board's front; ``illuminance_lx`` square to the ray at the
    mark; ``patch_m``: width and height of what it lights there; ``cosine``: how much of its face it shows the sun.
    """

    bearing_deg: float
    tilt_deg: float
    illuminance_lx: float
    patch_m: tuple[float, float]
    cosine: float


def aimed(board: Reflector, towards_sun: Array, sun_lx: float) -> Aim | None:
    """None where the sun stands so that no aim shows enough of the board to both.

    Source: mirror law, the front halves the angle between sun and mark; E = rho E_sun A cos / A_patch, the patch
    growing by the sun's half degree and by what the surface scatters.
    """
    if not _throws(board, towards_sun):
        return None
    front = _front(board, towards_sun)
    cosine = float(front @ towards_sun)
    grows = 2.0 * board.throw_m * float(np.tan(np.radians(board.spread_deg + SUN_DEG / 2.0)))
    patch = (board.width_m * cosine + grows, board.height_m + grows)
    share = board.width_m * board.height_m * cosine / (patch[0] * patch[1])
    return Aim(
        bearing_deg=bearing_of(front),
        tilt_deg=tilt_of(front),
        illuminance_lx=board.reflectance * sun_lx * share,
        patch_m=patch,
        cosine=cosine,
    )


def _front(board: Reflector, towards_sun: Array) -> Array:
    """Where it faces to throw at its mark. Shape (3,)."""
    return units(towards_sun + board.towards_mark)


def _throws(board: Reflector, towards_sun: Array) -> bool:
    return bool(towards_sun[2] > 0.0 and _front(board, towards_sun) @ towards_sun >= _FLATTEST_COSINE)


def off_deg(board: Reflector, aimed_at: Array, towards_sun: Array) -> float:
    """How far beside the mark it throws, aimed for one place of the sun, when that stands at another."""
    front = _front(board, aimed_at)
    thrown = 2.0 * (front @ towards_sun) * front - towards_sun
    return float(np.degrees(angle_rad(thrown @ board.towards_mark)))


def lasts(board: Reflector, when: datetime, towards_sun: Callable[[datetime], Array], drift_deg: float) -> timedelta:
    """Until what it throws has drifted so far beside the mark; two hours at most."""
    require_between("drift", drift_deg, low=0.1, high=45.0, unit="degrees")
    aimed_at, past = towards_sun(when), timedelta()
    while past < _LONGEST and off_deg(board, aimed_at, towards_sun(when + past + _STEP)) <= drift_deg:
        past += _STEP
    return past


def aim_times(
    board: Reflector, start: datetime, end: datetime, towards_sun: Callable[[datetime], Array], drift_deg: float
) -> tuple[datetime, ...]:
    """When it is to be aimed from ``start`` to ``end``, the first time then, so that it never drifts farther."""
    found, when = [], start
    while when < end and _throws(board, towards_sun(when)):
        found.append(when)
        when += max(lasts(board, when, towards_sun, drift_deg), _STEP)
    return tuple(found)


def reaches(
    board: Reflector,
    times: Sequence[datetime],
    towards_sun: Callable[[datetime], Array],
    sun_lx: Callable[[datetime], float],
) -> tuple[tuple[datetime, datetime], ...]:
    """From when to when it can throw at all, of times that follow one another. ``sun_lx``: what of the sun reaches
    it.
    """
    can = [sun_lx(when) > 0.0 and _throws(board, towards_sun(when)) for when in times]
    return tuple((times[a], times[b]) for a, b in runs(np.array(can)))
