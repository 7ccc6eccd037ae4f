"""A model through meter readings: E = I / ((d + offset)^2 + r^2), and how far to trust it.

The offset is fitted for lenses and reflectors, the radius for faces, neither with fewer than three distances: then the
one that is
assumed (the maker's) stays. First the sum of absolute
residuals but the worst is made least, which one bad reading cannot pull; what then lies far off is pointed out and
left aside, and the
rest is fitted by least squares, whose spread gives the confidence band. All residuals are in stops.
Source: docs/craft.md, section 2; variable projection, Golub and Pereyra 1973; least trimmed residuals, Rousseeuw 1984.
"""

from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from scipy.special import stdtrit

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.errors import BadValue

#: docs/craft.md, section 2: a reading off by more than this is pointed out.
FAR_OFF_STOPS = 1.0 / 3.0
FEWEST_DISTANCES = 3
#: With all readings within this ratio of distances, offset and output cannot be told apart.
CLOSE_RATIO = 1.5
SAME_DISTANCE_M = 0.01
TRIMMED_OF = 5
#: With three a second unknown goes through whatever was read; one more, and one bad reading shows.
_FEWEST_TO_DOUBT = 4
_GRID, _ROUNDS = 41, 6
_CONFIDENCE = 0.975  # two-sided 95 %


class FitKind(StrEnum):
    """Which second unknown stands beside the output."""

    OFFSET = "virtual source"
    FACE = "face radius"


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingFit:
    """``second``: offset in m, or squared radius in m2. ``residual_stops``: reading over model, one for each reading,
    left-aside ones too.

    ``spread_stops`` is the standard deviation of what was kept, None where nothing is left over to judge by.
    """

    kind: FitKind
    intensity_cd: float
    second: float
    is_second_fitted: bool
    residual_stops: tuple[float, ...]
    is_aside: tuple[bool, ...]
    nearest_m: float
    farthest_m: float
    spread_stops: float | None
    covariance: tuple[tuple[float, ...], ...]
    notes: tuple[str, ...]

    @property
    def offset_m(self) -> float:
        """Where the virtual source lies behind the housing; 0 for a face."""
        return self.second if self.kind is FitKind.OFFSET else 0.0

    @property
    def radius_m(self) -> float:
        """Of a disc that falls off alike; 0 for a virtual source."""
        return float(np.sqrt(self.second)) if self.kind is FitKind.FACE else 0.0

    def illuminance_lx(self, throw_m: Floats) -> Array:
        """The model's level."""
        return np.asarray(self.intensity_cd / _reach2(self.kind, np.asarray(throw_m, dtype=float), self.second))

    def band_stops(self, throw_m: Floats) -> Array | None:
        """Half width of the 95 % confidence band, in stops; None where the readings are too few to say."""
        if self.spread_stops is None:
            return None
        slope = _slopes(self.kind, np.asarray(throw_m, dtype=float), self.second, self.is_second_fitted)
        spread = np.sqrt(np.einsum("...i,ij,...j->...", slope, np.array(self.covariance), slope))
        kept = len(self.is_aside) - sum(self.is_aside)
        return np.asarray(stdtrit(kept - slope.shape[-1], _CONFIDENCE) * spread)


def _reach2(kind: FitKind, throw_m: Array, second: Floats) -> Array:
    """What the intensity is divided by."""
    if kind is FitKind.FACE:
        return np.asarray(np.square(throw_m) + second)
    return np.asarray(np.square(throw_m + second))


def _slopes(kind: FitKind, throw_m: Array, second: float, is_second_fitted: bool) -> Array:
    """How log2 E rises with log2 I, and falls with the second unknown where it was fitted. Shape (..., 1 or 2)."""
    ones = np.ones_like(throw_m)
    if not is_second_fitted:
        return np.asarray(ones[..., None])
    reach = _reach2(kind, throw_m, second)
    change = ones if kind is FitKind.FACE else 2.0 * (throw_m + second)
    return np.stack([ones, change / reach / np.log(2.0)], axis=-1)


def fit_readings(throws_m: Array, levels_lx: Array, kind: FitKind, *, assumed_second: float = 0.0) -> ReadingFit:
    """The model through some readings on the axis at full output.

    Shapes: both (N,), N at least 1. Where the distances do not carry a second unknown, ``assumed_second`` stays; the
        notes say so.
    Raises: BadValue for no readings, or for any that is not above 0.
    """
    throws, levels = np.asarray(throws_m, dtype=float), np.asarray(levels_lx, dtype=float)
    if throws.shape != levels.shape or throws.ndim != 1 or not len(throws):
        raise BadValue(
            "readings", f"{throws.shape} distances with {levels.shape} levels", "one level for each distance"
        )
    if not (np.isfinite(throws) & np.isfinite(levels) & (throws > 0) & (levels > 0)).all():
        raise BadValue("readings", "a distance or level that is not above 0", "distances and levels above 0")
    notes = _why_not_second(throws)
    search = _Search(kind=kind, assumed=assumed_second if notes else None)
    stops = np.log2(levels)
    peak, second = search.least(throws, stops, is_robust=True)
    kept = _kept(stops - _model(kind, throws, peak, second), unknowns=1 if notes else 2)
    if not notes and kept.all() and len(throws) >= _FEWEST_TO_DOUBT:
        doubt = _doubt(kind, throws, stops, assumed_second)
        if doubt is not None:
            kept, notes = doubt
            search = _Search(kind=kind, assumed=assumed_second)
    peak, second = search.least(throws[kept], stops[kept], is_robust=False)
    residuals = stops - _model(kind, throws, peak, second)
    spread, covariance = _spread(residuals[kept], _slopes(kind, throws[kept], second, not notes))
    return ReadingFit(
        kind=kind,
        intensity_cd=float(2.0**peak),
        second=second,
        is_second_fitted=not notes,
        residual_stops=tuple(float(each) for each in residuals),
        is_aside=tuple(bool(each) for each in ~kept),
        nearest_m=float(throws.min()),
        farthest_m=float(throws.max()),
        spread_stops=spread,
        covariance=covariance,
        notes=notes,
    )


