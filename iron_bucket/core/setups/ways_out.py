"""For a target that is missed: every single change that would meet it, with what else it does."""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from datetime import timedelta
from typing import Any

import numpy as np

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import Board
from iron_bucket.core.places.bearing import bearing_of, tilt_of
from iron_bucket.core.quantities import spoken
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.scene import SceneLamp
from iron_bucket.core.setups.burden import burden_of
from iron_bucket.core.setups.changes import Change, Deed, added, changed, next_id, set_look, set_piece
from iron_bucket.core.setups.faces import lit_faces
from iron_bucket.core.setups.ladder import Rung, RungKind, ladder_of
from iron_bucket.core.setups.lit import Lit, Respond, respond_anew
from iron_bucket.core.setups.plan import FlagKind, PlacedFlag, PlacedLamp, Setup, WindowFilm
from iron_bucket.core.setups.staging import LightKind, StagedLight, aim_of, frame_parts, position_of, staged

#: Lamps and frames that give less of the light at a mark are not worth moving for it.
WORTH_SHARE = 0.15
NEAREST_M, FARTHEST_TIMES = 0.6, 4.0
_MOST_LAMPS, _MOST_HEADS = 2, 3
_BISECTIONS = 24
_FLAG_FROM_LAMP_M = 0.6
_BESIDE_M = 0.45
#: Stops, ISO and ND are set in thirds.
_THIRD = 1.0 / 3.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Effect:
    """What a way out does to another mark of the ladder, in stops of where it lies."""

    name: str
    stops: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """``miss_stops`` is what is left of the miss. ``softness_deg``: change of the key's apparent size on the first person. Amps, kilos and money are changes too."""

    text: str
    changes: tuple[Change, ...]
    stops: float
    miss_stops: float
    others: tuple[Effect, ...]
    softness_deg: float
    amps: float
    weight_kg: float
    day_price: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Search:
    lit: Lit
    rung: Rung
    gear: Gear
    rules: HouseRules
    respond: Respond

    @property
    def setup(self) -> Setup:
        return self.lit.staged.setup

    @property
    def factor(self) -> float:
        """By how much the light at the mark must grow."""
        return float(2.0 ** -(self.rung.miss_stops or 0.0))

    @property
    def place(self) -> int:
        """Column of the mark."""
        place = self.lit.place_of(self.rung.mark_id)
        if place is None:
            raise BadValue("mark", repr(self.rung.mark_id), "a mark that a meter can be held at")
        return place

    @property
    def units(self) -> UnitSystem:
        return self.rules.units

    def strongest(self) -> list[tuple[StagedLight, float]]:
        """Our lamps that matter at the mark, strongest first, with what they give there."""
        given = self.lit.by_light_lx[:, self.place]
        whole = max(float(given.sum()), 1e-9)
        mine = [
            (light, float(given[at]))
            for at, light in enumerate(self.lit.staged.lights)
            if light.kind is LightKind.LAMP
            and light.placed
            and not light.placed.is_locked
            and given[at] > WORTH_SHARE * whole
        ]
        return sorted(mine, key=lambda pair: -pair[1])[:_MOST_LAMPS]

    def needed_lx(self, given_lx: float) -> float:
        """What one light must give so that all together are right; may come out below 0."""
        total = float(self.lit.total_lx[self.place])
        return given_lx + total * (self.factor - 1.0)


def ways_out(lit: Lit, rung: Rung, gear: Gear, rules: HouseRules, respond: Respond = respond_anew) -> tuple[Way, ...]:
    """All that meet the target of one rung, those that change other marks least first. None for a rung without a target, or one that is met.

    Every way is one change, reckoned in full before it is offered; what does not meet the target in the end is left out.
    """
    if not rung.is_missed:
        return ()
    search = _Search(lit=lit, rung=rung, gear=gear, rules=rules, respond=respond)
    found: list[Way] = []
    for text, changes in _proposals(search):
        way = _tried(search, text, changes)
        if way is not None and rung.target is not None and abs(way.miss_stops) <= rung.target.tolerance + 1e-9:
            found.append(way)
    return tuple(sorted(found, key=lambda way: (sum(abs(each.stops) for each in way.others), abs(way.miss_stops))))


Proposal = tuple[str, tuple[Change, ...]]


