"""What will not stand, reach or hide as it was placed: each with the figure that shows it."""

from collections.abc import Iterator, Mapping
from dataclasses import replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.cautions.rules import GLARE_LX, Caution, sail_cautions
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import Board
from iron_bucket.core.modifiers.lobe import MIRROR_DEG
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.places.daylight_readings import ReadingFactor, disagreeing
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.rigging.headroom import top_of_flat_m, top_of_head_m
from iron_bucket.core.scene.blocking import crosses, passing
from iron_bucket.core.scene.skylight import Window
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.evaluate.spill import brightest_spill
from iron_bucket.core.setups.plan.camera_view import camera_position, in_view
from iron_bucket.core.setups.plan.setup import Piece, PlacedFlag, PlacedFrame
from iron_bucket.core.setups.scene.build_scene import (
    LightKind,
    Side,
    flat_size_m,
    frame_parts,
    half_height_m,
    panel_of,
    position_of,
)
from iron_bucket.core.setups.sheet.gloss import glare_lines

#: Typical: the legs of a stand reach so far, and a lead is so long.
LEGS_M, LEAD_M = 0.5, 10.0
#: From the middle of a face to the top of the head.
HALF_FACE_M = 0.12
#: A surface this far over middle grey by our lamps alone is a hot spot.
HOT_SPOT_STOPS = 2.5
#: An edge that is in the floor by less only stands on it.
_TOUCHES_M = 0.02

#: What to do about each.
_ACTIONS = {
    "ceiling": "Lower it, tilt it, or take a smaller one.",
    "floor": "Raise it, tilt it, or take a smaller one.",
    "wall": "Turn it along the wall, move it, or take a smaller one.",
    "legs": "Boom it, turn a leg away, or move it.",
    "in-picture": "Move it, raise it, or go tighter.",
    "gloss": "Raise the lamp or move it aside, dull the surface, or turn a polariser: it takes most near 55°.",
    "mirrored": "Turn the glass, move the lamp along it, or flag it off.",
    "lead": "Bring another lead, uncoil it, mat the crossings; or feed it from nearer.",
    "glare": "Larger, farther or more from the side; ask how they feel.",
    "readings": "Take one again: note weather and hour, and keep your shadow off the meter.",
    "hot-spot": "Flag it off, turn it, or let it be the look.",
}


#: Of frames and flags by their ids, as of ``flat_points_m``.
Outlines = Mapping[str, Array]


def _told(code: str, title: str, trigger: str) -> Caution:
    return Caution(code=code, title=title, trigger=trigger, action=_ACTIONS[code])


def clearance(lit: LitScene, gear: Gear, rules: HouseRules) -> tuple[Caution, ...]:
    """All that is pointed out of a set-up, with lengths in the house's system."""
    units, outlines = rules.units, {flat.piece_id: flat_points_m(flat, gear) for flat in _flats(lit)}
    return (
        *_under_ceilings(lit, gear, units),
        *_through_walls(lit, gear, outlines, units),
        *_sails(lit, gear, units),
        *_legs(lit, outlines, units),
        *_in_picture(lit, outlines, units),
        *_reflected(lit, gear, units),
        *_off_gloss(lit, units),
        *_leads(lit, units),
        *_glare(lit, units),
        *_hot_spots(lit, rules),
        *_readings(lit, units),
    )


def _flats(lit: LitScene) -> tuple[PlacedFrame | PlacedFlag, ...]:
    return (*lit.built.setup.frames, *lit.built.setup.flags)


def _under_ceilings(lit: LitScene, gear: Gear, units: UnitSystem) -> Iterator[Caution]:
    tops: list[tuple[Piece, float]] = [(lamp, top_of_head_m(lamp.z_m)) for lamp in lit.built.setup.lamps]
    tops += [(flat, top_of_flat_m(flat.z_m, flat_size_m(flat, gear)[1], flat.tilt_deg)) for flat in _flats(lit)]
    setup = lit.built.setup
    tops += [(each, each.z_m + HALF_FACE_M) for each in (*setup.people, *setup.positions)]
    tops += [(each, each.z_m) for each in setup.spots]
    camera = setup.camera
    lens = Piece(piece_id="camera", name="The lens", x_m=camera.x_m, y_m=camera.y_m, z_m=camera.z_m)
    tops.append((lens, camera.z_m))
    around = lit.built.surroundings
    rooms = around.rooms_at(np.array([(piece.x_m, piece.y_m, 0.5) for piece, _ in tops]))
    for (piece, top_m), room in zip(tops, rooms.tolist(), strict=True):
        if room >= 0 and top_m > around.rooms[room].height_m:
            height_m = around.rooms[room].height_m
            yield _told(
                "ceiling",
                f"{piece.name} does not fit under the ceiling",
                f"its top is at {display.length(top_m, units)}, the ceiling at {display.length(height_m, units)}",
            )


