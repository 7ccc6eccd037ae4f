"""Make the lights of a set-up agree: a whole plan by each of the two schools, looked at in full."""

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bucket.pass_kit import pass_kit
from iron_bucket.core.colour.gel_stacks import off_mired
from iron_bucket.core.colour.light_colour import LightColour, mixed
from iron_bucket.core.colour.seen import Seen, seen_against
from iron_bucket.core.colour.white import uv_from_xyz
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.scene.scene import SceneLamp
from iron_bucket.core.scene.sunlight import is_sun
from iron_bucket.core.setups.colour.colour_targets import colour_misses
from iron_bucket.core.setups.colour.ways import Asked, ColourWay, GelStock, WayKind, ways_for
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene, ResponseFor
from iron_bucket.core.setups.evaluate.mark_colours import MarkColour, mark_colours, xyz_at_marks
from iron_bucket.core.setups.plan.changes import Change, changed, set_look
from iron_bucket.core.setups.scene.build_scene import BuiltLight, build_scene
from iron_bucket.core.setups.sheet.load_summary import load_summary

#: A light that gives no mark so much of its light is left alone.
WORTH_SHARE = 0.03
#: Between two temperatures of a camera's dial.
_DIAL_K = 50.0
#: Lights that a white balance is tried on, those that give most first.
_BALANCES = 4


class School(StrEnum):
    """Which way round. Source: docs/craft.md, section 5."""

    GEL = "gel the lamps"
    BALANCE = "move the white balance"


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SourcePlan:
    """One light: how far off it is, every way to bring it there, and which of them is taken; None of what nothing can
    be done about.
    """

    light: BuiltLight
    share: float
    off: Seen
    ways: tuple[ColourWay, ...]
    taken: ColourWay


@dataclass(frozen=True, slots=True, kw_only=True)
class MarkMoves:
    """What a plan does to a mark of the ladder: its stops before and after, and how far off white it is then."""

    name: str
    before: float
    after: float
    seen: Seen | None
    is_lost: bool


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ColourPlan:
    """``target``: what all is brought to; ``worst``: the farthest that a light is left, in mired; ``missed``: colour
    targets that are not met after it. Amps, kilos and money are what changes by it; ``area_m2`` of gel.
    """

    school: School
    target: LightColour
    sources: tuple[SourcePlan, ...]
    changes: tuple[Change, ...]
    marks: tuple[MarkMoves, ...]
    worst: float
    missed: int
    area_m2: float
    to_buy: tuple[tuple[int, str], ...]
    price: float
    amps: float
    weight_kg: float

    @property
    def holds(self) -> bool:
        """Whether no level target is lost by it."""
        return not any(each.is_lost for each in self.marks)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Scene:
    """A set-up as it is lit, and what there is to change it with."""

    lit: LitScene
    gear: Gear
    rules: HouseRules
    response_for: ResponseFor
    stock: GelStock

    def asked(self, target: LightColour, tolerance: float) -> Asked:
        """What a light is brought to."""
        return Asked(
            target=target,
            tolerance=tolerance,
            stock=self.stock,
            built=self.lit.built,
            scrim_school=self.rules.scrim_school,
        )


def sources_of(lit: LitScene) -> tuple[tuple[BuiltLight, float], ...]:
    """Lights that give any mark enough to be seen, with their mean share of the light of all marks."""
    is_lit = lit.total_lx > DARK_LX
    if not is_lit.any():
        return ()
    shares = lit.by_light_lx[:, is_lit] / lit.total_lx[is_lit]
    found = [
        (light, float(shares[at].mean()))
        for at, light in enumerate(lit.built.lights)
        if light.level > 0.0 and shares[at].max() >= WORTH_SHARE
    ]
    return tuple(sorted(found, key=lambda pair: -pair[1]))


def agreeing(
    scene: Scene, target: LightColour, tolerance: float, schools: Sequence[School] = tuple(School)
) -> tuple[ColourPlan, ...]:
    """By each school. Raises: BadValue for a target that is no shade of white, where the balance is to follow it."""
    if not target.is_white:
        raise BadValue("target", "a saturated colour", "a shade of white")
    made = {
        School.GEL: lambda: _plan(scene, School.GEL, target, tolerance),
        School.BALANCE: lambda: _moved(scene, tolerance),
    }
    return tuple(made[school]() for school in schools)


