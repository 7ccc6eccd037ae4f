"""Single changes to lamps and frames that may meet a target."""

import math
from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Any

import numpy as np
from scipy.optimize import brentq

from iron_bucket.core.arrays import angle_rad
from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.flag import FlagKind
from iron_bucket.core.modifiers.kinds import Board
from iron_bucket.core.places.place import LONGEST_NAME
from iron_bucket.core.quantities import display
from iron_bucket.core.scene.fineness import PASSING
from iron_bucket.core.scene.first_light import first_light
from iron_bucket.core.scene.light_levels import levels_lx
from iron_bucket.core.scene.standing import mark_points
from iron_bucket.core.setups.plan.changes import added, next_id, set_piece
from iron_bucket.core.setups.plan.setup import PlacedFlag, PlacedLamp
from iron_bucket.core.setups.plan.written import dialled, placed_m, turned_deg
from iron_bucket.core.setups.scene.build_scene import (
    BuiltLight,
    aim_of,
    build_scene,
    frame_parts,
    position_of,
    solid_of,
)
from iron_bucket.core.setups.suggest.negative_fill import negative_fill
from iron_bucket.core.setups.suggest.other_heads import other_heads
from iron_bucket.core.setups.suggest.shortfall import WORTH_SHARE, Hand, Proposal, Shortfall, Sketch

NEAREST_M, FARTHEST_TIMES = 0.6, 4.0
_MOST_HEADS = 3
_NEARLY = 1.02
_FLAG_FROM_LAMP_M = 0.6
_BESIDE_M = 0.45
#: What is put behind the name of the lamp that it stands beside.
_SECOND = " 2"


def _dimmer(miss: Shortfall, light: BuiltLight, given: float) -> Iterator[Sketch]:
    placed = _placed(light)
    level = placed.level * miss.needed_lx(given) / given
    if light.lowest <= level <= 1.0:
        word = "Dim" if level < placed.level else "Raise"
        yield (
            f"{word} {light.name} to {display.share(level)}",
            (set_piece("lamps", placed.piece_id, level=dialled(level)),),
        )


def _placed(light: BuiltLight) -> PlacedLamp:
    if light.placed is None:
        raise ValueError("not a lamp of ours")
    return light.placed


def _distance(miss: Shortfall, light: BuiltLight, given: float) -> Iterator[Sketch]:
    """Along its line to the mark, with the same height over it."""
    placed, mark = _placed(light), miss.lit.built.marks[miss.place].mark
    away = np.array([placed.x_m - mark.position_m[0], placed.y_m - mark.position_m[1]])
    now_m, needed = float(np.linalg.norm(away)), miss.needed_lx(given)
    if now_m < NEAREST_M:
        return

    def there(distance_m: float) -> dict[str, Any]:
        spot = mark.position_m[:2] + away * (distance_m / now_m)
        return placed_m(spot)

    steady = given - _alone_lx(miss, placed)  # what comes off the walls hardly moves with it
    found_m = _where(
        lambda distance_m: _alone_lx(miss, replace(placed, **there(distance_m))) + steady,
        needed,
        NEAREST_M,
        now_m * FARTHEST_TIMES,
    )
    if found_m is None or miss.lit.built.surroundings.room_at(
        *there(found_m).values()
    ) != miss.lit.built.surroundings.room_at(placed.x_m, placed.y_m):
        return
    by = now_m - found_m
    word = "closer" if by > 0 else "farther"
    yield (
        f"{light.name} {display.length(abs(by), miss.units)} {word}",
        (set_piece("lamps", placed.piece_id, **there(found_m)),),
    )


def _where(level: Callable[[float], float], needed: float, near: float, far: float) -> float | None:
    """The distance at which a falling level is as needed; None where there is none.

    Looked for in logarithms, in which the inverse square is a straight line.
    """

    def over(log_m: float) -> float:
        return math.log(max(level(math.exp(log_m)), 1e-9) / needed)

    if needed <= 0.0 or over(math.log(near)) < 0.0 or over(math.log(far)) > 0.0:
        return None
    found = brentq(over, math.log(near), math.log(far), xtol=1e-4)
    # Behind a wall the level falls to nothing at once, past what is needed.
    return math.exp(found) if abs(over(found)) < math.log(_NEARLY) else None