def _through_walls(lit: LitScene, gear: Gear, outlines: Outlines, units: UnitSystem) -> Iterator[Caution]:
    """Frames and flags that would stand in the floor, or reach through a wall."""
    for flat in _flats(lit):
        foot_m, corners = flat.z_m - half_height_m(flat, gear), outlines[flat.piece_id]
        if foot_m < -_TOUCHES_M:
            yield _told(
                "floor",
                f"{flat.name} stands in the floor",
                f"its lower edge is {display.length(-foot_m, units)} below it",
            )
        if _is_cut_by_a_wall(lit, position_of(flat), corners):
            width_m = flat_size_m(flat, gear)[0]
            yield _told(
                "wall",
                f"{flat.name} reaches through a wall",
                f"it is {display.length(width_m, units)} wide, its middle at {display.length(flat.x_m, units)}"
                f" across and {display.length(flat.y_m, units)} up the plan",
            )


def _is_cut_by_a_wall(lit: LitScene, middle_m: Array, corners_m: Array) -> bool:
    """Whether a wall stands between the middle of a flat and one of its corners; what reaches through a floor or
    ceiling is told by itself.
    """
    around = lit.built.surroundings
    room = around.room_at(float(middle_m[0]), float(middle_m[1]))
    if room is not None:
        top_m = around.rooms[room].height_m - _TOUCHES_M
        middle_m, corners_m = (
            np.column_stack([each[:, :2], np.clip(each[:, 2], _TOUCHES_M, top_m)])
            for each in (middle_m[None], corners_m)
        )
    return bool((passing(np.atleast_2d(middle_m), corners_m, around.laid_walls) <= 0.0).any())


def _sails(lit: LitScene, gear: Gear, units: UnitSystem) -> Iterator[Caution]:
    """Frames and boards that stand in the open."""
    for frame in lit.built.setup.frames:
        if lit.built.surroundings.room_at(frame.x_m, frame.y_m) is None:
            parts = frame_parts(frame, gear)
            for sail in sail_cautions((parts,) if isinstance(parts, Board) else parts, units):
                yield replace(sail, title=f"{frame.name} is a sail")


def _legs(lit: LitScene, outlines: Outlines, units: UnitSystem) -> Iterator[Caution]:
    """Stands whose legs reach somebody's feet or the camera's: under a lamp, and under both ends of a frame."""
    setup = lit.built.setup
    feet = [(person.name, np.array([person.x_m, person.y_m])) for person in setup.people]
    feet.append(("the camera", np.array([setup.camera.x_m, setup.camera.y_m])))
    stands = [(lamp.name, position_of(lamp)[None, :2]) for lamp in setup.lamps]
    stands += [(frame.name, outlines[frame.piece_id][[1, 7], :2]) for frame in setup.frames]
    for stand, places in stands:
        for name, foot in feet:
            apart_m = float(np.linalg.norm(foot - places, axis=1).min())
            if apart_m < LEGS_M:
                yield _told(
                    "legs",
                    f"The stand of {stand} is in the way",
                    f"{display.length(apart_m, units)} from {name}, its legs reach {display.length(LEGS_M, units)}",
                )


def _in_picture(lit: LitScene, outlines: Outlines, units: UnitSystem) -> Iterator[Caution]:
    setup, walls = lit.built.setup, lit.built.surroundings.laid_walls
    things: list[tuple[str, Array]] = [(lamp.name, position_of(lamp)[None]) for lamp in setup.lamps]
    things += [(flat.name, outlines[flat.piece_id]) for flat in _flats(lit)]
    if not things:
        return
    eye, every = camera_position(setup.camera), np.concatenate([points for _, points in things])
    is_seen = in_view(setup.camera, setup.look, every) & (passing(eye[None], every, walls)[0] > 0.0)
    ends = np.cumsum([len(points) for _, points in things])
    for (name, points), seen in zip(things, np.split(is_seen, ends[:-1]), strict=True):
        if seen.any():
            nearest_m = float(np.linalg.norm(points[seen] - eye, axis=1).min())
            yield _told(
                "in-picture",
                f"{name} is in the picture",
                f"{display.length(nearest_m, units)} from the lens, inside the frame",
            )


def flat_points_m(flat: PlacedFrame | PlacedFlag, gear: Gear) -> Array:
    """Corners, middles of its edges, and its own middle, as it is turned and tilted; left end first. Shape (9, 3)."""
    panel = panel_of(flat, *flat_size_m(flat, gear))
    across, up = panel.width_m / 2.0 * panel.side_x, panel.height_m / 2.0 * panel.side_y
    return np.array([panel.centre_m + sx * across + sy * up for sx in (-1, 0, 1) for sy in (-1, 0, 1)])


