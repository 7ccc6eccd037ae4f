"""A scene as JSON. The format is described in docs/scene-format.md."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_share
from iron_bucket.core.daylight.sky_luminance import SkyLuminance
from iron_bucket.core.errors import BadValue
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.distribution import BeamField, CosinePower, IntensityDistribution
from iron_bucket.core.quantities.rounding import at_most
from iron_bucket.core.scene.box_room import FACES, BoxRoom
from iron_bucket.core.scene.polygon_room import Opening, PolygonRoom
from iron_bucket.core.scene.scene import (
    GlowingFace,
    LitShape,
    Mark,
    Scene,
    SceneFrame,
    SceneLamp,
    Solid,
    direction,
    place,
)
from iron_bucket.core.scene.skylight import OpenSky, Window
from iron_bucket.core.scene.sunlight import sun_lamp
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.json_text import parsed_json

WHAT = "scene file"
SCENE_LIMIT_BYTES = 4_000_000
MOST = {"lamps": 200, "frames": 60, "solids": 200, "marks": 5000, "openings": 60}
#: Reads a distribution from a photometric file that the scene names.
FileReader = Callable[[str], IntensityDistribution]


class _Sky(StrEnum):
    UNIFORM = "uniform"
    CIE_OVERCAST = "cie_overcast"


#: What the table of sky kinds calls them.
_KINDS = {_Sky.UNIFORM: "uniform", _Sky.CIE_OVERCAST: "overcast"}


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Pane:
    """An opening of a room as the file has it; the panel looks inwards."""

    wall: int
    panel: Panel
    transmittance: float
    diffuse_share: float

    @property
    def straight(self) -> float:
        """Share of a ray that goes through as it came."""
        return self.transmittance * (1.0 - self.diffuse_share)


def read_scene(text: str, read_file: FileReader) -> Scene:
    """A scene from JSON. Raises: FormatError that names the list, the entry and the value."""
    document = parsed_json(text, WHAT, SCENE_LIMIT_BYTES)
    try:
        fields = Fields(document)
        rooms, panes = _room(fields.inner("room")) if fields.has("room") else ((), ())
        scene = Scene(
            lamps=(*_entries(fields, "lamps", lambda each: _lamp(each, read_file)), *_daylight(fields, rooms, panes)),
            frames=_entries(fields, "frames", _frame),
            solids=_entries(fields, "solids", _solid),
            rooms=rooms,
            walls=tuple(blocker for room in rooms if isinstance(room, PolygonRoom) for blocker in room.blockers()),
            marks=_entries(fields, "marks", _mark),
        )
        fields.done()
        return scene
    except BadValue as bad:
        raise FormatError(WHAT, None, bad) from bad


def _entries(fields: Fields, kind: str, read: Callable[[Fields], Any]) -> tuple[Any, ...]:
    entries = fields.entries(kind)
    if len(entries) > MOST[kind]:
        raise BadValue(kind, f"{len(entries)} entries", f"up to {MOST[kind]}")
    found = []
    for number, entry in enumerate(entries, start=1):
        try:
            inner = Fields(entry)  # type: ignore[arg-type]
            found.append(read(inner))
            inner.done()
        except BadValue as bad:
            raise FormatError(WHAT, None, f"entry {number} of {kind}: {bad}") from bad
    return tuple(found)


def _vector(fields: Fields, key: str) -> Array:
    entries = fields.entries(key)
    if len(entries) != 3 or not all(isinstance(each, (int, float)) and not isinstance(each, bool) for each in entries):
        raise BadValue(key, repr(entries) if entries else "missing", "three numbers [x, y, z]")
    try:
        return np.array(entries, dtype=float)
    except OverflowError:
        raise BadValue(key, repr(entries), "three numbers of this world") from None


def _place(fields: Fields, key: str) -> Array:
    return place(key, _vector(fields, key))


def _direction(fields: Fields, key: str) -> Array:
    return direction(key, _vector(fields, key))


def _lamp(fields: Fields, read_file: FileReader) -> SceneLamp:
    lamp_id, position, aim = fields.word("id"), _place(fields, "position_m"), _direction(fields, "aim")
    intensity = face = None
    if fields.has("intensity"):
        intensity = _intensity(fields.inner("intensity"), read_file)
    if fields.has("face"):
        face = _face(fields.inner("face"), aim)
    return SceneLamp(
        lamp_id=lamp_id, position_m=position, aim=aim, intensity=intensity, face=face, level=fields.number("level", 1.0)
    )


def _intensity(fields: Fields, read_file: FileReader) -> IntensityDistribution:
    kind = fields.word("kind")
    found: IntensityDistribution
    match kind:
        case "cosine_power":
            found = CosinePower(peak_cd=fields.number("peak_cd"), exponent=fields.number("exponent"))
        case "beam_field":
            found = BeamField(
                peak_cd=fields.number("peak_cd"),
                beam_deg=fields.number("beam_deg"),
                field_deg=fields.number("field_deg"),
            )
        case "file":
            found = read_file(fields.word("path"))
        case _:
            raise BadValue("kind", repr(kind), "cosine_power, beam_field or file")
    fields.done()
    return found


def _face(fields: Fields, aim: Array) -> GlowingFace:
    shape = fields.choice("shape", LitShape)
    luminance = fields.number("luminance_cd_m2")
    if shape is LitShape.DISC:
        diameter = 2.0 * fields.number("radius_m")
        any_across = np.cross(aim, [0.0, 0.0, 1.0] if abs(aim[2]) < 0.9 else [1.0, 0.0, 0.0])
        face = GlowingFace(
            shape=shape,
            width_m=diameter,
            height_m=diameter,
            luminance_cd_m2=luminance,
            width_along=direction("aim", any_across),
        )
    else:
        face = GlowingFace(
            shape=shape,
            width_m=fields.number("width_m"),
            height_m=fields.number("height_m"),
            luminance_cd_m2=luminance,
            width_along=_direction(fields, "width_along"),
        )
    fields.done()
    return face


def _panel(fields: Fields) -> Panel:
    return Panel(
        centre_m=_place(fields, "centre_m"),
        side_x=_direction(fields, "side_x"),
        side_y=_direction(fields, "side_y"),
        width_m=fields.number("width_m"),
        height_m=fields.number("height_m"),
    )


def _frame(fields: Fields) -> SceneFrame:
    return SceneFrame(
        frame_id=fields.word("id"),
        panel=_panel(fields),
        transmittance=fields.perhaps("transmittance"),
        reflectance=fields.perhaps("reflectance"),
        straight_share=fields.number("straight_share", 0.0),
        back_reflectance=fields.number("back_reflectance", 0.0),
        is_mirror=fields.yes("mirror"),
    )


def _solid(fields: Fields) -> Solid:
    return Solid(
        solid_id=fields.word("id"),
        panel=_panel(fields),
        transmittance=fields.number("transmittance", 0.0),
        reflectance=fields.number("reflectance", 0.0),
    )


def _mark(fields: Fields) -> Mark:
    return Mark(
        mark_id=fields.word("id"),
        position_m=_place(fields, "position_m"),
        normal=_direction(fields, "normal"),
        is_dome=fields.choice("receptor", Receptor, Receptor.FLAT) is Receptor.DOME,
    )


def _room(fields: Fields) -> tuple[tuple[BoxRoom | PolygonRoom, ...], tuple[_Pane, ...]]:
    """A box by its dimensions, or a room by its corners with its openings."""
    walls = fields.inner("reflectances")
    if fields.has("dimensions_m"):
        dimensions = _vector(fields, "dimensions_m")
        reflectances = tuple(walls.number(face) for face in FACES)
        walls.done()
        fields.done()
        sides = tuple(float(side) for side in dimensions)
        return (BoxRoom(dimensions_m=sides, reflectances=reflectances),), ()  # type: ignore[arg-type]
    bare = PolygonRoom(
        corners_m=_corners(fields),
        height_m=fields.number("height_m"),
        walls=_numbers(walls, "walls"),
        floor=walls.number("floor"),
        ceiling=walls.number("ceiling"),
    )
    walls.done()
    panes = _entries(fields, "openings", lambda each: _pane(each, bare))
    fields.done()
    openings = tuple(Opening(surface=each.wall, panel=each.panel, passes=each.straight) for each in panes)
    return (replace(bare, openings=openings),), panes


def _numbers(fields: Fields, key: str) -> tuple[float, ...]:
    entries = fields.entries(key)
    if not all(isinstance(each, (int, float)) and not isinstance(each, bool) for each in entries):
        raise BadValue(key, repr(entries), "a list of numbers")
    try:
        return tuple(float(each) for each in entries)  # type: ignore[arg-type]
    except OverflowError:
        raise BadValue(key, repr(entries), "numbers of this world") from None


def _corners(fields: Fields) -> Array:
    found = [_numbers(Fields({"corner": each}), "corner") for each in fields.entries("corners_m")]
    if not all(len(each) == 2 for each in found):
        raise BadValue("corners_m", repr(found), "pairs of numbers [x, y]")
    return np.array(found, dtype=float).reshape(-1, 2)


def _pane(fields: Fields, room: PolygonRoom) -> _Pane:
    """An opening from its wall's first corner on, from the floor up."""
    wall = fields.whole("wall")
    if not 0 <= wall < len(room.corners_m):
        raise BadValue("wall", wall, f"a wall from 0 to {len(room.corners_m) - 1}")
    panel = room.wall(wall)
    along, up = _span(fields, "along_m", panel.width_m), _span(fields, "height_m", panel.height_m)
    first_corner = np.append(room.corners_m[wall], 0.0)
    return _Pane(
        wall=wall,
        panel=replace(
            panel,
            centre_m=first_corner - sum(along) / 2.0 * panel.side_x + sum(up) / 2.0 * panel.side_y,
            width_m=along[1] - along[0],
            height_m=up[1] - up[0],
        ),
        transmittance=_share(fields, "transmittance"),
        diffuse_share=_share(fields, "diffuse_share"),
    )


