"""Arrangements to begin with, named by what they are for, built from what the bench owns and scaled to the room.

What stands in each is a table of data; everything in it can be changed.
"""

from dataclasses import dataclass, replace
from datetime import datetime
from enum import StrEnum
from typing import Any

import numpy as np

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.evaluate.lit_scene import lit
from iron_bucket.core.setups.plan.changes import changed
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.plan.setup import Camera, Person, PlacedFrame, PlacedLamp, Setup, Spot, Target
from iron_bucket.core.setups.plan.written import placed_m, turned_deg
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.suggest.book_light import book_light
from iron_bucket.core.setups.suggest.preset_ground import FACE_M, PresetGround, preset_ground
from iron_bucket.core.setups.suggest.set_levels import solved_setup
from iron_bucket.core.typical import typical

#: A board that scatters so widely gives no image of the lamp.
_MATT_FROM_DEG = 60.0


class Preset(StrEnum):
    """What for."""

    EMPTY = "empty: camera and one person"
    WINDOW_TALK = "talk by a window"
    NIGHT_TABLE = "night table under a practical"
    MORNING = "morning through the window"
    MOON_AND_FIRE = "moon behind, fire before"
    PRODUCT_EDGE = "product with two edges"
    SIT_DOWN = "sit-down portrait, wrapped"
    BOOK = "book light: board and cloth"

    @property
    def hour(self) -> int | None:
        """Of the day, where it has one of its own to propose."""
        hour: int | None = typical("presets").get(self, {}).get("hour")
        return hour


def preset_setup(
    beginning: Preset, name: str, surroundings: Surroundings, gear: Gear, rules: HouseRules, look: Look, when: datetime
) -> Setup:
    """A set-up with its lamps dimmed to its targets as far as they go.

    Raises: BadValue where the bench owns no lamp that could play a part.
    """
    ground = preset_ground(surroundings, look, gear)
    camera_at, behind = ground.at(0.0, ground.size_m * 0.55), ground.at(180.0, ground.size_m * 0.4)
    looks_deg = (ground.towards_camera_deg + 180.0) % 360.0
    # Turned a little from the lens, towards the side that the window lies on.
    nose_deg = (ground.towards_camera_deg + 25.0 * ground.window_side) % 360.0
    setup = Setup(
        name=name,
        when=when,
        weather=Weather.OVERCAST,
        look=look,
        camera=Camera(**placed_m(camera_at), z_m=FACE_M, bearing_deg=looks_deg, focal_mm=50.0),
        people=(
            Person(
                piece_id="person-1", name="Person", x_m=ground.x_m, y_m=ground.y_m, z_m=FACE_M, bearing_deg=nose_deg
            ),
        ),
        spots=(
            Spot(
                piece_id="spot-1",
                name="Background",
                **placed_m(behind),
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
    arrangement = typical("presets").get(beginning)
    return _dimmed(_arranged(setup, ground, arrangement) if arrangement else setup, surroundings, gear, rules)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Part:
    """A lamp of an arrangement, as its table has it."""

    name: str
    by: str
    off_deg: float
    height_m: float
    level: float
    follows_window: bool = False
    is_behind_window: bool = False
    share: float = 0.0
    least_m: float = 0.0
    cct_k: float = 0.0
    aims_at: str = "person-1"
    purpose: str = ""
    motivation: str = ""


def _arranged(setup: Setup, ground: PresetGround, arrangement: dict[str, Any]) -> Setup:
    """Lamps, targets and white balance of an arrangement, at its ground."""
    look = setup.look
    if "white_balance_k" in arrangement:
        look = replace(look, white_balance_k=arrangement["white_balance_k"])
    lamps = tuple(_lamp(at + 1, _Part(**row), ground) for at, row in enumerate(arrangement["lamps"]))
    frames = _front_board(ground, arrangement["board"]) if "board" in arrangement else ()
    if "book" in arrangement:
        lamps, frames = book_light(ground, arrangement["book"])
    return replace(
        setup,
        lamps=lamps,
        frames=frames,
        targets=tuple(_target(at + 1, *row) for at, row in enumerate(arrangement["targets"])),
        look=look,
    )


def _target(number: int, mark: str, stops: float, tolerance: float = 1.0 / 3.0) -> Target:
    return Target(piece_id=f"target-{number}", mark=mark, stops=stops, tolerance=tolerance)


def _lamp(number: int, part: _Part, ground: PresetGround) -> PlacedLamp:
    configuration, face = ground.soft() if part.by == "soft" else (getattr(ground, part.by)(), "")
    side = ground.window_side if part.follows_window else 1.0
    more: dict[str, Any] = {"face": face, "level": part.level, "cct_k": part.cct_k, "aims_at": part.aims_at}
    if part.is_behind_window and ground.behind_window is not None:
        more |= placed_m(ground.behind_window)
    return ground.lamp(
        number,
        part.name,
        configuration,
        side * part.off_deg,
        max(part.least_m, part.share * ground.size_m),
        part.height_m,
        purpose=part.purpose,
        motivation=part.motivation,
        **more,
    )


def _front_board(ground: PresetGround, row: dict[str, Any]) -> tuple[PlacedFrame, ...]:
    """The lightest matt board of ours, before the product and out of the picture; none where there is none."""
    boards = [each for each in ground.gear.boards if each.is_owned and each.lobe_deg >= _MATT_FROM_DEG]
    if not boards:
        return ()
    board = min(boards, key=lambda each: (each.weight_kg, each.slug))
    place = ground.at(row["off_deg"], row["share"] * ground.size_m)
    frame = PlacedFrame(
        piece_id="frame-1",
        name=row["name"],
        board=board.slug,
        **placed_m(place),
        z_m=row["height_m"],
        **turned_deg(np.append(ground.subject_m - place, 0.0)),
    )
    return (frame,)


def _dimmed(setup: Setup, surroundings: Surroundings, gear: Gear, rules: HouseRules) -> Setup:
    """Levels set for the targets."""
    if not setup.lamps:
        return setup
    ground = build_scene(setup, surroundings, gear, rules)
    try:
        return changed(setup, solved_setup(lit(ground), rules.receptor, may_switch_off=False).changes)
    except NoAnswer:  # nothing that is ours reaches any target: it stays as it was placed
        return setup
