"""A scene as JSON, and its levels. The format is described in docs/scene-format.md."""

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.distribution import BeamField, CosinePower, IntensityDistribution
from iron_bucket.core.scene.box_room import FACES, BoxRoom
from iron_bucket.core.scene.mark_levels import UnitResponse
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
from iron_bucket.core.scene.solve import SolvedLevels
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.item_rows import Row
from iron_bucket.formats.json_text import parsed_json

WHAT = "scene file"
SCENE_LIMIT_BYTES = 4_000_000
MOST = {"lamps": 200, "frames": 60, "solids": 200, "marks": 5000}
#: Reads a distribution from a photometric file that the scene names.
FileReader = Callable[[str], IntensityDistribution]


def read_scene(text: str, read_file: FileReader) -> Scene:
    """A scene from JSON. Raises: FormatError that names the list, the entry and the value."""
    document = parsed_json(text, WHAT, SCENE_LIMIT_BYTES)
    try:
        fields = Fields(document)
        scene = Scene(
            lamps=_entries(fields, "lamps", lambda each: _lamp(each, read_file)),
            frames=_entries(fields, "frames", _frame),
            solids=_entries(fields, "solids", _solid),
            rooms=(_room(fields.inner("room")),) if fields.has("room") else (),
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
        raise BadValue(key, repr(entries)[:60] if entries else "missing", "three numbers [x, y, z]")
    try:
        return np.array(entries, dtype=float)
    except OverflowError:
        raise BadValue(key, repr(entries)[:60], "three numbers of this world") from None


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
            raise BadValue("kind", repr(kind)[:40], "cosine_power, beam_field or file")
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
    )


def _solid(fields: Fields) -> Solid:
    return Solid(solid_id=fields.word("id"), panel=_panel(fields), transmittance=fields.number("transmittance", 0.0))


def _mark(fields: Fields) -> Mark:
    return Mark(mark_id=fields.word("id"), position_m=_place(fields, "position_m"), normal=_direction(fields, "normal"))


def _room(fields: Fields) -> BoxRoom:
    dimensions = _vector(fields, "dimensions_m")
    walls = fields.inner("reflectances")
    reflectances = tuple(walls.number(face) for face in FACES)
    walls.done()
    fields.done()
    sides = tuple(float(side) for side in dimensions)
    return BoxRoom(dimensions_m=sides, reflectances=reflectances)  # type: ignore[arg-type]


def levels_json(scene: Scene, found: UnitResponse) -> Row:
    """Every mark with what reaches it by each way, and how much of each lamp every frame catches.

    ``via`` null: straight from the lamp.
    """
    levels = np.array([lamp.level for lamp in scene.lamps])
    total, indirect, first = found.total_lx(levels), levels @ found.indirect_lx, levels @ found.first_bounce_lx
    return {
        "marks": [
            {
                "id": mark.mark_id,
                "illuminance_lx": float(total[at]),
                "by": _by(scene, found, levels, at),
                "indirect_lx": float(indirect[at]),
                "first_bounce_lx": float(first[at]),
            }
            for at, mark in enumerate(scene.marks)
        ],
        "frames": [
            {
                "id": frame.frame_id,
                "by": [
                    {"lamp": lamp.lamp_id, "share_caught": float(found.share_caught[which, of])}
                    for which, lamp in enumerate(scene.lamps)
                ],
            }
            for of, frame in enumerate(scene.frames)
        ],
    }


def _by(scene: Scene, found: UnitResponse, levels: Array, at: int) -> list[Row]:
    rows: list[Row] = []
    for which, lamp in enumerate(scene.lamps):
        rows.append(
            {"lamp": lamp.lamp_id, "via": None, "illuminance_lx": float(levels[which] * found.direct_lx[which, at])}
        )
        rows += [
            {
                "lamp": lamp.lamp_id,
                "via": frame.frame_id,
                "illuminance_lx": float(levels[which] * found.via_lx[which, of, at]),
            }
            for of, frame in enumerate(scene.frames)
        ]
    return rows


def solved_json(scene: Scene, names: Sequence[str], wanted_lx: Array, found: SolvedLevels) -> dict[str, Any]:
    """What ``iron-bucket solve`` tells. Shapes: wanted_lx (M,), as the names of the targets."""
    return {
        "lamps": [
            {"id": lamp.lamp_id, "level": float(level)} for lamp, level in zip(scene.lamps, found.levels, strict=True)
        ],
        "marks": [
            {
                "id": name,
                "wanted_lx": float(wanted_lx[at]),
                "illuminance_lx": float(found.illuminance_lx[at]),
                "miss_stops": float(found.miss_stops[at]),
                "least_lx": float(found.least_lx[at]),
                "most_lx": float(found.most_lx[at]),
                "fights": [names[other] for missed, other in found.fights if missed == at],
            }
            for at, name in enumerate(names)
        ],
    }
