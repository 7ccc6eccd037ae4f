"""What the boards of a pass do with the sun: at whom they throw it, aimed how, for how long, and when at all."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.days.reflector import Aim, Reflector, aim_times, aimed, lasts, reaches
from iron_bucket.core.figure import Origin
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import Board
from iron_bucket.core.modifiers.lobe import MIRROR_DEG
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.scene.blocking import Blocker, Blockers, passing
from iron_bucket.core.scene.sunlight import SUN_AT_M, beam_lx
from iron_bucket.core.setups.plan.setup import PlacedFrame, Setup
from iron_bucket.core.setups.scene.build_scene import position_of, scene_frame, solid_of

#: A board is aimed anew when what it throws has drifted so far; wider lobes throw no beam to speak of.
DRIFT_DEG, _WIDEST_DEG = 2.0, 45.0
#: So much of it in a face is told with a caution.
_GLARE_LX = 20_000.0
_EVERY = timedelta(minutes=10)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ThrownSun:
    """A board of the set-up and the person it throws at. ``through``: the share that walls, cloths and nets let
    straight through on its way to the mark; ``until``: when it is to be aimed anew; ``spans``: when it can throw;
    ``reaching_lx``: what of the sun is left for it; ``origin``: of its reflectance.
    """

    name: str
    mark: str
    at_m: Array
    mark_m: Array
    aim: Aim | None
    through: float
    until: datetime | None
    spans: tuple[tuple[datetime, datetime], ...]
    reaching_lx: float
    reflector: Reflector
    origin: Origin

    @property
    def is_glare(self) -> bool:
        """Whether nobody should look into it."""
        return self.aim is not None and self.aim.illuminance_lx > _GLARE_LX


def thrown_sun(
    setup: Setup,
    around: Surroundings,
    when: datetime,
    midnight: datetime,
    gear: Gear,
    rules: HouseRules,
    *,
    bends_deg: float = 0.0,
) -> Iterator[ThrownSun]:
    """Boards that throw a beam, at the first person; matt ones throw none. ``bends_deg``: so far to each side they are
    not flat, besides what their surface scatters.
    """
    for placed, way in _throwing(setup, around, gear, rules, bends_deg):
        reflector = way.reflector
        aim = aimed(reflector, way.towards(when), way.reaching_lx(when))
        times = [midnight + step * _EVERY for step in range(144)]
        yield ThrownSun(
            name=placed.name,
            mark=setup.people[0].name,
            at_m=reflector.at_m,
            mark_m=reflector.mark_m,
            aim=aim if aim and aim.illuminance_lx > 0.0 else None,
            through=way.through,
            until=when + lasts(reflector, when, way.towards, DRIFT_DEG) if aim else None,
            spans=reaches(reflector, times, way.towards, way.reaching_lx) if way.through else (),
            reaching_lx=way.reaching_lx(when),
            reflector=reflector,
            origin=gear.by_slug(Board, placed.board).reflectance.origin,
        )


def board_aims(
    setup: Setup, around: Surroundings, start: datetime, end: datetime, gear: Gear, rules: HouseRules
) -> tuple[tuple[str, tuple[datetime, ...]], ...]:
    """By the names of the boards that throw the sun, when each is aimed while a pass is shot."""
    told = (
        (placed.name, aim_times(way.reflector, start, end, way.towards, DRIFT_DEG))
        for placed, way in _throwing(setup, around, gear, rules)
        if way.reaching_lx(start) > 0.0
    )
    return tuple((name, times) for name, times in told if times)


def _throwing(
    setup: Setup, around: Surroundings, gear: Gear, rules: HouseRules, bends_deg: float = 0.0
) -> Iterator[tuple[PlacedFrame, "_Way"]]:
    """Boards that throw a beam, at the first person; matt ones throw none."""
    person = next(iter(setup.people), None)
    for placed in setup.frames if person else ():
        board = gear.find(Board, placed.board)
        if person is None or board is None or board.lobe_deg > _WIDEST_DEG:
            continue
        if np.allclose(position_of(placed), position_of(person)):
            continue
        reflector = Reflector(
            at_m=position_of(placed),
            mark_m=position_of(person),
            width_m=board.width_m,
            height_m=board.height_m,
            reflectance=board.reflectance.value,
            spread_deg=min((0.0 if board.lobe_deg < MIRROR_DEG else board.lobe_deg) + 2.0 * bends_deg, 60.0),
        )
        stands = _stands(setup, placed, around, gear, rules)
        yield placed, _Way(reflector=reflector, setup=setup, around=around, stands=stands)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Way:
    """From the sun over a board to its mark, through what ``stands`` there."""

    reflector: Reflector
    setup: Setup
    around: Surroundings
    stands: Blockers

    @property
    def through(self) -> float:
        return self._passes(self.reflector.at_m, self.reflector.mark_m)

    def towards(self, at: datetime) -> Array:
        there = self.around.sun(at)
        return along_bearing(self.around.sun_bearing_deg(there), there.altitude_deg)

    def reaching_lx(self, at: datetime) -> float:
        """What of the sun is left when it has come to the board and on to the mark."""
        beam = self.around.sun_light(at, self.setup.weather)
        far = self.reflector.at_m + SUN_AT_M * self.towards(at)
        return beam_lx(beam.light) * self._passes(far, self.reflector.at_m) * self.through if beam else 0.0

    def _passes(self, start_m: Array, end_m: Array) -> float:
        return float(passing(start_m[None], end_m[None], self.stands)[0, 0])


def _stands(setup: Setup, board: PlacedFrame, around: Surroundings, gear: Gear, rules: HouseRules) -> Blockers:
    """Walls, other frames by what they let straight through, flags and nets."""
    frames = [scene_frame(each, gear) for each in setup.frames if each is not board]
    solids = [solid_of(each, rules) for each in setup.flags]
    return Blockers.of(
        [
            *around.walls,
            *(Blocker(panel=each.panel, passes=each.straight_transmittance) for each in frames),
            *(Blocker(panel=each.panel, passes=each.transmittance) for each in solids),
        ]
    )
