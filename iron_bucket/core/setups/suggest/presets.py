"""Arrangements to begin with, named by what they are for, ground from what the bench owns and scaled to the room.

Everything in them can be changed.
"""

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
from iron_bucket.core.setups.evaluate.lit_scene import lit
from iron_bucket.core.setups.plan.changes import changed
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.plan.setup import Camera, Person, PlacedFrame, Setup, Spot, Target
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.suggest.preset_ground import FACE_M, PresetGround, preset_ground
from iron_bucket.core.setups.suggest.set_levels import solved_setup


class Preset(StrEnum):
    """What for."""

    EMPTY = "empty: camera and one person"
    WINDOW_TALK = "talk by a window"
    NIGHT_TABLE = "night table under a practical"
    MORNING = "morning through the window"
    MOON_AND_FIRE = "moon behind, fire before"
    PRODUCT_EDGE = "product with two edges"
    SIT_DOWN = "sit-down portrait, wrapped"


def preset_setup(
    beginning: Preset,
    name: str,
    surroundings: Surroundings,
    gear: Gear,
    rules: HouseRules,
    look: Look,
    when: datetime,
) -> Setup:
    """A set-up with its lamps dimmed to its targets as far as they go.

    Raises: BadValue where the bench owns no lamp that could play a part.
    """
    ground = preset_ground(surroundings, look, gear)
    camera_at, behind = ground.at(0.0, ground.size_m * 0.55), ground.at(180.0, ground.size_m * 0.4)
    looks_deg = round((ground.towards_camera_deg + 180.0) % 360.0, 1)
    # Turned a little from the lens, towards the side that the window lies on.
    nose_deg = round((ground.towards_camera_deg + 25.0 * ground.window_side) % 360.0, 1)
    setup = Setup(
        name=name,
        when=when,
        weather=Weather.OVERCAST,
        look=look,
        camera=Camera(x_m=camera_at[0], y_m=camera_at[1], z_m=FACE_M, bearing_deg=looks_deg, focal_mm=50.0),
        people=(
            Person(
                piece_id="person-1", name="Person", x_m=ground.x_m, y_m=ground.y_m, z_m=FACE_M, bearing_deg=nose_deg
            ),
        ),
        spots=(
            Spot(
                piece_id="spot-1",
                name="Background",
                x_m=behind[0],
                y_m=behind[1],
                z_m=1.4,
                bearing_deg=ground.towards_camera_deg,
                reflectance=0.3,
            ),
        ),
        targets=(_target(1, "person-1.key", 0.0),),
        house_off=tuple(
            each.lamp_id for each in surroundings.place.house_lamps if "switched" in each.can and not each.must_stay
        ),
    )
    setup = _ARRANGED[beginning](setup, ground) if beginning in _ARRANGED else setup
    return _dimmed(setup, surroundings, gear, rules)


def _target(number: int, mark: str, stops: float, tolerance: float = 1.0 / 3.0) -> Target:
    return Target(piece_id=f"target-{number}", mark=mark, stops=stops, tolerance=tolerance)


def _window_talk(setup: Setup, ground: PresetGround) -> Setup:
    """The key carries the window on, from its side."""
    (soft, box), side = ground.soft(), ground.window_side
    lamps = (
        ground.lamp(
            1,
            "Window key",
            soft,
            side * 55.0,
            ground.size_m * 0.32,
            2.0,
            face=box,
            purpose="Key",
            motivation="The window",
        ),
        ground.lamp(
            2,
            "Edge",
            ground.narrow(),
            side * -140.0,
            ground.size_m * 0.42,
            2.2,
            level=0.1,
            purpose="Edge",
            motivation="A lamp deeper in the room",
        ),
    )
    targets = (*setup.targets, _target(2, "person-1.shadow", -2.0, 0.7), _target(3, "person-1.back", 0.3, 0.7))
    return replace(setup, lamps=lamps, targets=targets)


def _night_table(setup: Setup, ground: PresetGround) -> Setup:
    """Both by the lightest head: a strong one is too hot for night at its lowest."""
    small = ground.small()
    lamps = (
        ground.lamp(
            1,
            "Table practical",
            small,
            65.0,
            0.9,
            1.15,
            cct_k=2900.0,
            purpose="Key",
            motivation="The lamp on the table",
        ),
        ground.lamp(
            2,
            "Night in the room",
            small,
            -120.0,
            ground.size_m * 0.45,
            2.3,
            level=0.05,
            purpose="Ambience",
            motivation="Night outside",
        ),
    )
    targets = (*setup.targets, _target(2, "person-1.shadow", -3.0, 0.7), _target(3, "spot-1", -3.5, 0.7))
    look = replace(ground.look, white_balance_k=3200.0)
    return replace(setup, lamps=lamps, when=setup.when.replace(hour=22), look=look, targets=targets)


