"""Levels of the lamps placed, set for all targets at once."""

from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.scene.solve import FAINTEST, SolvedLevels, solve_levels
from iron_bucket.core.setups.evaluate.ladder import Rung, RungKind, ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene
from iron_bucket.core.setups.plan.changes import Change, set_piece
from iron_bucket.core.setups.plan.look import MIDDLE_GREY

#: The key side may become the other one while levels move.
_ROUNDS = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Fight:
    """Two targets of which one would be met without the other."""

    missed: str
    other: str
    miss_stops: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SolvedSetup:
    """``changes``: the levels to set.

    ``fights``: targets that cannot both be met by dimmers alone. ``beyond``: those that no lamp which is on reaches.
    """

    changes: tuple[Change, ...]
    fights: tuple[Fight, ...]
    beyond: tuple[str, ...] = ()


def solved_setup(lit: LitScene, receptor: Receptor) -> SolvedSetup:
    """Dimmers for every target on a face or a surface; daylight, house lamps and locked lamps stay as they are.

    Raises: NoAnswer where there is no target, or no lamp that may be dimmed or reaches any.
    """
    free = [
        at
        for at, light in enumerate(lit.built.lights)
        if light.placed and light.placed.is_on and not light.placed.is_locked
    ]
    if not free:
        raise NoAnswer("no lamp of ours is on and free to be dimmed")
    levels, found = lit.built.levels, None
    names: list[str] = []
    beyond: list[str] = []
    for _ in range(_ROUNDS):
        now = LitScene(
            built=replace(
                lit.built,
                lights=tuple(
                    replace(light, level=float(level)) for light, level in zip(lit.built.lights, levels, strict=True)
                ),
            ),
            response=lit.response,
        )
        found, names, beyond = _once(now, receptor, free)
        if np.allclose(found.levels, levels, rtol=1e-3):
            break
        levels = found.levels
    if found is None:
        raise NoAnswer("there was nothing to solve")
    changes = []
    for at in free:
        placed = lit.built.lights[at].placed
        if placed is not None and abs(found.levels[at] - placed.level) > 1e-4:
            changes.append(set_piece("lamps", placed.piece_id, level=round(float(found.levels[at]), 4)))
    fights = tuple(
        Fight(missed=names[missed], other=names[other], miss_stops=float(found.miss_stops[missed]))
        for missed, other in found.fights
    )
    return SolvedSetup(changes=tuple(changes), fights=fights, beyond=tuple(beyond))


def _once(lit: LitScene, receptor: Receptor, free: list[int]) -> tuple[SolvedLevels, list[str], list[str]]:
    """Levels, names of the targets they were solved for, and of those beyond reach."""
    rungs = [each for each in ladder_of(lit, receptor).rungs if each.target and each.kind is not RungKind.WINDOW]
    if not rungs:
        raise NoAnswer("no target is set on a face or a surface; say what should lie where first")
    whole_lx = lit.response.whole_lx
    unit = np.array([whole_lx[:, lit.place_of(rung.mark_id)] for rung in rungs]).T
    fixed = np.ones(len(lit.built.lights), dtype=bool)
    fixed[free] = False
    # What may not be dimmed enters as a light that burns at its level whatever the dimmers do.
    unit = np.where(fixed[:, None], lit.built.levels[:, None] * unit, unit)
    now = np.where(fixed, (lit.built.levels > 0.0).astype(float), lit.built.levels)
    reached = unit[now > 0.0].sum(axis=0) > DARK_LX
    names = [rung.name for rung in rungs]
    if not reached.any():
        raise NoAnswer(f"no lamp that is on reaches {' or '.join(names)}")
    lowest = np.array(
        [
            1.0 if is_fixed else max(light.lowest, FAINTEST)
            for light, is_fixed in zip(lit.built.lights, fixed, strict=True)
        ]
    )
    wanted = np.array([_wanted_lx(lit, rung, receptor) for rung in rungs])
    held = [name for name, is_reached in zip(names, reached, strict=True) if is_reached]
    solved = solve_levels(unit[:, reached], wanted[reached], now, lowest, held)
    return (
        replace(solved, levels=np.where(fixed, lit.built.levels, solved.levels)),
        held,
        [name for name in names if name not in held],
    )


def _wanted_lx(lit: LitScene, rung: Rung, receptor: Receptor) -> float:
    """The level that puts a rung on its target. Source: a surface needs 0.18 / rho times what a face needs."""
    place = lit.place_of(rung.mark_id)
    reflectance = None if place is None else lit.built.marks[place].reflectance
    stops = rung.target.stops if rung.target else 0.0
    share = 1.0 if reflectance is None else MIDDLE_GREY / max(reflectance, 0.01)
    return float(lit.built.setup.look.wanted_lx(receptor) * 2.0**stops * share)