def _share(fields: Fields, key: str) -> float:
    value = fields.number(key)
    require_share(key, value)
    return value


def _span(fields: Fields, key: str, end_m: float) -> tuple[float, float]:
    found = _numbers(fields, key)
    if len(found) != 2 or not (at_most(0.0, found[0]) and found[0] < found[1] and at_most(found[1], end_m)):
        raise BadValue(key, list(found), f"two figures [from, to] between 0 and {end_m:g} m")
    return found[0], found[1]


def _daylight(
    fields: Fields, rooms: tuple[BoxRoom | PolygonRoom, ...], panes: tuple[_Pane, ...]
) -> tuple[SceneLamp | OpenSky | Window, ...]:
    """Sun and sky as lights: in the open, and by each opening."""
    sun = fields.inner("sun") if fields.has("sun") else None
    towards = _direction(sun, "towards") if sun else None
    normal_lx = sun.number("normal_lx") if sun else 0.0
    sky_fields = fields.inner("sky") if fields.has("sky") else None
    ground = fields.inner("ground") if fields.has("ground") else None
    sky = SkyLuminance(
        kind=_KINDS[sky_fields.choice("kind", _Sky) if sky_fields else _Sky.UNIFORM],
        horizontal_lx=sky_fields.number("horizontal_lx") if sky_fields else 0.0,
        ground_reflectance=ground.number("reflectance") if ground else 0.0,
        sun_towards=towards,
        sun_normal_lx=normal_lx,
    )
    for each in (sun, sky_fields, ground):
        if each:
            each.done()
    found: list[SceneLamp | OpenSky | Window] = []
    if towards is not None and normal_lx > 0.0:
        found.append(sun_lamp(towards, normal_lx))
    if (sun or sky_fields) and not any(isinstance(room, BoxRoom) for room in rooms):
        open_to = tuple(room for room in rooms if isinstance(room, PolygonRoom))
        found.append(OpenSky(lamp_id="sky", sky=sky, rooms=open_to))
        found += [
            Window(
                lamp_id=f"opening {number}",
                panel=each.panel,
                passes=each.straight,
                sky=sky,
                glow_cd_m2=each.transmittance * each.diffuse_share * sky.on_plane_lx(-each.panel.normal) / np.pi,
            )
            for number, each in enumerate(panes, start=1)
        ]
    return tuple(found)
