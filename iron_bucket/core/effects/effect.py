"""An effect by a few figures, and its level and colour over time: the same for the same seed."""

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from iron_bucket.core.arrays import Array, runs
from iron_bucket.core.bench.head import Head, Technology
from iron_bucket.core.checks import require_between
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.mired import mired_from_k

#: Pictures of an effect are drawn, and its mean taken, over so long, at such steps.
SPAN_S, STEP_S = 20.0, 0.01
#: A filament follows so slowly, typical of 650 W and more.
_FILAMENT_S = 0.25


class EffectKind(StrEnum):
    """What the light seems to come from."""

    FLAME = "flame"
    TELEVISION = "television"
    CAR = "passing car"
    STORM = "storm"
    NEON = "neon"
    TUBE = "failing tube"


#: Events a second and depth that each has where nobody says otherwise, typical.
USUAL: dict[EffectKind, tuple[float, float]] = {
    EffectKind.FLAME: (4.0, 0.5),
    EffectKind.TELEVISION: (0.7, 0.6),
    EffectKind.CAR: (0.1, 0.95),
    EffectKind.STORM: (0.2, 1.0),
    EffectKind.NEON: (1.0, 1.0),
    EffectKind.TUBE: (0.5, 0.9),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Effect:
    """``rate_hz``: events a second; ``depth``: how far it falls below the set level, 1 to nothing; ``seed``: which of
    all flames it is.
    """

    kind: EffectKind
    rate_hz: float
    depth: float
    seed: int = 1

    def __post_init__(self) -> None:
        require_between("rate", self.rate_hz, low=0.02, high=25.0, unit="a second")
        require_between("depth", self.depth, low=0.05, high=1.0, unit="of the level")
        require_between("seed", self.seed, low=0, high=9999, unit="")

    @classmethod
    def usual(cls, kind: EffectKind, seed: int = 1) -> "Effect":
        """With the figures of its kind."""
        rate_hz, depth = USUAL[kind]
        return cls(kind=kind, rate_hz=rate_hz, depth=depth, seed=seed)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class EffectCurve:
    """Shapes (N,): ``level`` as a share of the set level, ``shift_mired`` off the set colour, every ``STEP_S``."""

    level: Array
    shift_mired: Array

    @property
    def duty(self) -> float:
        """Mean level: what batteries feed."""
        return float(self.level.mean())

    @property
    def flashes_a_second(self) -> float:
        """How often it rises through the middle between its lowest and its highest."""
        middle = (float(self.level.min()) + float(self.level.max())) / 2.0
        above = self.level > middle
        return float((above[1:] & ~above[:-1]).sum()) / SPAN_S

    @property
    def shortest_s(self) -> float:
        """The shortest that it stays above its middle, as a camera has to catch it."""
        middle = (float(self.level.min()) + float(self.level.max())) / 2.0
        steps = (1 + last - first for first, last in runs(self.level > middle))
        return min((each * STEP_S for each in steps), default=SPAN_S)


def curve_of(effect: Effect) -> EffectCurve:
    """As the light should do it."""
    chance = np.random.default_rng((list(EffectKind).index(effect.kind), effect.seed))
    level, shift = _MAKERS[effect.kind](effect, chance)
    floor = 1.0 - effect.depth
    return EffectCurve(level=floor + effect.depth * np.clip(level, 0.0, 1.0), shift_mired=shift)


def played_by(effect: Effect, head: Head, level: float, cct_k: float) -> EffectCurve:
    """As a head plays it at a set level and colour: no lower than it dims, no warmer or cooler than it goes, a filament
    with its lag. Raises: BadValue for a lamp that cannot follow.
    """
    if head.technology is Technology.HMI or head.lowest_level >= 1.0:
        raise BadValue(
            "effect", f"{effect.kind.value} on {head.name}", "a lamp that dims: this one would need a shutter"
        )
    curve = curve_of(effect)
    played = curve.level
    if head.technology is Technology.TUNGSTEN:
        played = _lagged(played)
    set_mired = float(mired_from_k(cct_k))
    warm, cool = float(mired_from_k(head.lowest_cct_k)), float(mired_from_k(head.highest_cct_k))
    shift = np.clip(set_mired + curve.shift_mired, min(cool, set_mired), max(warm, set_mired)) - set_mired
    return EffectCurve(level=np.maximum(played, min(head.lowest_level / level, 1.0)), shift_mired=shift)


def _lagged(level: Array) -> Array:
    """Source: of first order, y' = (x - y) / tau."""
    follows, found, now = 1.0 - np.exp(-STEP_S / _FILAMENT_S), np.empty_like(level), float(level[0])
    for at, wanted in enumerate(level):
        now += follows * (float(wanted) - now)
        found[at] = now
    return found


Maker = Callable[[Effect, np.random.Generator], tuple[Array, Array]]
_TIMES = np.arange(0.0, SPAN_S, STEP_S)


def _flame(effect: Effect, chance: np.random.Generator) -> tuple[Array, Array]:
    """Waves of many speeds about the rate, the slow ones larger; warmer where it is lower."""
    speeds = effect.rate_hz * 2.0 ** chance.uniform(-2.0, 1.0, 9)
    phases, sizes = chance.uniform(0.0, 2.0 * np.pi, 9), 1.0 / np.sqrt(speeds)
    waves = (sizes[:, None] * np.sin(2.0 * np.pi * speeds[:, None] * _TIMES + phases[:, None])).sum(axis=0)
    level = 0.5 + waves / (2.0 * np.abs(waves).max())
    return level, 60.0 * (1.0 - level)


def _by_chance(effect: Effect, chance: np.random.Generator) -> Array:
    """Times of an even chance at its rate, till well after the span."""
    return np.cumsum(chance.exponential(1.0 / effect.rate_hz, int(4 * SPAN_S * effect.rate_hz) + 8))


def _television(effect: Effect, chance: np.random.Generator) -> tuple[Array, Array]:
    """Cuts after times of an even chance; each shot has its level and its colour."""
    cuts = _by_chance(effect, chance)
    shot = np.searchsorted(cuts, _TIMES)
    levels, shifts = chance.uniform(0.0, 1.0, len(cuts) + 1), chance.normal(0.0, 40.0, len(cuts) + 1)
    return levels[shot], shifts[shot]


def _car(effect: Effect, chance: np.random.Generator) -> tuple[Array, Array]:
    """One swell after another, each as it comes near and goes."""
    level = np.zeros_like(_TIMES)
    for middle in np.arange(chance.uniform(0.2, 0.8), SPAN_S * effect.rate_hz + 1.0) / effect.rate_hz:
        off = (_TIMES - middle - chance.normal(0.0, 0.1 / effect.rate_hz)) / 0.6
        level = np.maximum(level, 1.0 / (1.0 + off**2) ** 2)
    return level, np.zeros_like(level)


def _storm(effect: Effect, chance: np.random.Generator) -> tuple[Array, Array]:
    """Strikes by chance, each of two to five flashes, every flash fading."""
    level = np.zeros_like(_TIMES)
    for strike in _by_chance(effect, chance):
        for flash in strike + np.cumsum(chance.uniform(0.04, 0.15, int(chance.integers(2, 6)))):
            since = _TIMES - flash
            fading = chance.uniform(0.5, 1.0) * np.exp(-np.maximum(since, 0.0) / 0.06)
            level = np.maximum(level, np.where(since >= 0.0, fading, 0.0))
    return level, np.full_like(level, -30.0) * (level > 0.01)


def _neon(effect: Effect, chance: np.random.Generator) -> tuple[Array, Array]:
    """On for six tenths of each turn."""
    turn = (_TIMES * effect.rate_hz + chance.uniform()) % 1.0
    level = (turn < 0.6).astype(float)
    return level, np.zeros_like(level)


def _tube(effect: Effect, chance: np.random.Generator) -> tuple[Array, Array]:
    """Burns, and now and then falls out and strikes several times before it holds."""
    level = np.ones_like(_TIMES)
    for begins in _by_chance(effect, chance):
        at = begins
        for _ in range(int(chance.integers(2, 7))):
            dark, lit = chance.uniform(0.05, 0.3), chance.uniform(0.02, 0.1)
            level[(at <= _TIMES) & (at + dark > _TIMES)] = 0.0
            at += dark + lit
    return level, np.where(level > 0.0, 0.0, 20.0)


_MAKERS: dict[EffectKind, Maker] = {
    EffectKind.FLAME: _flame,
    EffectKind.TELEVISION: _television,
    EffectKind.CAR: _car,
    EffectKind.STORM: _storm,
    EffectKind.NEON: _neon,
    EffectKind.TUBE: _tube,
}