def _plan(scene: Scene, school: School, target: LightColour, tolerance: float) -> ColourPlan:
    first: tuple[Change, ...] = ()
    if school is School.BALANCE:
        dial_k = round(target.cct_k / _DIAL_K) * _DIAL_K
        first = (set_look(white_balance_k=dial_k, white_balance_duv=round(target.duv, 3)),)
    return _looked_at(scene, school, target, _each_brought(scene, target, tolerance), first)


def _each_brought(scene: Scene, target: LightColour, tolerance: float) -> tuple[SourcePlan, ...]:
    asked = scene.asked(target, tolerance)
    return tuple(brought(_as_it_arrives(scene.lit, light), share, asked) for light, share in sources_of(scene.lit))


def brought(light: BuiltLight, share: float, asked: Asked) -> SourcePlan:
    """One light, the cheapest way."""
    ways = ways_for(light, asked)
    off = seen_against(light.colour, asked.target)
    return SourcePlan(light=light, share=share, off=off, ways=ways, taken=cheapest(ways, asked.tolerance))


def _as_it_arrives(lit: LitScene, light: BuiltLight) -> BuiltLight:
    """The sun behind the glass that it comes through: what is put on the panes shifts it too."""
    if not isinstance(light.light, SceneLamp) or not is_sun(light.light):
        return light
    at = next(place for place, each in enumerate(lit.built.lights) if each is light)
    xyz = xyz_at_marks(lit)[at].sum(axis=0)
    return light if xyz[1] <= DARK_LX else replace(light, colour=LightColour.of(uv_from_xyz(xyz), light.origin))


def cheapest_of(plans: Sequence[ColourPlan], tolerance: float) -> ColourPlan:
    """What one key applies: with no colour target missed, within the tolerance or as near as can be, and without a lost
    level before all others; then by price, gel and light.
    """

    def cost(plan: ColourPlan) -> tuple[float, ...]:
        lost = sum(each.is_lost for each in plan.marks)
        light = sum(max(each.taken.loss_stops, 0.0) * each.share for each in plan.sources)
        return (
            plan.missed,
            round(max(plan.worst - tolerance, 0.0)),
            lost,
            round(plan.price, 2),
            round(plan.area_m2, 2),
            light,
        )

    return min(plans, key=cost)


def cheapest(ways: tuple[ColourWay, ...], tolerance: float) -> ColourWay:
    """As it is, where that is near enough; else the first that is; else the nearest that is not off."""
    as_it_is = next(each for each in ways if each.kind is WayKind.NOTHING)
    if as_it_is.off <= tolerance:
        return as_it_is
    near = [each for each in ways if each.off <= tolerance and each.kind is not WayKind.OFF]
    return near[0] if near else min((each for each in ways if each.kind is not WayKind.OFF), key=lambda each: each.off)


def _moved(scene: Scene, tolerance: float) -> ColourPlan:
    """The white balance that leaves least, gelled as well as can be: on what the marks see that have a target, on one
    of the lights that give most, or on all of them together.
    """
    sources = sources_of(scene.lit)
    whites = [light.colour for light, _ in sources if light.colour.is_white][:_BALANCES]
    whole = mixed([light.colour for light, _ in sources], [share for _, share in sources])
    tries = [_on_the_dial(each) for each in (*whites, *([whole] if whole is not None and whole.is_white else []))]

    def left(white: LightColour) -> tuple[float, ...]:
        """Of several that all can be brought to, the one with least to gel."""
        off = [(off_mired(seen.mired, seen.duv), share) for seen, share in _against(sources, white)]
        to_gel = sum(share for each, share in off if each > tolerance)
        taken = [each.taken.off for each in _each_brought(scene, white, tolerance)]
        return max(0.0, *(each - tolerance for each in taken)), to_gel, sum(each * share for each, share in off)

    least = sorted(tries, key=left)[:1] or [scene.lit.built.setup.look.white]
    plans = [_plan(scene, School.BALANCE, white, tolerance) for white in (*least, *_at_targets(scene.lit))]
    return cheapest_of(plans, tolerance)


