"""A light that is not there yet: what a mark still needs, where a head for it would stand, what picks make of it."""

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import datetime

import numpy as np

from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.quantities import display
from iron_bucket.core.scene.blocking import passing
from iron_bucket.core.scene.skylight import Window
from iron_bucket.core.selection.fit import Fit, fit_of
from iron_bucket.core.selection.fronts import FrontKind
from iron_bucket.core.selection.narrow import with_fronts
from iron_bucket.core.selection.need import BRIGHTEST_LX, FAINTEST_LX, Feed, Need
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.selection.pick import Picked, pick, spread
from iron_bucket.core.setups.evaluate.ladder import Ladder, ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene
from iron_bucket.core.setups.plan.changes import Change, changed
from iron_bucket.core.setups.plan.look import MIDDLE_GREY
from iron_bucket.core.setups.plan.setup import TYPICAL_TOLERANCE_STOPS, Target
from iron_bucket.core.setups.plan.written import dialled
from iron_bucket.core.setups.scene.build_scene import BuiltMark, LightKind, build_scene
from iron_bucket.core.setups.suggest.fix import Before, Fetch, Fix, tried
from iron_bucket.core.setups.suggest.head_place import Stance, stance_behind, stance_for
from iron_bucket.core.setups.suggest.placed_fit import Work, placed_fit
from iron_bucket.core.setups.suggest.shortfall import Hand, Proposal, Shortfall

#: So many of each are followed in full.
_EACH = 4
#: A face is lit as wide as head and shoulders; a point on a wall or table has no width of its own.
_FACE_WIDE_M = 0.5
_LEAST_SHARE = 0.2
#: What is looked at where nothing else is asked: what needs no second place in the room.
ON_A_HEAD = (FrontKind.OPEN, FrontKind.GRID, FrontKind.FACE, FrontKind.FRAME)


@dataclass(frozen=True, slots=True, kw_only=True)
class LightWish:
    """``mark_id``: as on the ladder, or of a side. ``stops`` from the exposure, or as ``like_day``: what daylight gives
    there at another hour, from outside the window that gives most of it; both: so much, from outside that window.
    ``feed`` as Pick asks it, ``feed_id`` as a lamp names it; ``fronts``: what may stand before the head. Missing wishes
    are None.
    """

    mark_id: str
    stops: float | None = None
    like_day: datetime | None = None
    away_m: float | None = None
    height_m: float | None = None
    least_apparent_deg: float | None = None
    feed: Feed | None = None
    feed_id: str = ""
    fronts: tuple[FrontKind, ...] = ON_A_HEAD


@dataclass(frozen=True, slots=True, kw_only=True)
class Demand:
    """What a head must give: ``wanted_lx`` at the mark less what is ``there_lx``, as the receptor counts a ray from
    there (``share``), through what stands between (``passes``).
    """

    wanted_lx: float
    there_lx: float
    share: float
    is_dome: bool
    passes: float

    @property
    def illuminance_lx(self) -> float:
        """Square to the ray, with nothing between. Source: docs/craft.md, section 2."""
        given_lx = (self.wanted_lx - self.there_lx) / max(self.share * self.passes, _LEAST_SHARE)
        return min(max(given_lx, FAINTEST_LX), BRIGHTEST_LX)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class NewLight:
    """``miss``: how far the mark lies from what is wanted; ``stance``: where a head would stand; ``demand``: what it
    must give, step by step; ``need``: what Pick is asked; ``offers``: what it found, each followed in full at the level
    that is wanted.
    """

    miss: Shortfall
    stance: Stance
    demand: Demand
    need: Need
    offers: tuple[Fix, ...]


def likeliest_mark(ladder: Ladder, chosen: str = "") -> str:
    """Where a light is likeliest to be missing: on what is chosen, else at the worst that is under its target, else
    first on the ladder; empty where nothing can be lit.
    """
    lit = [rung for rung in ladder.rungs if rung.illuminance_lx is not None]
    of_chosen = [rung for rung in lit if chosen and rung.mark_id in (chosen, f"{chosen}.key")]
    under = [rung for rung in lit if rung.is_missed and (rung.miss_stops or 0.0) < 0.0]
    found = of_chosen[:1] or sorted(under, key=lambda rung: rung.miss_stops or 0.0)[:1] or lit[:1]
    return found[0].mark_id if found else ""