def _alone_lx(miss: Shortfall, placed: PlacedLamp) -> float:
    """What one lamp gives at the mark, straight and by one frame."""
    setup = miss.setup.with_piece(placed.piece_id, x_m=placed.x_m, y_m=placed.y_m)
    built = build_scene(
        replace(setup, lamps=tuple(each for each in setup.lamps if each.piece_id == placed.piece_id)),
        miss.lit.built.surroundings,
        miss.gear,
        miss.rules,
    )
    scene = replace(built.scene, lamps=built.scene.lamps[:1])
    mark = mark_points((miss.lit.built.marks[miss.place].mark,))
    by_frames = first_light(scene, mark, PASSING.frame_points).via_lx.sum()
    return placed.level * float(levels_lx(scene.lamps, mark, scene.blockers).sum() + by_frames)


def _optics(miss: Shortfall, light: BuiltLight, given: float) -> Iterator[Sketch]:
    """Other focus, reflectors and lenses of the same head."""
    placed, fixture = _placed(light), light.fixture
    if fixture is None or fixture.face:
        return
    ray = miss.lit.built.marks[miss.place].mark.position_m - position_of(placed)
    off_deg = float(np.degrees(angle_rad(ray @ aim_of(miss.setup, placed) / np.linalg.norm(ray))))
    now_cd = _towards_cd(fixture.configuration, off_deg)
    for each in miss.gear.configurations:
        if each.head_slug == fixture.head.slug and each.slug != placed.configuration and not each.is_retired:
            yield (
                f"{light.name}: {each.name} for {fixture.configuration.name}",
                (set_piece("lamps", placed.piece_id, configuration=each.slug),),
                miss.times(given * (_towards_cd(each, off_deg) / now_cd - 1.0)),
            )


def _towards_cd(configuration: Configuration, off_deg: float) -> float:
    """So far off the axis."""
    return max(float(np.mean(configuration.distribution.intensity_cd(off_deg))), 1e-3)


def _sheets(miss: Shortfall, light: BuiltLight, given: float) -> Iterator[Sketch]:
    """Scrims, nets and ND on the head: one more, or one fewer."""
    placed, fixture = _placed(light), light.fixture
    if fixture is None:
        return
    school = miss.rules.scrim_school
    for each in fixture.sheets:
        if each.kind.only_dims:
            left = tuple(slug for slug in placed.sheets if slug != each.slug)
            more_lx = given * (1.0 / each.passes(school).value - 1.0)
            yield (
                f"{each.name} off {light.name}",
                (set_piece("lamps", placed.piece_id, sheets=left),),
                miss.times(more_lx),
            )
    if miss.factor >= 1.0:
        return
    for each in miss.gear.sheets:
        if (
            each.kind.only_dims
            and not each.is_retired
            and each.slug not in placed.sheets
            and (not each.ring_mm or each.ring_mm == fixture.head.scrim_ring_mm)
        ):
            yield (
                f"{each.name} on {light.name}",
                (set_piece("lamps", placed.piece_id, sheets=(*placed.sheets, each.slug)),),
                miss.times(given * (each.passes(school).value - 1.0)),
            )


def _boxes(miss: Shortfall, light: BuiltLight, given: float) -> Iterator[Sketch]:
    placed, fixture = _placed(light), light.fixture
    if fixture is None:
        return
    if fixture.grid:
        yield f"{fixture.grid.name} off {light.name}", (set_piece("lamps", placed.piece_id, grid=""),)
    if fixture.face:
        yield f"{fixture.face.name} off {light.name}", (set_piece("lamps", placed.piece_id, face="", grid=""),)
        for each in miss.gear.faces:
            if each.fitting == fixture.face.fitting and each.slug != fixture.face.slug and not each.is_retired:
                yield (
                    f"{each.name} for {fixture.face.name} on {light.name}",
                    (set_piece("lamps", placed.piece_id, face=each.slug, grid=""),),
                )


def _second(miss: Shortfall, light: BuiltLight, given: float) -> Iterator[Sketch]:
    """The same once more beside it, dimmed as needed."""
    placed, missing = _placed(light), miss.needed_lx(given) - given
    level = placed.level * missing / given
    if not light.lowest <= level <= 1.0:
        return
    aim = aim_of(miss.setup, placed)
    beside = replace(
        placed,
        piece_id=next_id(miss.setup, "lamp"),
        name=f"{placed.name[: LONGEST_NAME - len(_SECOND)]}{_SECOND}",
        **placed_m(np.array([placed.x_m + _BESIDE_M * aim[1], placed.y_m - _BESIDE_M * aim[0]])),
        level=dialled(level),
    )
    yield f"A second head beside {light.name}, at {display.share(level)}", (added("lamps", beside),)