def _proposals(search: _Search) -> Iterator[Proposal]:
    if search.rung.kind is not RungKind.WINDOW:
        for light, given in search.strongest():
            for each in (_dimmer, _distance, _optics, _sheets, _boxes, _second, _other_heads, _nets):
                yield from each(search, light, given)
        yield from _cloths(search)
    yield from _camera(search)
    yield from _films(search)
    yield from _turned(search)
    yield from _hours(search)


def _tried(search: _Search, text: str, changes: tuple[Change, ...]) -> Way | None:
    """Reckoned in full; None where it cannot be."""
    old = search.lit
    try:
        setup = changed(search.setup, changes)
        stage = staged(setup, old.staged.surroundings, search.gear, search.rules)
        weighs = burden_of(setup, search.gear, search.rules)
    except BadValue:
        return None
    new = Lit(staged=stage, response=search.respond(stage))
    ladder = ladder_of(new, search.rules.receptor)
    rung = ladder.rung(search.rung.mark_id)
    if rung is None:  # turned out of the picture
        return _out_of_picture(search, text, changes, new)
    weighed = burden_of(search.setup, search.gear, search.rules)
    return Way(
        text=text,
        changes=changes,
        stops=rung.stops,
        miss_stops=rung.miss_stops or 0.0,
        others=_others(search, new),
        softness_deg=_softness(new) - _softness(old),
        amps=weighs.amps - weighed.amps,
        weight_kg=weighs.weight_kg - weighed.weight_kg,
        day_price=weighs.day_price - weighed.day_price,
    )


def _out_of_picture(search: _Search, text: str, changes: tuple[Change, ...], new: Lit) -> Way:
    target = search.rung.target
    return Way(text=text, changes=changes, stops=target.stops if target else 0.0, miss_stops=0.0, others=_others(search, new), softness_deg=0.0, amps=0.0, weight_kg=0.0, day_price=0.0)  # fmt: skip


def _others(search: _Search, new: Lit) -> tuple[Effect, ...]:
    """The rungs that move by a tenth of a stop and more."""
    before = {each.mark_id: each for each in ladder_of(search.lit, search.rules.receptor).rungs}
    after = ladder_of(new, search.rules.receptor)
    return tuple(
        Effect(name=each.name, stops=each.stops - before[each.mark_id].stops)
        for each in after.rungs
        if each.mark_id != search.rung.mark_id
        and each.mark_id in before
        and abs(each.stops - before[each.mark_id].stops) >= 0.1
    )


def _softness(lit: Lit) -> float:
    faces = lit_faces(lit)
    return faces[0].apparent_deg if faces else 0.0


def _dimmer(search: _Search, light: StagedLight, given: float) -> Iterator[Proposal]:
    placed = _placed(light)
    level = placed.level * search.needed_lx(given) / given
    if light.lowest <= level <= 1.0:
        word = "Dim" if level < placed.level else "Raise"
        yield (
            f"{word} {light.name} to {spoken.share(level)}",
            (set_piece("lamps", placed.piece_id, level=round(level, 4)),),
        )


def _placed(light: StagedLight) -> PlacedLamp:
    if light.placed is None:
        raise ValueError("not a lamp of ours")
    return light.placed


def _distance(search: _Search, light: StagedLight, given: float) -> Iterator[Proposal]:
    """Along its line to the mark, with the same height over it."""
    placed, mark = _placed(light), search.lit.staged.marks[search.place].mark
    away = np.array([placed.x_m - mark.position_m[0], placed.y_m - mark.position_m[1]])
    now_m, needed = float(np.linalg.norm(away)), search.needed_lx(given)
    if now_m < NEAREST_M or needed <= 0.0:
        return

    def there(distance_m: float) -> dict[str, Any]:
        spot = mark.position_m[:2] + away * (distance_m / now_m)
        return {"x_m": round(float(spot[0]), 3), "y_m": round(float(spot[1]), 3)}

    steady = given - _alone_lx(search, placed)  # what comes off the walls hardly moves with it
    found_m = _where(lambda distance_m: _alone_lx(search, replace(placed, **there(distance_m))) + steady, needed, NEAREST_M, now_m * FARTHEST_TIMES)  # fmt: skip
    if found_m is None or search.lit.staged.surroundings.room_at(*there(found_m).values()) != search.lit.staged.surroundings.room_at(placed.x_m, placed.y_m):  # fmt: skip
        return
    by = now_m - found_m
    word = "closer" if by > 0 else "farther"
    yield f"{light.name} {spoken.length(abs(by), search.units)} {word}", (set_piece("lamps", placed.piece_id, **there(found_m)),)  # fmt: skip