def _doubt(kind: FitKind, throws: Array, stops: Array, assumed: float) -> tuple[np.ndarray, tuple[str, ...]] | None:
    """Few readings that do not lie on one curve: which are kept, and which to take again; None where they agree.

    The second unknown stays as assumed, because with so few it would bend to the bad one.
    """
    both = _Search(kind=kind, assumed=None)
    peak, second = both.least(throws, stops, is_robust=False)
    residuals = stops - _model(kind, throws, peak, second)
    if np.abs(residuals).max() <= FAR_OFF_STOPS / 2.0 or np.isclose(second, both.bounds(throws)).any():
        return None
    off = stops - _model(kind, throws, *_Search(kind=kind, assumed=assumed).least(throws, stops, is_robust=True))
    far = np.abs(off) > 2.0 * FAR_OFF_STOPS
    if far.sum() == 1 and (np.abs(off[~far]) <= FAR_OFF_STOPS).all():
        at = int(np.argmax(far))
        told = f"the reading at {throws[at]:.2f} m lies {abs(off[at]):.1f} stops off the others: take it again"
        return ~far, (f"{told}; until then only the output is fitted",)
    worst = sorted(float(throws[at]) for at in np.argsort(-np.abs(off))[:2])
    told = f"the readings do not lie on one curve: take those at {worst[0]:.2f} and {worst[1]:.2f} m again"
    return np.ones(len(throws), dtype=bool), (f"{told}; until then only the output is fitted",)


def _why_not_second(throws: Array) -> tuple[str, ...]:
    """Empty where the distances carry a second unknown."""
    distances = 1 + int((np.diff(np.sort(throws)) > SAME_DISTANCE_M).sum())
    if distances < FEWEST_DISTANCES:
        word = {1: "one distance", 2: "two distances"}[distances]
        return (f"{word} only, so just the output is fitted; measure at three or more",)
    if throws.max() / throws.min() < CLOSE_RATIO:
        span = f"{throws.min():.2f} to {throws.max():.2f} m"
        return (f"all from {span}: too close together to tell a virtual source from output; go half as far again",)
    return ()


def _model(kind: FitKind, throws: Array, peak: float, second: float) -> Array:
    """log2 of the model's level."""
    return np.asarray(peak - np.log2(_reach2(kind, throws, second)))


@dataclass(frozen=True, slots=True, kw_only=True)
class _Search:
    """``assumed``: the second unknown where it is not searched for."""

    kind: FitKind
    assumed: float | None

    def least(self, throws: Array, stops: Array, *, is_robust: bool) -> tuple[float, float]:
        """log2 of the intensity and the second unknown, on a grid that closes in.

        For a given second unknown the best intensity is a median (or a mean), so only one unknown has to be searched.
        """
        if self.assumed is not None:
            peaks, _ = _located(stops + np.log2(_reach2(self.kind, throws, self.assumed)), is_robust)
            return float(peaks), self.assumed
        bottom, top = self.bounds(throws)
        low, high = bottom, top
        best, peak = 0.0, 0.0
        for _ in range(_ROUNDS):
            seconds = np.linspace(low, high, _GRID)
            peaks, costs = _located(stops + np.log2(_reach2(self.kind, throws[None, :], seconds[:, None])), is_robust)
            place = int(np.argmin(costs))
            best, peak = float(seconds[place]), float(peaks[place])
            step = (high - low) / (_GRID - 1)
            low, high = max(bottom, best - step), min(top, best + step)
        return peak, best

    def bounds(self, throws: Array) -> tuple[float, float]:
        """A virtual source between the nearest reading and twice the farthest behind; a face up to the farthest
        distance in radius.
        """
        if self.kind is FitKind.FACE:
            return 0.0, float(throws.max()) ** 2
        return -0.9 * float(throws.min()), 2.0 * float(throws.max())


def _located(values: Array, is_robust: bool) -> tuple[Array, Array]:
    """Middle along the last axis, and how much lies off it: median and absolute, or mean and squared.

    The robust way leaves the worst fifth out: the nearest reading, if it is the bad one, could else bend the offset to
    itself.
    """
    if is_robust:
        middle = np.median(values, axis=-1)
        off = np.sort(np.abs(values - middle[..., None]), axis=-1)
        return middle, off[..., : off.shape[-1] - off.shape[-1] // TRIMMED_OF].sum(axis=-1)
    middle = values.mean(axis=-1)
    return middle, np.square(values - middle[..., None]).sum(axis=-1)


def _kept(residuals: Array, unknowns: int) -> np.ndarray:
    """All but those far off, unless the rest would no longer carry the model, or more than a third would go."""
    kept = np.abs(residuals) <= FAR_OFF_STOPS
    if kept.sum() < unknowns + 2 or (~kept).sum() * 3 > len(kept):
        return np.ones(len(residuals), dtype=bool)
    return np.asarray(kept)


def _spread(residuals: Array, slopes: Array) -> tuple[float | None, tuple[tuple[float, ...], ...]]:
    left = len(residuals) - slopes.shape[1]
    if left < 1:
        return None, ()
    variance = float(np.square(residuals).sum()) / left
    covariance = variance * np.linalg.pinv(slopes.T @ slopes)
    return float(np.sqrt(variance)), tuple(tuple(float(each) for each in row) for row in covariance)