def _morning(setup: Setup, ground: PresetGround) -> Setup:
    """A sun of ours behind the glass, where the room has any; the fill comes from the other side, or it would do the
    sun's work.
    """
    (soft, box), side, outside = ground.soft(), ground.window_side, ground.behind_window
    there = dict(zip(("x_m", "y_m", "z_m"), outside, strict=True)) if outside else {}
    lamps = (
        ground.lamp(
            1,
            "Morning sun",
            ground.narrow(),
            side * 70.0,
            ground.size_m * 0.5,
            2.4,
            purpose="Key",
            motivation="Low sun through the window",
            **there,
        ),
        ground.lamp(
            2,
            "Room",
            soft,
            side * -60.0,
            ground.size_m * 0.35,
            2.2,
            face=box,
            level=0.05,
            purpose="Fill",
            motivation="The sun off the walls",
        ),
    )
    targets = (_target(1, "person-1.key", 1.0), _target(2, "person-1.shadow", -2.0, 0.7))
    return replace(setup, lamps=lamps, targets=targets)


def _moon_and_fire(setup: Setup, ground: PresetGround) -> Setup:
    lamps = (
        ground.lamp(
            1, "Fire", ground.small(), 40.0, 1.1, 0.6, cct_k=2200.0, purpose="Key", motivation="A fire out of frame"
        ),
        ground.lamp(2, "Moon", ground.narrow(), 160.0, ground.size_m * 0.6, 3.5, purpose="Back", motivation="The moon"),
    )
    targets = (_target(1, "person-1.key", -0.5), _target(2, "person-1.back", -1.0, 0.7))
    look = replace(ground.look, white_balance_k=4300.0)
    return replace(setup, lamps=lamps, when=setup.when.replace(hour=22), look=look, targets=targets)


def _product_edge(setup: Setup, ground: PresetGround) -> Setup:
    soft, box = ground.soft()
    aside_m = max(1.2, 0.22 * ground.size_m)
    lamps = (
        ground.lamp(1, "Left edge", soft, -115.0, aside_m, 1.5, face=box, purpose="Edge"),
        ground.lamp(2, "Right edge", soft, 115.0, aside_m, 1.5, face=box, level=0.3, purpose="Edge"),
    )
    targets = (_target(1, "person-1.key", 0.0), _target(2, "person-1.shadow", 0.0))
    return replace(setup, lamps=lamps, frames=_front_board(ground), targets=targets)


def _front_board(ground: PresetGround) -> tuple[PlacedFrame, ...]:
    """The lightest matt board of ours, before the product and out of the picture; none where there is none."""
    boards = [each for each in ground.gear.boards if each.is_owned and each.lobe_deg >= 60.0]
    if not boards:
        return ()
    board, (x_m, y_m) = min(boards, key=lambda each: (each.weight_kg, each.slug)), ground.at(45.0, 0.26 * ground.size_m)
    looks_deg = round(bearing_of(np.array([ground.x_m - x_m, ground.y_m - y_m, 0.0])), 1)
    return (
        PlacedFrame(
            piece_id="frame-1", name="Front board", board=board.slug, x_m=x_m, y_m=y_m, z_m=1.2, bearing_deg=looks_deg
        ),
    )


def _sit_down(setup: Setup, ground: PresetGround) -> Setup:
    soft, box = ground.soft()
    small = ground.small()
    lamps = (
        ground.lamp(1, "Wrapped key", soft, 40.0, 1.7, 1.9, face=box, purpose="Key"),
        ground.lamp(2, "Lift", small, -45.0, 2.2, 1.6, level=0.05, purpose="Fill"),
        ground.lamp(3, "Background", small, -125.0, 2.0, 1.9, level=0.1, aims_at="spot-1", purpose="Background"),
    )
    targets = (*setup.targets, _target(2, "person-1.shadow", -1.5, 0.5), _target(3, "spot-1", -1.5, 0.5))
    return replace(setup, lamps=lamps, targets=targets)


_ARRANGED: dict[Preset, Callable[[Setup, PresetGround], Setup]] = {
    Preset.WINDOW_TALK: _window_talk,
    Preset.NIGHT_TABLE: _night_table,
    Preset.MORNING: _morning,
    Preset.MOON_AND_FIRE: _moon_and_fire,
    Preset.PRODUCT_EDGE: _product_edge,
    Preset.SIT_DOWN: _sit_down,
}


def _dimmed(setup: Setup, surroundings: Surroundings, gear: Gear, rules: HouseRules) -> Setup:
    """Levels set for the targets."""
    if not setup.lamps:
        return setup
    ground = build_scene(setup, surroundings, gear, rules)
    try:
        return changed(setup, solved_setup(lit(ground), rules.receptor).changes)
    except NoAnswer:  # nothing that is ours reaches any target: it stays as it was placed
        return setup
