"""Lamps that could do the work of a placed one: by Pick's core for as much light, as soft, as wide and of the same
colour; then placed where that one stands, and looked at in the scene itself.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.standing import Standing
from iron_bucket.core.selection.fit import candidate_key
from iron_bucket.core.selection.fronts import Front, FrontKind
from iron_bucket.core.selection.narrow import cut_to, with_fronts
from iron_bucket.core.selection.need import BRIGHTEST_LX, FAINTEST_LX, FARTHEST_M, NEAREST_M, Need
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.selection.pick import Candidate, Picked, pick
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.setup import PlacedLamp
from iron_bucket.core.setups.scene.build_scene import BuiltLight, aim_of
from iron_bucket.core.setups.scene.fixture import fixture_of, source_of

#: What goes on a head; frames and boards stay as they stand.
_ON_A_HEAD = (FrontKind.OPEN, FrontKind.GRID, FrontKind.FACE)
#: Of each order so many.
_EACH = 2
#: Of a large bench so many by each order are given to Pick.
_LIKELY = 12
#: As soft and as wide as today, or nearly.
_AS_SOFT, _AS_WIDE, _TOO_WIDE = 0.75, 0.7, 2.0
#: What of a placed lamp another one changes; ``placed`` and everything that cuts its beam stays.
FIELDS = ("configuration", "sheets", "face", "grid", "cct_k", "feed")


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class FreeLamp:
    """A light that may be exchanged: the lamp as ``placed``, and the mark of the pass that it gives most to."""

    at: int
    placed: PlacedLamp
    mark: int


def free_lamps(lit: LitScene) -> tuple[FreeLamp, ...]:
    """Those that burn and are not locked, in the order of the scene."""
    found = []
    for at, light in enumerate(lit.built.lights):
        if light.placed and light.placed.is_on and not light.placed.is_locked and lit.by_light_lx.shape[1]:
            found.append(FreeLamp(at=at, placed=light.placed, mark=int(np.argmax(lit.by_light_lx[at]))))
    return tuple(found)


def on_heads(bench: PackedBench) -> PackedBench:
    """Without what stands free."""
    return with_fronts(bench, _ON_A_HEAD)


def need_of(lit: LitScene, stand: FreeLamp, rules: HouseRules) -> Need:
    """What Pick is asked for in place of a lamp: the light that it gives on its axis, where its main mark is."""
    light = lit.built.lights[stand.at]
    if light.fixture is None or light.placed is None:
        raise BadValue("lamp", light.name, "a lamp of ours")
    mark_m = lit.built.marks[stand.mark].mark.position_m
    away_m = float(np.linalg.norm(mark_m - [stand.placed.x_m, stand.placed.y_m, stand.placed.z_m]))
    throw_m = min(max(away_m, NEAREST_M), FARTHEST_M)
    lux = light.fixture.axis_cd * light.level / throw_m**2
    return Need(
        illuminance_lx=min(max(lux, FAINTEST_LX), BRIGHTEST_LX),
        throw_m=throw_m,
        cct_k=light.colour.cct_k,
        scrim_school=rules.scrim_school,
    )


def others_for(
    lit: LitScene, stand: FreeLamp, bench: PackedBench, gear: Gear, rules: HouseRules
) -> tuple[dict[str, Any], ...]:
    """Fields of the lamps that could stand there instead, the likeliest first: a few of each order that matters."""
    light, need = lit.built.lights[stand.at], need_of(lit, stand, rules)
    likely = _likely(bench, light, need)
    picked = pick(cut_to(bench, likely, np.arange(len(bench.fronts)), np.arange(len(bench.sheet_sets))), need)
    kept = np.flatnonzero(_is_alike(picked, light))
    found: dict[str, dict[str, Any]] = {}
    for order in _orders(picked, kept):
        candidates: dict[str, Candidate] = {}  # the first of each head
        for candidate in map(picked.fits.candidate, order.tolist()):
            candidates.setdefault(picked.bench.heads[candidate.row].slug, candidate)
            if len(candidates) == _EACH:
                break
        found |= {candidate_key(picked, each): _fields(picked, each) for each in candidates.values()}
    today = {name: getattr(stand.placed, name) for name in FIELDS}
    place = lit.built.surroundings.place
    is_on_battery = gear.find(BatteryKind, stand.placed.feed) is not None
    ways = [*_on_batteries((today, *found.values()), gear)]
    if place.sockets or not is_on_battery:
        feed = "" if is_on_battery else stand.placed.feed
        ways = [*_on_mains((today, *found.values()), feed, gear, rules), *ways]
    return tuple(
        each for each in ways if {**each, "cct_k": today["cct_k"]} != today
    )  # a setting alone is no other lamp


def _likely(bench: PackedBench, light: BuiltLight, need: Need) -> np.ndarray:
    """Of a large bench the configurations that can give so much, by some order each; today's too."""
    wanted_cd = need.illuminance_lx * need.throw_m**2
    # A box spreads what leaves the head: half of its lumens over a half space, at the least.
    gives_cd = np.maximum(bench.candela.max(axis=1), bench.lumens / np.pi)
    able = np.flatnonzero(gives_cd >= wanted_cd)
    weight = np.array([head.total_kg for head in bench.heads])[able]
    price = np.array([head.day_price or 0.0 for head in bench.heads])[able] * ~bench.is_owned[able]
    found = {
        int(at)
        for key in (weight + 1e6 * ~bench.is_owned[able], weight, price, bench.full_w[able], gives_cd[able])
        for at in able[np.argsort(key, kind="stable")][:_LIKELY]
    }
    today = _today(bench, light)
    return np.array(sorted(found | ({today[0]} if today else set())), dtype=int)