def new_light(miss_in: Shortfall, wish: LightWish, bench: PackedBench) -> NewLight:
    """``miss_in``: the set-up; its rung is not looked at beyond its mark.

    Raises: NoAnswer where nothing is missing there, or no head finds a place.
    """
    miss, wanted_lx, window = _missing(miss_in, wish)
    mark = miss.lit.built.marks[miss.place]
    if window is not None:
        stance = stance_behind(miss.lit.built, mark.mark, window)
    else:
        stance = stance_for(miss.lit.built, mark.mark, away_m=wish.away_m, height_m=wish.height_m)
    demand = _demand(miss, mark, stance, wanted_lx)
    need = _need(miss, mark, stance, wish, demand)
    picked, before = pick(with_fronts(bench, wish.fronts), need), Before.of(miss)
    work = Work(
        from_m=stance.head_m,
        subject_m=mark.mark.position_m,
        aims_at=mark.piece_id,
        purpose=miss.rung.name,
        cct_k=miss.setup.look.white_balance_k,
        feed=wish.feed_id,
    )
    found = [fix for fit in _choices(picked, miss) if (fix := _followed(before, fit, work, wanted_lx)) is not None]
    nearest = list(Fetch)
    return NewLight(
        miss=miss,
        stance=stance,
        demand=demand,
        need=need,
        offers=tuple(sorted(found, key=lambda fix: nearest.index(fix.fetch))),
    )


def _missing(miss: Shortfall, wish: LightWish) -> tuple[Shortfall, float, Window | None]:
    """The miss against what is wished, the lux that is wanted there, and the window that a day's light comes in by."""
    rung, mark, window = miss.rung, miss.lit.built.marks[miss.place], None
    key_lx = miss.setup.look.wanted_lx(miss.rules.receptor)
    if mark.reflectance is not None:  # of a surface by what it reflects
        key_lx *= MIDDLE_GREY / max(mark.reflectance, _LEAST_SHARE / 10.0)
    stops = wish.stops if wish.stops is not None else rung.target.stops if rung.target else 0.0
    wanted_lx = key_lx * 2.0**stops
    if wish.like_day is not None:
        by_day_lx, window = _by_day(miss, wish.like_day)
        if wish.stops is None:
            wanted_lx, stops = by_day_lx, math.log2(max(by_day_lx, DARK_LX) / key_lx)
    tolerance = rung.target.tolerance if rung.target else TYPICAL_TOLERANCE_STOPS
    if rung.stops - stops > -tolerance:
        raise NoAnswer(
            f"Nothing is missing there: {rung.name} lies at {display.stops(rung.stops)},"
            f" {display.stops(stops)} is asked. Ask for more, or for another mark."
        )
    person, _, side = rung.mark_id.rpartition(".")
    key = ladder_of(miss.lit, miss.rules.receptor).rung(f"{person}.key")
    if side == "shadow" and key is not None and stops > key.stops:
        raise NoAnswer(
            f"At {display.stops(stops)} it would be the key side, which lies at {display.stops(key.stops)} now."
            " Ask for more on the key side, or for less here."
        )
    target = Target(piece_id="wish", mark=rung.mark_id, stops=stops, tolerance=tolerance)
    return replace(miss, rung=replace(rung, target=target, miss_stops=rung.stops - stops)), wanted_lx, window


def _by_day(miss: Shortfall, when: datetime) -> tuple[float, Window | None]:
    """What all daylight gives at the mark then, and the window that gives most of it."""
    setup = replace(miss.setup, when=when, lamps=())
    built = build_scene(setup, miss.lit.built.surroundings, miss.gear, miss.rules)
    given = LitScene(built=built, banded=miss.response_for(built)).by_light_lx
    place = built.mark_index(miss.lit.built.marks[miss.place].mark_id)
    by_day = {at: float(given[at, place]) for at, light in enumerate(built.lights) if light.kind is LightKind.DAY}
    windows = [at for at in by_day if isinstance(built.lights[at].light, Window) and by_day[at] > 0.0]
    best = max(windows, key=lambda at: by_day[at], default=None)
    return sum(by_day.values()), None if best is None else built.lights[best].light  # type: ignore[return-value]


