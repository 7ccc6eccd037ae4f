"""Arrangements to begin with, named by what they are for, built from what the bench owns and scaled to the room. Everything in them can be changed."""

from collections.abc import Callable
from dataclasses import replace
from datetime import datetime
from enum import StrEnum

import numpy as np

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.bearing import bearing_of
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.changes import changed
from iron_bucket.core.setups.lit import lit
from iron_bucket.core.setups.look import Look
from iron_bucket.core.setups.plan import Camera, Person, PlacedFrame, Setup, Spot, Target
from iron_bucket.core.setups.set_stage import FACE_M, SetStage, set_stage
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
    stage = set_stage(surroundings, look, gear)
    camera_at, behind = stage.at(0.0, stage.size_m * 0.55), stage.at(180.0, stage.size_m * 0.4)
    looks_deg = round((stage.towards_camera_deg + 180.0) % 360.0, 1)
    # Turned a little from the lens, towards the side that the window lies on.
    nose_deg = round((stage.towards_camera_deg + 25.0 * stage.window_side) % 360.0, 1)
    setup = Setup(
        name=name,
        when=when,
        weather=Weather.OVERCAST,
        look=look,
        camera=Camera(x_m=camera_at[0], y_m=camera_at[1], z_m=FACE_M, bearing_deg=looks_deg, focal_mm=50.0),
        people=(Person(piece_id="person-1", name="Person", x_m=stage.x_m, y_m=stage.y_m, z_m=FACE_M, bearing_deg=nose_deg),),
        spots=(Spot(piece_id="spot-1", name="Background", x_m=behind[0], y_m=behind[1], z_m=1.4, bearing_deg=stage.towards_camera_deg, reflectance=0.3),),
        targets=(_target(1, "person-1.key", 0.0),),
        house_off=tuple(each.lamp_id for each in surroundings.place.house_lamps if "switched" in each.can and not each.must_stay),
    )  # fmt: skip
    setup = _ARRANGED[beginning](setup, stage) if beginning in _ARRANGED else setup
    return _dimmed(setup, surroundings, gear, rules)


def _target(number: int, mark: str, stops: float, tolerance: float = 1.0 / 3.0) -> Target:
    return Target(piece_id=f"target-{number}", mark=mark, stops=stops, tolerance=tolerance)


def _window_talk(setup: Setup, stage: SetStage) -> Setup:
    """The key carries the window on, from its side."""
    (soft, box), side = stage.soft(), stage.window_side
    lamps = (
        stage.lamp(1, "Window key", soft, side * 55.0, stage.size_m * 0.32, 2.0, face=box, purpose="Key", motivation="The window"),
        stage.lamp(2, "Edge", stage.narrow(), side * -140.0, stage.size_m * 0.42, 2.2, level=0.1, purpose="Edge", motivation="A lamp deeper in the room"),
    )  # fmt: skip
    targets = (*setup.targets, _target(2, "person-1.shadow", -2.0, 0.7), _target(3, "person-1.back", 0.3, 0.7))
    return replace(setup, lamps=lamps, targets=targets)


def _night_table(setup: Setup, stage: SetStage) -> Setup:
    """Both by the lightest head: a strong one is too hot for night at its lowest."""
    small = stage.small()
    lamps = (
        stage.lamp(1, "Table practical", small, 65.0, 0.9, 1.15, cct_k=2900.0, purpose="Key", motivation="The lamp on the table"),
        stage.lamp(2, "Night in the room", small, -120.0, stage.size_m * 0.45, 2.3, level=0.05, purpose="Ambience", motivation="Night outside"),
    )  # fmt: skip
    targets = (*setup.targets, _target(2, "person-1.shadow", -3.0, 0.7), _target(3, "spot-1", -3.5, 0.7))
    look = replace(stage.look, white_balance_k=3200.0)
    return replace(setup, lamps=lamps, when=setup.when.replace(hour=22), look=look, targets=targets)