def _reflected(lit: LitScene, gear: Gear, units: UnitSystem) -> Iterator[Caution]:
    """A lamp mirrored in a pane or mirror that the camera sees.

    Source: the image lies as far behind the glass as the lamp stands before it.
    """
    setup = lit.built.setup
    eye = camera_position(setup.camera)
    for name, panel in _mirrors(lit, gear):
        for lamp in setup.lamps:
            offset = float((position_of(lamp) - panel.centre_m) @ panel.normal)
            image = position_of(lamp) - 2.0 * offset * panel.normal
            if (
                offset > 0.0
                and in_view(setup.camera, setup.look, image[None])[0]
                and crosses(eye[None], image[None], panel)[0, 0]
            ):
                yield _told(
                    "mirrored",
                    f"{lamp.name} shows in {name}",
                    f"its image stands {display.length(offset, units)} behind the glass, inside the frame",
                )


def _off_gloss(lit: LitScene, units: UnitSystem) -> Iterator[Caution]:
    """A lamp that shows in a floor, wall or table that is glossy or wet."""
    for line in glare_lines(lit):
        yield _told(
            "gloss",
            f"{line.lamp} glares on {line.surface}",
            f"{display.length(line.away_m, units)} from the lens, {line.off_deg:.0f}° from square to it, where"
            f" {display.share(line.returned)} of its brightness comes back",
        )


def _mirrors(lit: LitScene, gear: Gear) -> list[tuple[str, Panel]]:
    """Windows, and boards that are mirrors."""
    found = [(light.name, light.light.panel) for light in lit.built.lights if isinstance(light.light, Window)]
    for placed, frame in zip(lit.built.setup.frames, lit.built.scene.frames, strict=True):
        parts = frame_parts(placed, gear)
        if isinstance(parts, Board) and parts.lobe_deg < MIRROR_DEG:
            found.append((placed.name, frame.panel))
    return found


def _leads(lit: LitScene, units: UnitSystem) -> Iterator[Caution]:
    place = lit.built.surroundings.place
    sockets = {each.socket_id: each for each in place.sockets}
    for lamp in lit.built.setup.lamps:
        socket = sockets.get(lamp.feed)
        if socket is None:
            continue
        way = lit.built.surroundings.lead_ways.way((socket.x_m, socket.y_m), (lamp.x_m, lamp.y_m))
        run_m = way.length_m + lamp.z_m
        if run_m > LEAD_M:
            yield _told(
                "lead",
                f"A lead longer than {display.length(LEAD_M, units)} to {lamp.name}",
                f"{display.length(run_m, units)} along the walls from {socket.name} and up the stand",
            )


def _glare(lit: LitScene, units: UnitSystem) -> list[Caution]:
    total_lx, found = lit.total_lx, []
    for person in lit.built.setup.people:
        place = lit.built.mark_index(f"{person.piece_id}.{Side.NOSE}")
        nose_lx = 0.0 if place is None else float(total_lx[place])
        if nose_lx >= GLARE_LX:
            at_eyes, squint = display.illuminance(nose_lx, units), display.illuminance(GLARE_LX, units)
            found.append(
                _told("glare", f"Bright for {person.name}", f"{at_eyes} at the eyes, from {squint} people squint")
            )
    return found


def _hot_spots(lit: LitScene, rules: HouseRules) -> list[Caution]:
    return [
        _told(
            "hot-spot",
            f"Hot spot of {spill.light} on {spill.surface}",
            f"{spill.stops:+.1f} stops over middle grey, {display.illuminance(spill.illuminance_lx, rules.units)}"
            f" at {display.length(spill.x_m, rules.units)} across, {display.length(spill.z_m, rules.units)} high",
        )
        for spill in brightest_spill(lit, rules.receptor)
        if spill.stops >= HOT_SPOT_STOPS
    ]


def _readings(lit: LitScene, units: UnitSystem) -> list[Caution]:
    """Readings of daylight that cannot both be right: what is carried through the day is their median."""
    if not any(light.kind is LightKind.DAY for light in lit.built.lights):
        return []
    return [
        _told(
            "readings",
            "Two readings of daylight disagree",
            f"{_read(low, units)} against {_read(high, units)}: {display.stops(apart, signed=False)} apart",
        )
        for low, high, apart in disagreeing(lit.built.surroundings.reading_factors)
    ]


def _read(found: ReadingFactor, units: UnitSystem) -> str:
    return f"{display.illuminance(found.reading.illuminance_lx, units)} at {found.reading.taken_at:%H:%M}"