def _demand(miss: Shortfall, mark: BuiltMark, stance: Stance, wanted_lx: float) -> Demand:
    """Source: docs/craft.md, section 2: cos e on a flat receptor, (1 + cos e) / 2 on a dome."""
    ray = stance.head_m - mark.mark.position_m
    cosine = float(ray @ mark.mark.normal / np.linalg.norm(ray))
    return Demand(
        wanted_lx=wanted_lx,
        there_lx=float(miss.lit.total_lx[miss.place]),
        share=(1.0 + cosine) / 2.0 if mark.mark.is_dome else cosine,
        is_dome=mark.mark.is_dome,
        passes=float(passing(mark.mark.position_m[None], stance.head_m[None], miss.lit.built.scene.blockers)[0, 0]),
    )


def _need(miss: Shortfall, mark: BuiltMark, stance: Stance, wish: LightWish, demand: Demand) -> Need:
    """What Pick is asked."""
    return Need(
        illuminance_lx=demand.illuminance_lx,
        throw_m=stance.throw_m(mark.mark),
        width_m=_FACE_WIDE_M if mark.side else None,
        least_apparent_deg=wish.least_apparent_deg,
        cct_k=miss.setup.look.white_balance_k,
        feed=wish.feed,
        ceiling_m=stance.ceiling_m,
        scrim_school=miss.rules.scrim_school,
    )


def _choices(picked: Picked, miss: Shortfall) -> Iterator[Fit]:
    """The first few of what the bucket has, then of what is ours, then of all; no head twice."""
    bench, fits, seen = picked.bench, picked.fits, set[str]()
    rows, fronts, sheets = fits.row, fits.front, fits.sheets
    has = {slug for slug, count in miss.bucket.items() if count > 0}
    in_bucket = (
        np.array([bench.heads[at].slug in has for at in rows], dtype=bool)
        & np.array([all(part.slug in has for part in bench.fronts[at].parts) for at in fronts], dtype=bool)
        & np.array([all(part.slug in has for part in bench.sheet_sets[at].sheets) for at in sheets], dtype=bool)
    )
    ours = bench.is_owned[rows] & bench.front_is_owned[fronts] & bench.sheet_is_owned[sheets]
    for chosen in (in_bucket, ours & ~in_bucket, ~ours & ~in_bucket):
        some, count = spread(picked, fits.ordered(np.flatnonzero(chosen)), per_head=1), 0
        for at in range(len(some)):
            fit = fit_of(picked, some.candidate(at))
            if fit.key not in seen and count < _EACH:
                count += 1
                seen.add(fit.key)
                yield fit


def _followed(before: Before, fit: Fit, work: Work, wanted_lx: float) -> Fix | None:
    """A fit put where it would stand, at the level that is wanted of it; None where it cannot give that in here."""
    miss = before.miss
    for side in (1.0, -1.0):
        changes = placed_fit(fit, work, miss.setup, side=side)
        if _is_inside(miss, changes):
            levelled = _at_level(miss, changes, wanted_lx)
            return None if levelled is None else tried(before, _proposal(fit, levelled))
    return None


def _proposal(fit: Fit, changes: tuple[Change, ...]) -> Proposal:
    words = [f"{fit.head.name}, {fit.configuration.name}", *fit.front.names, *(each.name for each in fit.sheets)]
    at = display.share(changes[-1].piece.level)
    return Proposal(text=f"{' + '.join(words)} at {at}", changes=changes, hand=Hand.HEAD)


def _is_inside(miss: Shortfall, changes: tuple[Change, ...]) -> bool:
    """Whether all of it stands in one room, or all outside."""
    around = miss.lit.built.surroundings
    return len({around.room_at(each.piece.x_m, each.piece.y_m) for each in changes}) == 1


def _at_level(miss: Shortfall, changes: tuple[Change, ...], wanted_lx: float) -> tuple[Change, ...] | None:
    """The same with the lamp, which comes last, at the level that brings the mark to what is wanted."""
    lamp = changes[-1].piece
    built = build_scene(changed(miss.setup, changes), miss.lit.built.surroundings, miss.gear, miss.rules)
    whole_lx, place = LitScene(built=built, banded=miss.response_for(built)).response.whole_lx, miss.place
    at = next(at for at, light in enumerate(built.lights) if light.light_id == lamp.piece_id)
    light, levels = built.lights[at], built.levels
    others_lx = float(levels @ whole_lx[:, place] - levels[at] * whole_lx[at, place])
    level = (wanted_lx - others_lx) / max(float(whole_lx[at, place]), DARK_LX)
    limit = light.fixture.level_limit if light.fixture else 1.0
    if level < light.lowest:
        return None
    return (*changes[:-1], replace(changes[-1], piece=replace(lamp, level=dialled(min(level, limit)))))