def _where(level: Callable[[float], float], needed: float, near: float, far: float) -> float | None:
    """The distance at which a falling level is as needed, by halving; None where it lies outside."""
    if not level(far) <= needed <= level(near):
        return None
    for _ in range(_BISECTIONS):
        middle = math.sqrt(near * far)
        near, far = (middle, far) if level(middle) > needed else (near, middle)
    return math.sqrt(near * far)


def _alone_lx(search: _Search, placed: PlacedLamp) -> float:
    """What one lamp gives at the mark, straight and by frames."""
    setup = search.setup.with_piece(placed.piece_id, x_m=placed.x_m, y_m=placed.y_m)
    stage = staged(replace(setup, lamps=tuple(each for each in setup.lamps if each.piece_id == placed.piece_id)), search.lit.staged.surroundings, search.gear, search.rules)  # fmt: skip
    scene = replace(stage.scene, lamps=stage.scene.lamps[:1], marks=(search.lit.staged.marks[search.place].mark,))
    found = unit_response(scene, with_walls=False)
    return placed.level * float(found.whole_lx[0, 0])


def _optics(search: _Search, light: StagedLight, given: float) -> Iterator[Proposal]:
    """Other focus, reflectors and lenses of the same head."""
    placed, worn = _placed(light), light.worn
    if worn is None or worn.face:
        return
    for each in search.gear.configurations:
        if each.head_slug == worn.head.slug and each.slug != placed.configuration and not each.is_retired:
            yield f"{light.name}: {each.name} for {worn.configuration.name}", (set_piece("lamps", placed.piece_id, configuration=each.slug),)  # fmt: skip


def _sheets(search: _Search, light: StagedLight, given: float) -> Iterator[Proposal]:
    """Scrims, nets and ND on the head: one more, or one fewer."""
    placed, worn = _placed(light), light.worn
    if worn is None:
        return
    for each in worn.sheets:
        if each.kind.only_dims:
            left = tuple(slug for slug in placed.sheets if slug != each.slug)
            yield f"{each.name} off {light.name}", (set_piece("lamps", placed.piece_id, sheets=left),)
    if search.factor >= 1.0:
        return
    for each in search.gear.sheets:
        if each.kind.only_dims and not each.is_retired and each.slug not in placed.sheets and (not each.ring_mm or each.ring_mm == worn.head.scrim_ring_mm):  # fmt: skip
            yield f"{each.name} on {light.name}", (set_piece("lamps", placed.piece_id, sheets=(*placed.sheets, each.slug)),)  # fmt: skip


def _boxes(search: _Search, light: StagedLight, given: float) -> Iterator[Proposal]:
    placed, worn = _placed(light), light.worn
    if worn is None:
        return
    if worn.grid:
        yield f"{worn.grid.name} off {light.name}", (set_piece("lamps", placed.piece_id, grid=""),)
    if worn.face:
        yield f"{worn.face.name} off {light.name}", (set_piece("lamps", placed.piece_id, face="", grid=""),)
        for each in search.gear.faces:
            if each.fitting == worn.face.fitting and each.slug != worn.face.slug and not each.is_retired:
                yield (
                    f"{each.name} for {worn.face.name}",
                    (set_piece("lamps", placed.piece_id, face=each.slug, grid=""),),
                )


def _second(search: _Search, light: StagedLight, given: float) -> Iterator[Proposal]:
    """The same once more beside it, dimmed as needed."""
    placed, missing = _placed(light), search.needed_lx(given) - given
    if missing <= 0.0:
        return
    level = placed.level * missing / given
    if not light.lowest <= level <= 1.0:
        return
    aim = aim_of(search.setup, placed)
    beside = replace(
        placed,
        piece_id=next_id(search.setup, "lamp"),
        name=f"{placed.name[:70]} 2",
        x_m=round(placed.x_m + _BESIDE_M * float(aim[1]), 3),
        y_m=round(placed.y_m - _BESIDE_M * float(aim[0]), 3),
        level=round(level, 4),
    )
    yield f"A second head beside {light.name}, at {spoken.share(level)}", (added("lamps", beside),)