def _is_alike(picked: Picked, light: BuiltLight) -> np.ndarray:
    """Which fits are as soft, and about as wide, as the lamp that stands there."""
    fits, found = picked.fits, picked.found
    today = _today(picked.bench, light)
    if today is None:
        return np.ones(len(fits), dtype=bool)
    apparent, covers = found.apparent_deg[fits.row, fits.front], found.coverage_m[fits.row, fits.front]
    soft = apparent >= _AS_SOFT * float(found.apparent_deg[today])
    wide = covers / max(float(found.coverage_m[today]), 1e-3)
    return np.asarray(soft & (wide >= _AS_WIDE) & (wide <= _TOO_WIDE))


def _today(bench: PackedBench, light: BuiltLight) -> tuple[int, int] | None:
    """Row and front of the lamp as it stands; None of one that Pick does not know."""
    if light.placed is None:
        return None
    worn = light.placed.face, light.placed.grid
    rows = [at for at, each in enumerate(bench.configurations) if each.slug == light.placed.configuration]
    fronts = [at for at, each in enumerate(bench.fronts) if _worn(each) == worn]
    return (rows[0], fronts[0]) if rows and fronts else None


def _worn(front: Front) -> tuple[str, str]:
    return front.face.slug if front.face else "", front.grid.slug if front.grid else ""


def _orders(picked: Picked, kept: np.ndarray) -> Iterator[np.ndarray]:
    """By the house's points, ours first, by weight, price and watts; and by each technology."""
    fits, bench = picked.fits, picked.bench
    rows, fronts = fits.row[kept], fits.front[kept]
    owned = bench.is_owned[rows] & bench.front_is_owned[fronts]
    weight, price = bench.brought_kg(rows, fronts), bench.price_to_pay(rows, fronts)
    for key in (fits.points[kept] + 1e6 * ~owned, fits.points[kept], weight, price + 1e-3 * weight, fits.watts[kept]):
        yield kept[np.argsort(key, kind="stable")]
    technologies = np.array([bench.heads[row].technology.value for row in rows])
    for each in sorted(set(technologies.tolist())):
        some = kept[technologies == each]
        yield some[np.argsort(fits.points[some], kind="stable")]


def _fields(picked: Picked, candidate: Candidate) -> dict[str, Any]:
    (face, grid), sheets = _worn(picked.bench.fronts[candidate.front]), picked.bench.sheet_sets[candidate.sheets]
    return {
        "configuration": picked.bench.configurations[candidate.row].slug,
        "sheets": tuple(each.slug for each in sheets.sheets),
        "face": face,
        "grid": grid,
        "cct_k": picked.need.cct_k or 0.0,
    }


def _on_mains(ways: Sequence[dict[str, Any]], feed: str, gear: Gear, rules: HouseRules) -> Iterator[dict[str, Any]]:
    """From the socket, as far as that voltage does."""
    for each in ways:
        mains = _head_of(each, gear).mains
        if mains is not None and mains.takes(rules.voltage_v):
            yield each | {"feed": feed}


def _on_batteries(ways: Sequence[dict[str, Any]], gear: Gear) -> Iterator[dict[str, Any]]:
    """By the largest kind that its plates take, ours before others."""
    for each in ways:
        kind = _battery_for(_head_of(each, gear), gear)
        if kind is not None:
            yield each | {"feed": kind.slug}


def _head_of(fields: dict[str, Any], gear: Gear) -> Head:
    return gear.head(gear.by_slug(Configuration, fields["configuration"]).head_slug)


def _battery_for(head: Head, gear: Gear) -> BatteryKind | None:
    able = (kind for kind in gear.batteries if not kind.is_retired and head.plate_for(kind.mount))
    return max(able, key=lambda kind: (kind.is_owned, kind.supply(1).energy_wh, kind.slug), default=None)


def lux_of(lit: LitScene, lamps: Sequence[PlacedLamp], gear: Gear, rules: HouseRules) -> Array:
    """What each lamp gives at every mark of a scene at full output, all else as it stands. Shape (N, M).

    Raises: BadValue for one that cannot be put together.
    """
    built = lit.built
    fixtures = [fixture_of(lamp, gear, rules.scrim_school) for lamp in lamps]
    sources = [
        replace(source_of(lamp, fixture, aim_of(built.setup, lamp)), lamp_id=str(at))  # several stand at one place
        for at, (lamp, fixture) in enumerate(zip(lamps, fixtures, strict=True))
    ]
    if not sources:
        return np.zeros((0, len(built.marks)))
    grids, bare = built.surroundings.grids, replace(built.scene, lamps=())
    standing = Standing.of(bare, grids, with_walls=True, fineness=SET)
    scene = replace(built.scene, lamps=tuple(sources))
    return np.asarray(unit_response(scene, grids, fineness=SET, standing=standing).whole_lx)
