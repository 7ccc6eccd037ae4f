"""Levels of the lamps placed, set for all targets at once."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.scene.solve import FAINTEST, SolvedLevels, solve_levels
from iron_bucket.core.setups.evaluate.ladder import Rung, RungKind, ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene
from iron_bucket.core.setups.plan.changes import Change, set_piece
from iron_bucket.core.setups.plan.look import MIDDLE_GREY
from iron_bucket.core.setups.plan.setup import Target
from iron_bucket.core.setups.plan.written import dialled

#: The key side may become the other one while levels move.
_ROUNDS = 3
#: A lamp this near its lowest is tried without; it stays off unless all misses together grow by more than this.
_NEAR_LOWEST, _WORSE_STOPS2 = 1.5, 0.005


@dataclass(frozen=True, slots=True, kw_only=True)
class Missed:
    """A target that stays outside its tolerance, and what is in the way; ``miss_stops`` above 0 is too bright."""

    name: str
    miss_stops: float
    because: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SolvedSetup:
    """``changes``: the levels to set, and lamps to switch off.

    ``misses``: targets that dimmers do not bring within their tolerance. ``beyond``: those that no lamp which is on
    reaches. ``switched_off``: the names of lamps that nothing needs.
    """

    changes: tuple[Change, ...]
    misses: tuple[Missed, ...]
    beyond: tuple[str, ...] = ()
    switched_off: tuple[str, ...] = ()


def solved_setup(lit: LitScene, receptor: Receptor, *, may_switch_off: bool = True) -> SolvedSetup:
    """Dimmers for every target on a face or a surface; daylight, house lamps and locked lamps stay as they are.

    Raises: NoAnswer where there is no target, or no lamp that may be dimmed or reaches any.
    """
    free = [
        at
        for at, light in enumerate(lit.built.lights)
        if light.placed and light.placed.is_on and not light.placed.is_locked
    ]
    if not free:
        raise NoAnswer("no lamp of ours is on and dimmable")
    best = _settled(lit, receptor, free)
    off: set[int] = set()
    lowest = {at: max(lit.built.lights[at].lowest, FAINTEST) for at in free}
    for at in sorted(free, key=lambda at: float(best.levels[at] * lit.response.whole_lx[at].sum())):
        if not may_switch_off or best.levels[at] > _NEAR_LOWEST * lowest[at] or len(off) + 1 == len(free):
            continue
        without = _settled(_burning(lit, np.where(np.arange(len(best.levels)) == at, 0.0, best.levels)), receptor, free)
        if without.names == best.names and without.off_stops2 <= best.off_stops2 + _WORSE_STOPS2:
            best, off = without, off | {at}
    changes = []
    for at in free:
        placed = lit.built.lights[at].placed
        if placed is not None and at in off:
            changes.append(set_piece("lamps", placed.piece_id, is_on=False))
        elif placed is not None and abs(best.levels[at] - placed.level) > 1e-4:
            changes.append(set_piece("lamps", placed.piece_id, level=dialled(float(best.levels[at]))))
    return SolvedSetup(
        changes=tuple(changes),
        misses=tuple(best.missed()),
        beyond=best.beyond,
        switched_off=tuple(lit.built.lights[at].name for at in sorted(off)),
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Settled:
    """Solved levels of all lights (L,), and the targets that they were solved for, with their tolerances."""

    levels: Array
    solved: SolvedLevels
    wanted_lx: Array
    names: tuple[str, ...]
    tolerances: Array
    beyond: tuple[str, ...]

    @property
    def off_stops2(self) -> float:
        """All misses together, squared."""
        return float(np.square(self.solved.miss_stops).sum())

    def missed(self) -> Iterator[Missed]:
        """What lies outside its tolerance."""
        for at, name in enumerate(self.names):
            miss = float(self.solved.miss_stops[at])
            if abs(miss) > self.tolerances[at]:
                yield Missed(name=name, miss_stops=miss, because=self._because(at))

    def _because(self, at: int) -> str:
        """What is in the way of one target."""
        others = [self.names[other] for missed, other in self.solved.fights if missed == at]
        if others:
            return f"because of {' and '.join(others)}"
        if self.solved.most_lx[at] < self.wanted_lx[at]:
            return "with every lamp that is on at full"
        if self.solved.least_lx[at] > self.wanted_lx[at]:
            return "by what cannot be dimmed further"
        return "between the other targets"


def _burning(lit: LitScene, levels: Array) -> LitScene:
    """The same scene with its lights at other levels."""
    every = zip(lit.built.lights, levels, strict=True)
    lights = tuple(replace(light, level=float(level)) for light, level in every)
    return LitScene(built=replace(lit.built, lights=lights), banded=lit.banded)


def _settled(lit: LitScene, receptor: Receptor, free: list[int]) -> _Settled:
    """Solved until the key side stays where it is."""
    found = _once(lit, receptor, free)
    for _ in range(_ROUNDS - 1):
        again = _once(_burning(lit, found.levels), receptor, free)
        if np.allclose(again.levels, found.levels, rtol=1e-3):
            return again
        found = again
    return found


def _once(lit: LitScene, receptor: Receptor, free: list[int]) -> _Settled:
    """Solved with the key side where it is now."""
    every = ladder_of(lit, receptor).rungs
    asked = [(each, each.target) for each in every if each.target and each.kind is not RungKind.WINDOW]
    if not asked:
        raise NoAnswer("no target is set on a face or a surface; set one first")
    whole_lx = lit.response.whole_lx
    unit = np.array([whole_lx[:, lit.place_of(rung.mark_id)] for rung, _ in asked]).T
    fixed = np.ones(len(lit.built.lights), dtype=bool)
    fixed[free] = False
    # What may not be dimmed enters as a light that burns at its level whatever the dimmers do.
    unit = np.where(fixed[:, None], lit.built.levels[:, None] * unit, unit)
    now = np.where(fixed, (lit.built.levels > 0.0).astype(float), lit.built.levels)
    reached = unit[now > 0.0].sum(axis=0) > DARK_LX
    names = [rung.name for rung, _ in asked]
    if not reached.any():
        raise NoAnswer(f"no lamp that is on reaches {' or '.join(names)}")
    lowest = np.array(
        [
            1.0 if is_fixed else max(light.lowest, FAINTEST)
            for light, is_fixed in zip(lit.built.lights, fixed, strict=True)
        ]
    )
    wanted = np.array([wanted_lx(lit, rung, target, receptor) for rung, target in asked])
    reachable = [name for name, is_reached in zip(names, reached, strict=True) if is_reached]
    solved = solve_levels(unit[:, reached], wanted[reached], now, lowest, reachable)
    tolerances = np.array([target.tolerance for _, target in asked])
    return _Settled(
        levels=np.where(fixed, lit.built.levels, solved.levels),
        solved=solved,
        wanted_lx=wanted[reached],
        names=tuple(reachable),
        tolerances=tolerances[reached],
        beyond=tuple(name for name in names if name not in reachable),
    )


def wanted_lx(lit: LitScene, rung: Rung, target: Target, receptor: Receptor) -> float:
    """The level that puts a rung on its target. Source: a surface needs 0.18 / rho times what a face needs."""
    place = lit.place_of(rung.mark_id)
    reflectance = None if place is None else lit.built.marks[place].reflectance
    share = 1.0 if reflectance is None else MIDDLE_GREY / max(reflectance, 0.01)
    return float(lit.built.setup.look.wanted_lx(receptor) * 2.0**target.stops * share)