def _other_heads(search: _Search, light: StagedLight, given: float) -> Iterator[Proposal]:
    """Other heads that wear the same, those of ours and the lightest first."""
    placed, worn = _placed(light), light.worn
    if worn is None:
        return
    by_slug = {head.slug: head for head in search.gear.heads}
    able = []
    for each in search.gear.configurations:
        head = by_slug[each.head_slug]
        alike = (
            (each.takes_box and head.fitting == worn.face.fitting)
            if worn.face
            else each.name == worn.configuration.name
        )
        if not alike or head.slug == worn.head.slug or each.is_retired or head.is_retired:
            continue
        grows = each.lumens / worn.configuration.lumens if worn.face else _axis_cd(each) / _axis_cd(worn.configuration)
        level = placed.level * search.needed_lx(given) / given / grows
        if head.lowest_level <= level <= 1.0:
            able.append((not head.is_owned, head.total_kg, head, each, level))
    able.sort(key=lambda row: (row[0], row[1], row[2].slug))
    for _, _, head, each, level in able[:_MOST_HEADS]:
        yield f"{head.name} in place of {worn.head.name}, at {spoken.share(level)}", (set_piece("lamps", placed.piece_id, configuration=each.slug, level=round(level, 4)),)  # fmt: skip


def _axis_cd(configuration: Any) -> float:
    return float(configuration.distribution.intensity_cd(0.0))


def _nets(search: _Search, light: StagedLight, given: float) -> Iterator[Proposal]:
    """A net or a flag between a lamp and the mark."""
    if search.factor >= 1.0:
        return
    placed, mark = _placed(light), search.lit.staged.marks[search.place].mark
    ray = mark.position_m - position_of(placed)
    length = float(np.linalg.norm(ray))
    if length < 2.0 * _FLAG_FROM_LAMP_M:
        return
    spot = position_of(placed) + _FLAG_FROM_LAMP_M * ray / length
    for kind in (FlagKind.SINGLE_NET, FlagKind.DOUBLE_NET, FlagKind.SOLID):
        flag = PlacedFlag(
            piece_id=next_id(search.setup, "flag"),
            name=f"{kind.value} for {placed.name}"[:80],
            x_m=round(float(spot[0]), 3),
            y_m=round(float(spot[1]), 3),
            z_m=round(float(spot[2]), 3),
            bearing_deg=round(bearing_of(-ray), 1),
            tilt_deg=round(tilt_of(-ray), 1),
            kind=kind,
        )
        yield f"A {kind.value} before {light.name}", (added("flags", flag),)


def _cloths(search: _Search) -> Iterator[Proposal]:
    """Less or more cloth, and larger or smaller frames, where a frame gives a share of the light."""
    response, total = search.lit.response, max(float(search.lit.total_lx[search.place]), 1e-9)
    for at, frame in enumerate(search.setup.frames):
        share = float(search.lit.staged.levels @ response.via_lx[:, at, search.place]) / total
        if share < WORTH_SHARE or frame.is_locked:
            continue
        parts = frame_parts(frame, search.gear)
        if isinstance(parts, Board):
            yield from ((f"{each.name} for {parts.name}", (set_piece("frames", frame.piece_id, board=each.slug),)) for each in search.gear.boards if each.slug != parts.slug and not each.is_retired)  # fmt: skip
            continue
        holder, cloth = parts
        yield from ((f"{each.name} for {cloth.name} on {frame.name}", (set_piece("frames", frame.piece_id, cloth=each.slug),)) for each in search.gear.cloths if each.slug != cloth.slug and each.fits(holder) and not each.is_retired)  # fmt: skip
        yield from ((f"{each.name} for {holder.name}", (set_piece("frames", frame.piece_id, frame=each.slug),)) for each in search.gear.frames if each.slug != holder.slug and cloth.fits(each) and not each.is_retired)  # fmt: skip


def _camera(search: _Search) -> Iterator[Proposal]:
    """Stop, ISO and ND move every mark alike."""
    look, stops = search.setup.look, search.rung.miss_stops or 0.0
    thirds = round(stops / _THIRD) * _THIRD
    if thirds == 0.0:
        return
    t_stop = look.t_stop * 2.0 ** (thirds / 2.0)
    if 0.7 <= t_stop <= 45.0:
        yield f"{'Close' if thirds > 0 else 'Open'} to T{t_stop:.2g}", (set_look(t_stop=round(t_stop, 2)),)
    iso = look.iso * 2.0**-thirds
    if 50.0 <= iso <= 25_600.0:
        yield f"ISO {iso:.0f}", (set_look(iso=float(round(iso))),)
    nd_stops = look.nd_stops + thirds
    if 0.0 <= nd_stops <= 10.0:
        yield f"{spoken.stops(nd_stops, signed=False)} of ND at the lens", (set_look(nd_stops=round(nd_stops, 2)),)


