"""Arrangements to begin with, named by what they are for, built from what the bench owns and scaled to the room. Everything in them can be changed."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import datetime
from enum import StrEnum
from typing import Any

import numpy as np

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.bearing import along_bearing, bearing_of
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.changes import changed
from iron_bucket.core.setups.lit import lit
from iron_bucket.core.setups.look import Look
from iron_bucket.core.setups.plan import Camera, Person, PlacedFrame, PlacedLamp, Setup, Spot, Target
from iron_bucket.core.setups.solved import solved_setup
from iron_bucket.core.setups.staging import staged


class Beginning(StrEnum):
    """What for."""

    EMPTY = "empty: camera and one person"
    WINDOW_TALK = "talk by a window"
    NIGHT_TABLE = "night table under a practical"
    MORNING = "morning through the window"
    MOON_AND_FIRE = "moon behind, fire before"
    PRODUCT_EDGE = "product with two edges"
    SIT_DOWN = "sit-down portrait, wrapped"


#: A room is filled to this share of its shorter side; outside a set is so wide.
_FILL, _OUTSIDE_M, _LARGEST_M = 0.8, 8.0, 7.0
_FACE_M = 1.3
_HEADROOM_M = 0.35


@dataclass(frozen=True, slots=True, kw_only=True)
class _Stage:
    """Middle of the set, its size, where the camera stands from the subject, and how high lamps may go."""

    x_m: float
    y_m: float
    size_m: float
    towards_camera_deg: float
    ceiling_m: float
    look: Look
    gear: Gear

    def at(self, off_camera_deg: float, distance_m: float) -> tuple[float, float]:
        """A place so far from the subject, at an angle from the line to the camera, clockwise seen from above."""
        away = along_bearing(self.towards_camera_deg + off_camera_deg) * distance_m
        return round(self.x_m + float(away[0]), 2), round(self.y_m + float(away[1]), 2)


def begun(
    beginning: Beginning,
    name: str,
    surroundings: Surroundings,
    gear: Gear,
    rules: HouseRules,
    look: Look,
    when: datetime,
) -> Setup:
    """A set-up with its lamps dimmed to its targets as far as they go. Raises: BadValue where the bench owns no lamp that could play a part."""
    stage = _stage(surroundings, look, gear)
    lens = stage.at(0.0, stage.size_m * 0.55)
    setup = Setup(
        name=name,
        when=when,
        weather=Weather.OVERCAST,
        look=look,
        camera=Camera(
            x_m=lens[0],
            y_m=lens[1],
            z_m=_FACE_M,
            bearing_deg=round((stage.towards_camera_deg + 180.0) % 360.0, 1),
            focal_mm=35.0,
        ),
        people=(
            Person(
                piece_id="person-1",
                name="Person",
                x_m=stage.x_m,
                y_m=stage.y_m,
                z_m=_FACE_M,
                bearing_deg=round((stage.towards_camera_deg + 25.0) % 360.0, 1),
            ),
        ),
        spots=(_background(stage),),
        targets=(Target(piece_id="target-1", mark="person-1.key", stops=0.0),),
        house_off=tuple(
            each.lamp_id for each in surroundings.place.house_lamps if "switched" in each.can and not each.must_stay
        ),
    )
    setup = _ARRANGED[beginning](setup, stage) if beginning in _ARRANGED else setup
    return _dimmed(setup, surroundings, gear, rules)


def _stage(surroundings: Surroundings, look: Look, gear: Gear) -> _Stage:
    """In the largest room, looking along its longer side; outside round the middle of the plan."""
    if not surroundings.rooms:
        return _Stage(
            x_m=0.0, y_m=0.0, size_m=_OUTSIDE_M, towards_camera_deg=180.0, ceiling_m=12.0, look=look, gear=gear
        )
    room = max(surroundings.rooms, key=lambda each: each.outline.area)
    middle = room.outline.representative_point() if not room.is_convex else room.outline.centroid
    low, high = room.corners_m.min(axis=0), room.corners_m.max(axis=0)
    across, up = high - low
    return _Stage(
        x_m=round(float(middle.x) - 0.12 * float(across) * (across >= up), 2),
        y_m=round(float(middle.y) + 0.12 * float(up) * (across < up), 2),
        size_m=min(_FILL * float(max(across, up)), _LARGEST_M),
        towards_camera_deg=90.0 if across >= up else 180.0,
        ceiling_m=room.height_m,
        look=look,
        gear=gear,
    )


def _background(stage: _Stage) -> Spot:
    x_m, y_m = stage.at(180.0, stage.size_m * 0.4)
    return Spot(
        piece_id="spot-1",
        name="Background",
        x_m=x_m,
        y_m=y_m,
        z_m=1.4,
        bearing_deg=stage.towards_camera_deg,
        reflectance=0.3,
    )


def _owned(gear: Gear, able: Callable[[Configuration], bool], *, strong: bool) -> Configuration:
    """Of the configurations that are ours and able, the strongest, or the lightest head."""
    heads = {head.slug: head for head in gear.heads}
    found = [
        each
        for each in gear.configurations
        if heads[each.head_slug].is_owned and not heads[each.head_slug].is_hot and able(each)
    ]
    if not found:
        raise BadValue(
            "bench", "without a lamp for it", "a head of ours that can play this part; begin empty, or enter one"
        )
    if strong:
        return max(found, key=lambda each: (each.lumens, each.slug))
    return min(found, key=lambda each: (heads[each.head_slug].total_kg, each.slug))


def _lamp(
    stage: _Stage,
    piece_id: str,
    name: str,
    configuration: Configuration,
    off_deg: float,
    distance_m: float,
    height_m: float,
    **more: Any,
) -> PlacedLamp:
    x_m, y_m = stage.at(off_deg, distance_m)
    height = round(min(height_m, stage.ceiling_m - _HEADROOM_M), 2)
    given: dict[str, Any] = {"aims_at": "person-1", "level": 0.5} | more
    return PlacedLamp(
        piece_id=piece_id, name=name, configuration=configuration.slug, x_m=x_m, y_m=y_m, z_m=height, **given
    )


def _soft(stage: _Stage) -> tuple[Configuration, str]:
    """A head of ours with a box on, the larger the better; where there is no box, a head with a face of its own."""
    heads = {head.slug: head for head in stage.gear.heads}
    boxes = sorted(
        (face for face in stage.gear.faces if face.is_owned and face.fitting),
        key=lambda face: -face.width_m * face.height_m,
    )
    for face in boxes:
        fits = [
            each
            for each in stage.gear.configurations
            if each.takes_box
            and heads[each.head_slug].fitting == face.fitting
            and heads[each.head_slug].is_owned
            and not heads[each.head_slug].is_hot
        ]
        if fits:
            return max(fits, key=lambda each: (each.lumens, each.slug)), face.slug
    return _owned(stage.gear, lambda each: each.is_lambertian, strong=True), ""


def _small(stage: _Stage) -> Configuration:
    return _owned(stage.gear, lambda each: True, strong=False)


def _narrow(stage: _Stage) -> Configuration:
    return _owned(
        stage.gear,
        lambda each: (
            not each.is_lambertian
            and float(each.distribution.intensity_cd(30.0)) < 0.3 * float(each.distribution.intensity_cd(0.0))
        ),
        strong=True,
    )


def _window_talk(setup: Setup, stage: _Stage) -> Setup:
    soft, box = _soft(stage)
    lamps = (
        _lamp(
            stage,
            "lamp-1",
            "Window key",
            soft,
            55.0,
            stage.size_m * 0.32,
            2.0,
            face=box,
            purpose="Key",
            motivation="The window",
        ),
        _lamp(
            stage,
            "lamp-2",
            "Edge",
            _narrow(stage),
            -140.0,
            stage.size_m * 0.42,
            2.2,
            level=0.1,
            purpose="Edge",
            motivation="A lamp deeper in the room",
        ),
    )
    return replace(
        setup,
        lamps=lamps,
        targets=(*setup.targets, _target(2, "person-1.shadow", -2.0, 0.7), _target(3, "person-1.back", 0.3, 0.7)),
    )


def _night_table(setup: Setup, stage: _Stage) -> Setup:
    lamps = (
        _lamp(
            stage,
            "lamp-1",
            "Table practical",
            _small(stage),
            65.0,
            0.9,
            1.15,
            cct_k=2900.0,
            purpose="Key",
            motivation="The lamp on the table",
        ),
        _lamp(
            stage,
            "lamp-2",
            "Night in the room",
            _soft(stage)[0],
            -120.0,
            stage.size_m * 0.45,
            2.3,
            face=_soft(stage)[1],
            level=0.05,
            purpose="Ambience",
            motivation="Night outside",
        ),
    )
    return replace(
        setup,
        lamps=lamps,
        weather=Weather.OVERCAST,
        when=setup.when.replace(hour=22),
        look=replace(stage.look, white_balance_k=3200.0),
        targets=(*setup.targets, _target(2, "person-1.shadow", -3.0, 0.7), _target(3, "spot-1", -3.5, 0.7)),
    )


def _morning(setup: Setup, stage: _Stage) -> Setup:
    lamps = (
        _lamp(
            stage,
            "lamp-1",
            "Morning sun",
            _narrow(stage),
            70.0,
            stage.size_m * 0.5,
            2.4,
            purpose="Key",
            motivation="Low sun through the window",
        ),
        _lamp(
            stage,
            "lamp-2",
            "Sky",
            _soft(stage)[0],
            -60.0,
            stage.size_m * 0.35,
            2.2,
            face=_soft(stage)[1],
            level=0.05,
            purpose="Fill",
            motivation="Sky through the same window",
        ),
    )
    return replace(
        setup, lamps=lamps, targets=(_target(1, "person-1.key", 1.0), _target(2, "person-1.shadow", -2.0, 0.7))
    )


def _moon_and_fire(setup: Setup, stage: _Stage) -> Setup:
    lamps = (
        _lamp(
            stage,
            "lamp-1",
            "Fire",
            _small(stage),
            40.0,
            1.1,
            0.6,
            cct_k=2200.0,
            purpose="Key",
            motivation="A fire out of frame",
        ),
        _lamp(
            stage,
            "lamp-2",
            "Moon",
            _narrow(stage),
            160.0,
            stage.size_m * 0.6,
            3.5,
            purpose="Back",
            motivation="The moon",
        ),
    )
    return replace(
        setup,
        lamps=lamps,
        when=setup.when.replace(hour=22),
        look=replace(stage.look, white_balance_k=4300.0),
        targets=(_target(1, "person-1.key", -0.5), _target(2, "person-1.back", -1.0, 0.7)),
    )


def _product_edge(setup: Setup, stage: _Stage) -> Setup:
    soft, box = _soft(stage)
    lamps = (
        _lamp(stage, "lamp-1", "Left edge", soft, -115.0, 1.2, 1.5, face=box, purpose="Edge"),
        _lamp(stage, "lamp-2", "Right edge", soft, 115.0, 1.2, 1.5, face=box, level=0.3, purpose="Edge"),
    )
    frames: tuple[PlacedFrame, ...] = ()
    boards = [each for each in stage.gear.boards if each.is_owned and each.lobe_deg >= 60.0]
    if boards:
        x_m, y_m = stage.at(20.0, 1.0)
        board = min(boards, key=lambda each: (each.weight_kg, each.slug))
        frames = (
            PlacedFrame(
                piece_id="frame-1",
                name="Front board",
                board=board.slug,
                x_m=x_m,
                y_m=y_m,
                z_m=1.2,
                bearing_deg=round(bearing_of(np.array([stage.x_m - x_m, stage.y_m - y_m, 0.0])), 1),
            ),
        )
    return replace(
        setup, lamps=lamps, frames=frames, targets=(_target(1, "person-1.key", 0.0), _target(2, "person-1.shadow", 0.0))
    )


def _sit_down(setup: Setup, stage: _Stage) -> Setup:
    soft, box = _soft(stage)
    lamps = (
        _lamp(stage, "lamp-1", "Wrapped key", soft, 40.0, 1.7, 1.9, face=box, purpose="Key"),
        _lamp(stage, "lamp-2", "Lift", _small(stage), -45.0, 2.2, 1.6, level=0.05, purpose="Fill"),
        _lamp(
            stage,
            "lamp-3",
            "Background",
            _small(stage),
            -150.0,
            1.6,
            1.9,
            level=0.1,
            aims_at="spot-1",
            purpose="Background",
        ),
    )
    return replace(
        setup,
        lamps=lamps,
        targets=(*setup.targets, _target(2, "person-1.shadow", -1.5, 0.5), _target(3, "spot-1", -1.5, 0.5)),
    )


def _target(number: int, mark: str, stops: float, tolerance: float = 1.0 / 3.0) -> Target:
    return Target(piece_id=f"target-{number}", mark=mark, stops=stops, tolerance=tolerance)


_ARRANGED: dict[Beginning, Callable[[Setup, _Stage], Setup]] = {
    Beginning.WINDOW_TALK: _window_talk,
    Beginning.NIGHT_TABLE: _night_table,
    Beginning.MORNING: _morning,
    Beginning.MOON_AND_FIRE: _moon_and_fire,
    Beginning.PRODUCT_EDGE: _product_edge,
    Beginning.SIT_DOWN: _sit_down,
}


def _dimmed(setup: Setup, surroundings: Surroundings, gear: Gear, rules: HouseRules) -> Setup:
    """Levels set for the targets."""
    if not setup.lamps:
        return setup
    stage = staged(setup, surroundings, gear, rules)
    found = solved_setup(lit(stage), rules.receptor)
    return changed(setup, found.changes)
