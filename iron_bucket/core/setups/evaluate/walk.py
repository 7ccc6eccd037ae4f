"""How somebody is lit on a walk from position to position, and where on the way it is worst."""

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import pairwise
from string import ascii_uppercase

import numpy as np

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.bearing import turn_between
from iron_bucket.core.quantities.rounding import whole_up
from iron_bucket.core.scene.fineness import PASSING
from iron_bucket.core.scene.mark_levels import banded_response, in_bands
from iron_bucket.core.setups.evaluate.ladder import DEEPEST_STOPS
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene, ResponseFor
from iron_bucket.core.setups.plan.setup import TYPICAL_TOLERANCE_STOPS, Person, Piece, Setup
from iron_bucket.core.setups.scene.build_scene import BuiltScene, build_scene

#: On the way one looks so often, and never more often than this between two positions.
_STEP_M, _MOST_STEPS = 0.4, 8
_PLACE = ("x_m", "y_m", "z_m")
#: Letters of a name that still leave room for the position's own.
_ROOM_FOR_NAME = 70


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """``name`` of a position, empty on the way; ``along_m`` from the first; sides in stops from the exposure.

    ``key_by_light``: what makes up the key side, the brightest first, each by its name and in lux.
    """

    name: str
    along_m: float
    x_m: float
    y_m: float
    key_stops: float
    shadow_stops: float
    key_by_light: tuple[tuple[str, float], ...]

    @property
    def key_lx(self) -> float:
        """All of it together."""
        return sum(lx for _, lx in self.key_by_light)


@dataclass(frozen=True, slots=True, kw_only=True)
class Walk:
    """``wanted``: the target of the key side, else what it has at the first position."""

    person: Person
    steps: tuple[Step, ...]
    wanted: float
    tolerance: float

    @property
    def positions(self) -> tuple[Step, ...]:
        """Where somebody stands, first to last."""
        return tuple(step for step in self.steps if step.name)

    @property
    def worst(self) -> Step:
        """Where the key side is farthest from what is wanted."""
        return max(self.steps, key=lambda step: abs(step.key_stops - self.wanted))

    @property
    def holds(self) -> bool:
        """Whether it stays within the tolerance all the way."""
        return abs(self.worst.key_stops - self.wanted) <= self.tolerance

    def between(self, step: Step) -> tuple[str, str]:
        """The positions before and behind a step; the same twice where it is one of them."""
        before = [each.name for each in self.positions if each.along_m <= step.along_m]
        behind = [each.name for each in self.positions if each.along_m >= step.along_m]
        return before[-1], behind[0]


def walks(now: LitScene, gear: Gear, rules: HouseRules, response_for: ResponseFor) -> tuple[Walk, ...]:
    """Of everybody who has more than one position, in the order of the set-up.

    At each position all is computed with the person there; on the way what comes off the walls is taken between the
    two, because it is smooth.
    """
    return tuple(
        _walk(now, person, gear, rules, response_for)
        for person in now.built.setup.people
        if now.built.setup.positions_of(person.piece_id)
    )


def _walk(now: LitScene, person: Person, gear: Gear, rules: HouseRules, response_for: ResponseFor) -> Walk:
    setup, around = now.built.setup, now.built.surroundings
    wanted_lx = setup.look.wanted_lx(rules.receptor)
    stops: tuple[Piece, ...] = (person, *setup.positions_of(person.piece_id))
    names = ["A", *(each.name.removeprefix(person.name).strip() or each.name for each in stops[1:])]

    def built_at(piece: Piece) -> BuiltScene:
        there = {name: getattr(piece, name) for name in (*_PLACE, "bearing_deg")}
        return build_scene(setup.with_piece(person.piece_id, **there), around, gear, rules)

    lit = [now, *(LitScene(built=built, banded=response_for(built)) for built in map(built_at, stops[1:]))]
    steps, along_m = [_step(lit[0], person, names[0], 0.0, wanted_lx)], 0.0
    for (start, end), (before, after), name in zip(pairwise(stops), pairwise(lit), names[1:], strict=True):
        length_m = math.dist((start.x_m, start.y_m), (end.x_m, end.y_m))
        for share, piece in _on_the_way(start, end, length_m):
            passing = _passing(built_at(piece), before, after, share)
            steps.append(_step(passing, person, "", along_m + share * length_m, wanted_lx, piece))
        along_m += length_m
        steps.append(_step(after, person, name, along_m, wanted_lx, end))
    target = next((each for each in setup.targets if each.mark == f"{person.piece_id}.key"), None)
    return Walk(
        person=person,
        steps=tuple(steps),
        wanted=target.stops if target else steps[0].key_stops,
        tolerance=target.tolerance if target else TYPICAL_TOLERANCE_STOPS,
    )


def _on_the_way(start: Piece, end: Piece, length_m: float) -> Iterator[tuple[float, Piece]]:
    """Places between two positions, turned evenly from one to the other."""
    count = min(whole_up(length_m / _STEP_M), _MOST_STEPS)
    turn = turn_between(start.bearing_deg, end.bearing_deg)
    for share in np.linspace(0.0, 1.0, count + 1)[1:-1].tolist():
        yield (
            share,
            replace(
                start,
                **{name: (1.0 - share) * getattr(start, name) + share * getattr(end, name) for name in _PLACE},
                bearing_deg=start.bearing_deg + share * turn,
            ),
        )


def _passing(built: BuiltScene, before: LitScene, after: LitScene, share: float) -> LitScene:
    straight = banded_response(built.scene, with_walls=False, fineness=PASSING)
    off_walls = [
        (1.0 - share) * one.indirect_lx + share * other.indirect_lx
        for one, other in zip(before.banded, after.banded, strict=True)
    ]
    banded = zip(in_bands(straight, len(off_walls)), off_walls, strict=True)
    return LitScene(built=built, banded=tuple(replace(each, indirect_lx=lux) for each, lux in banded))


def _step(
    lit: LitScene, person: Person, name: str, along_m: float, wanted_lx: float, piece: Piece | None = None
) -> Step:
    at, total, by_light = piece or person, lit.total_lx, lit.by_light_lx
    places = [lit.place_of(f"{person.piece_id}.{side}") for side in ("key", "shadow")]
    key, shadow = (max(math.log2(max(float(total[place]), DARK_LX) / wanted_lx), DEEPEST_STOPS) for place in places)
    given = zip((light.name for light in lit.built.lights), by_light[:, places[0]].tolist(), strict=True)
    return Step(
        name=name,
        along_m=along_m,
        x_m=at.x_m,
        y_m=at.y_m,
        key_stops=key,
        shadow_stops=shadow,
        key_by_light=tuple(sorted((row for row in given if row[1] > 0.0), key=lambda row: -row[1])),
    )


def next_position_name(setup: Setup, person: Person) -> str:
    """What the next position of somebody is called: with B, C or the first letter that none of theirs has."""
    taken = {each.name for each in setup.positions_of(person.piece_id)}
    names = (f"{person.name[:_ROOM_FOR_NAME]} {letter}" for letter in ascii_uppercase[1:])
    return next(name for name in names if name not in taken)