def _films(search: _Search) -> Iterator[Proposal]:
    """ND film on a window that is too bright, or lights too much."""
    if search.factor >= 1.0:
        return
    on = {each.opening_id: each for each in search.setup.films}
    for at, light in enumerate(search.lit.staged.lights):
        if light.kind is not LightKind.DAY or isinstance(light.light, SceneLamp) or light.level <= 0.0:
            continue
        if search.rung.kind is RungKind.WINDOW:
            if light.light_id != search.rung.mark_id:
                continue
            stops = search.rung.miss_stops or 0.0
        else:
            given = float(search.lit.by_light_lx[at, search.place])
            needed = search.needed_lx(given)
            if given <= 0.0 or needed <= 0.0:
                continue
            stops = math.log2(given / needed)
        if light.light_id in on:
            whole = round(on[light.light_id].stops + stops, 2)
            yield f"{spoken.stops(whole, signed=False)} of film on {light.name}", (set_piece("films", on[light.light_id].piece_id, stops=whole),)  # fmt: skip
        elif light.light_id != "sky":
            film = WindowFilm(piece_id=next_id(search.setup, "film"), opening_id=light.light_id, stops=round(stops, 2))
            yield f"{spoken.stops(stops, signed=False)} of film on {light.name}", (added("films", film),)


def _turned(search: _Search) -> Iterator[Proposal]:
    """A window that clips may be left out of the picture."""
    if search.rung.kind is not RungKind.WINDOW or search.factor >= 1.0:
        return
    bearing = search.setup.camera.bearing_deg
    for turn in (5.0, 10.0, 15.0, 20.0, 25.0, 30.0):
        for way, word in ((turn, "right"), (-turn, "left")):
            changes = (Change(deed=Deed.SET, where="camera", to={"bearing_deg": round((bearing + way) % 360.0, 1)}),)
            stage = staged(changed(search.setup, changes), search.lit.staged.surroundings, search.gear, search.rules)
            seen = ladder_of(Lit(staged=stage, response=search.lit.response), search.rules.receptor)
            if seen.rung(search.rung.mark_id) is None:
                yield f"Turn the camera {turn:.0f}° {word}: {search.rung.name} leaves the picture", changes
                return


def _hours(search: _Search) -> Iterator[Proposal]:
    """The same day at another hour, where daylight decides: the nearest that would do, by the light straight from sky and sun."""
    staged_now = search.lit.staged
    by_day = np.array([light.kind is LightKind.DAY for light in staged_now.lights])
    if not by_day.any():
        return
    if search.rung.kind is not RungKind.WINDOW:
        share = float(search.lit.by_light_lx[by_day, search.place].sum()) / max(
            float(search.lit.total_lx[search.place]), 1e-9
        )
        if share < WORTH_SHARE:
            return
    midnight = search.setup.when.replace(hour=0, minute=0)
    hours = sorted((midnight + timedelta(minutes=30 * at) for at in range(10, 45)), key=lambda when: abs((when - search.setup.when).total_seconds()))  # fmt: skip
    sun_now = staged_now.surroundings.sun(search.setup.when).altitude_deg
    for when in hours:
        if when == search.setup.when:
            continue
        changes = (Change(deed=Deed.SET, where="setup", to={"when": when}),)
        if _would_do(search, changes):
            sun = staged_now.surroundings.sun(when).altitude_deg
            yield f"At {when:%H:%M}, the sun {sun:.0f}° high in place of {sun_now:.0f}°", changes
            return


def _would_do(search: _Search, changes: tuple[Change, ...]) -> bool:
    """Whether another hour meets the target, with what comes off the walls taken to follow what comes straight."""
    stage = staged(changed(search.setup, changes), search.lit.staged.surroundings, search.gear, search.rules)
    if search.rung.kind is RungKind.WINDOW:
        rung = ladder_of(Lit(staged=stage, response=unit_response(replace(stage.scene, rooms=()), with_walls=False)), search.rules.receptor).rung(search.rung.mark_id)  # fmt: skip
        return rung is not None and not rung.is_missed
    marks = (search.lit.staged.marks[search.place].mark,)
    now, then = (
        float(each.levels @ unit_response(replace(each.scene, marks=marks), with_walls=False).whole_lx[:, 0])
        for each in (search.lit.staged, stage)
    )
    if now <= 0.0 or then <= 0.0 or search.rung.target is None:
        return False
    return abs((search.rung.miss_stops or 0.0) + math.log2(then / now)) <= search.rung.target.tolerance