def _at_targets(lit: LitScene) -> list[LightColour]:
    """What the first mark with a colour target sees, on the dial: the balance that meets it without any gel."""
    for target in lit.built.setup.colour_targets:
        place = lit.place_of(target.mark)
        colour = None if place is None else mark_colours(lit)[place].colour
        if colour is not None and colour.is_white:
            return [_on_the_dial(colour.shifted(-target.mired, -target.duv))]
    return []


def _against(sources: Iterable[tuple[BuiltLight, float]], white: LightColour) -> list[tuple[Seen, float]]:
    return [(seen_against(light.colour, white), share) for light, share in sources if light.colour.is_white]


def _on_the_dial(colour: LightColour) -> LightColour:
    return LightColour.of_cct(
        round(min(max(colour.cct_k, 2000.0), 12_000.0) / _DIAL_K) * _DIAL_K,
        round(min(max(colour.duv, -0.03), 0.03), 3),
        colour.origin,
    )


def _looked_at(
    scene: Scene, school: School, target: LightColour, sources: tuple[SourcePlan, ...], first: tuple[Change, ...]
) -> ColourPlan:
    changes = (*first, *told_apart(scene, sources))
    after = with_changes(scene, changes)
    before_load, after_load = (
        load_summary(pass_kit(each.built.setup, scene.gear, scene.rules, each.built.surroundings), scene.rules)
        for each in (scene.lit, after)
    )
    taken = [each.taken for each in sources]
    return ColourPlan(
        school=school,
        target=target,
        sources=sources,
        changes=changes,
        marks=_moves(scene, after),
        worst=max((each.off for each in taken), default=0.0),
        missed=sum(each.is_missed for each in colour_misses(after, {})),
        area_m2=sum(each.area_m2 for each in taken),
        to_buy=_together(taken),
        price=sum(each.price for each in taken),
        amps=after_load.amps - before_load.amps,
        weight_kg=after_load.weight_kg - before_load.weight_kg,
    )


def _together(taken: Iterable[ColourWay]) -> tuple[tuple[int, str], ...]:
    """What several ways want of one thing is bought at once."""
    counts: Counter[str] = Counter()
    for count, name in (each for way in taken for each in way.to_buy):
        counts[name] += count
    return tuple((count, name) for name, count in counts.items())


def told_apart(scene: Scene, sources: tuple[SourcePlan, ...]) -> list[Change]:
    """New pieces are numbered each by itself: together they need numbers of their own."""
    found, taken = [], {each.piece_id for kind in ("films", "house") for each in getattr(scene.lit.built.setup, kind)}
    for change in (change for each in sources for change in each.taken.changes):
        piece = change.piece
        if piece is not None:
            stem, number = piece.piece_id.rpartition("-")[0], 1
            while f"{stem}-{number}" in taken:
                number += 1
            taken.add(f"{stem}-{number}")
            piece = replace(piece, piece_id=f"{stem}-{number}")
            change = replace(change, piece=piece, piece_id=piece.piece_id)  # noqa: PLW2901
        found.append(change)
    return found


def with_changes(scene: Scene, changes: Sequence[Change]) -> LitScene:
    """The set-up after some changes, lit. Raises: BadValue for what cannot be put together."""
    built = build_scene(changed(scene.lit.built.setup, changes), scene.lit.built.surroundings, scene.gear, scene.rules)
    return LitScene(built=built, banded=scene.response_for(built))


def _moves(scene: Scene, after: LitScene) -> tuple[MarkMoves, ...]:
    before, then = (ladder_of(each, scene.rules.receptor) for each in (scene.lit, after))
    white = after.built.setup.look.white
    colours = {each.place: each for each in mark_colours(after)}
    found = []
    for rung in before.rungs:
        moved, place = then.rung(rung.mark_id), after.place_of(rung.mark_id)
        if moved is None:
            continue
        found.append(
            MarkMoves(
                name=rung.name,
                before=rung.stops,
                after=moved.stops,
                seen=_seen(colours.get(place) if place is not None else None, white),
                is_lost=moved.is_missed and not rung.is_missed,
            )
        )
    return tuple(found)


def _seen(mark: MarkColour | None, white: LightColour) -> Seen | None:
    return None if mark is None or mark.colour is None else seen_against(mark.colour, white)