def _morning(setup: Setup, stage: SetStage) -> Setup:
    """A sun of ours behind the glass, where the room has any; the fill comes from the other side, or it would do the sun's work."""
    (soft, box), side, outside = stage.soft(), stage.window_side, stage.behind_window
    there = dict(zip(("x_m", "y_m", "z_m"), outside, strict=True)) if outside else {}
    lamps = (
        stage.lamp(1, "Morning sun", stage.narrow(), side * 70.0, stage.size_m * 0.5, 2.4, purpose="Key", motivation="Low sun through the window", **there),
        stage.lamp(2, "Room", soft, side * -60.0, stage.size_m * 0.35, 2.2, face=box, level=0.05, purpose="Fill", motivation="The sun off the walls"),
    )  # fmt: skip
    targets = (_target(1, "person-1.key", 1.0), _target(2, "person-1.shadow", -2.0, 0.7))
    return replace(setup, lamps=lamps, targets=targets)


def _moon_and_fire(setup: Setup, stage: SetStage) -> Setup:
    lamps = (
        stage.lamp(1, "Fire", stage.small(), 40.0, 1.1, 0.6, cct_k=2200.0, purpose="Key", motivation="A fire out of frame"),
        stage.lamp(2, "Moon", stage.narrow(), 160.0, stage.size_m * 0.6, 3.5, purpose="Back", motivation="The moon"),
    )  # fmt: skip
    targets = (_target(1, "person-1.key", -0.5), _target(2, "person-1.back", -1.0, 0.7))
    look = replace(stage.look, white_balance_k=4300.0)
    return replace(setup, lamps=lamps, when=setup.when.replace(hour=22), look=look, targets=targets)


def _product_edge(setup: Setup, stage: SetStage) -> Setup:
    soft, box = stage.soft()
    aside_m = max(1.2, 0.22 * stage.size_m)
    lamps = (
        stage.lamp(1, "Left edge", soft, -115.0, aside_m, 1.5, face=box, purpose="Edge"),
        stage.lamp(2, "Right edge", soft, 115.0, aside_m, 1.5, face=box, level=0.3, purpose="Edge"),
    )
    targets = (_target(1, "person-1.key", 0.0), _target(2, "person-1.shadow", 0.0))
    return replace(setup, lamps=lamps, frames=_front_board(stage), targets=targets)


def _front_board(stage: SetStage) -> tuple[PlacedFrame, ...]:
    """The lightest matt board of ours, before the product and out of the picture; none where there is none."""
    boards = [each for each in stage.gear.boards if each.is_owned and each.lobe_deg >= 60.0]
    if not boards:
        return ()
    board, (x_m, y_m) = min(boards, key=lambda each: (each.weight_kg, each.slug)), stage.at(45.0, 0.26 * stage.size_m)
    looks_deg = round(bearing_of(np.array([stage.x_m - x_m, stage.y_m - y_m, 0.0])), 1)
    return (PlacedFrame(piece_id="frame-1", name="Front board", board=board.slug, x_m=x_m, y_m=y_m, z_m=1.2, bearing_deg=looks_deg),)  # fmt: skip


def _sit_down(setup: Setup, stage: SetStage) -> Setup:
    soft, box = stage.soft()
    small = stage.small()
    lamps = (
        stage.lamp(1, "Wrapped key", soft, 40.0, 1.7, 1.9, face=box, purpose="Key"),
        stage.lamp(2, "Lift", small, -45.0, 2.2, 1.6, level=0.05, purpose="Fill"),
        stage.lamp(3, "Background", small, -125.0, 2.0, 1.9, level=0.1, aims_at="spot-1", purpose="Background"),
    )
    targets = (*setup.targets, _target(2, "person-1.shadow", -1.5, 0.5), _target(3, "spot-1", -1.5, 0.5))
    return replace(setup, lamps=lamps, targets=targets)


_ARRANGED: dict[Beginning, Callable[[Setup, SetStage], Setup]] = {
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
    try:
        return changed(setup, solved_setup(lit(stage), rules.receptor).changes)
    except NoAnswer:  # nothing that is ours reaches any target: it stays as it was placed
        return setup