def _other_heads(miss: Shortfall, light: BuiltLight, given: float) -> Iterator[Sketch]:
    """Other heads that wear the same, those of ours and the lightest first."""
    placed, fixture = _placed(light), light.fixture
    if fixture is None:
        return
    level = placed.level * miss.needed_lx(given) / given
    able = [
        (not each.head.is_owned, each.head.total_kg, each.head, each.configuration, each.level)
        for each in other_heads(fixture, level, miss.gear)
    ]
    able.sort(key=lambda row: (row[0], row[1], row[2].slug))
    for _, _, head, each, level in able[:_MOST_HEADS]:
        yield (
            f"{head.name} in place of {fixture.head.name}, at {display.share(level)}",
            (set_piece("lamps", placed.piece_id, configuration=each.slug, level=dialled(level)),),
        )


def _nets(miss: Shortfall, light: BuiltLight, given: float) -> Iterator[Sketch]:
    """A net or a flag between a lamp and the mark."""
    if miss.factor >= 1.0:
        return
    placed, mark = _placed(light), miss.lit.built.marks[miss.place].mark
    ray = mark.position_m - position_of(placed)
    length = float(np.linalg.norm(ray))
    if length < 2.0 * _FLAG_FROM_LAMP_M:
        return
    spot = position_of(placed) + _FLAG_FROM_LAMP_M * ray / length
    at = miss.lit.built.lights.index(light)
    straight_lx = light.level * float(miss.lit.response.direct_lx[at, miss.place])
    for kind in (FlagKind.SINGLE_NET, FlagKind.DOUBLE_NET, FlagKind.SOLID):
        flag = PlacedFlag(
            piece_id=next_id(miss.setup, "flag"),
            name=f"{kind.value} for {placed.name}"[:LONGEST_NAME],
            **placed_m(spot),
            **turned_deg(-ray),
            kind=kind,
        )
        passes = solid_of(flag, miss.rules).transmittance
        yield f"A {kind.value} before {light.name}", (added("flags", flag),), miss.times((passes - 1.0) * straight_lx)


def _cloths(miss: Shortfall) -> Iterator[Sketch]:
    """Less or more cloth, and larger or smaller frames, where a frame gives a share of the light."""
    response, total = miss.lit.response, max(float(miss.lit.total_lx[miss.place]), 1e-9)
    for at, frame in enumerate(miss.setup.frames):
        share = float(miss.lit.built.levels @ response.via_lx[:, at, miss.place]) / total
        if share < WORTH_SHARE or frame.is_locked:
            continue
        parts = frame_parts(frame, miss.gear)
        if isinstance(parts, Board):
            yield from (
                (f"{each.name} for {parts.name}", (set_piece("frames", frame.piece_id, board=each.slug),))
                for each in miss.gear.boards
                if each.slug != parts.slug and not each.is_retired
            )
            continue
        holder, cloth = parts
        yield from (
            (f"{each.name} for {cloth.name} on {frame.name}", (set_piece("frames", frame.piece_id, cloth=each.slug),))
            for each in miss.gear.cloths
            if each.slug != cloth.slug and each.fits(holder) and not each.is_retired
        )
        yield from (
            (f"{each.name} for {holder.name}", (set_piece("frames", frame.piece_id, frame=each.slug),))
            for each in miss.gear.frames
            if each.slug != holder.slug and cloth.fits(each) and not each.is_retired
        )


_OF_A_LAMP = (
    (Hand.FLAG, _nets),
    (Hand.DIMMER, _dimmer),
    (Hand.SHEET, _sheets),
    (Hand.DISTANCE, _distance),
    (Hand.DRESS, _optics),
    (Hand.DRESS, _boxes),
    (Hand.HEAD, _second),
    (Hand.HEAD, _other_heads),
)


def by_lamps(miss: Shortfall) -> Iterator[Proposal]:
    """Black, nets and flags, dimmer, sheets, distance, optics, boxes, cloths and frames, a second head, other heads."""
    yield from (Proposal.of(sketch, Hand.BLACK) for sketch in negative_fill(miss))
    for light, given in miss.strongest():
        for hand, make in _OF_A_LAMP:
            yield from (Proposal.of(sketch, hand) for sketch in make(miss, light, given))
    yield from (Proposal.of(sketch, Hand.DRESS) for sketch in _cloths(miss))
