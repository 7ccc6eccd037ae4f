"""The light over a plane as it is drawn on slate: a picture in the colours of the lamps, and lines of equal light."""

import base64
import io
import re
from dataclasses import dataclass

import numpy as np
from PIL import Image

from iron_bucket.core.arrays import Array
from iron_bucket.core.colour.seen import seen_channels
from iron_bucket.core.quantities import display, parse
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.field import FLOOR, FieldPlane, Sheet, weighted_field_lx
from iron_bucket.core.setups.evaluate.spill import weighted_on_wall_lx
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.desk.errors import NotFound
from iron_bucket.web.setups.names import taken_boxes
from iron_bucket.web.setups.plan_picture import SetupPicture
from iron_bucket.web.shared.pictures.contours import Contour, contours
from iron_bucket.web.shared.pictures.plan import CM

#: Light is drawn from so many stops under the exposure, unseen, to so many over it, at its fullest.
_FROM_STOPS, _TO_STOPS = -6.5, 4.5
_FULLEST = 0.62
#: Between them it grows so that what is near the exposure shows well from what is a stop away.
_GROWS = 1.2
_FAINT_LX = 1e-6
#: A wall's picture is so many pixels wide.
_WALL_PX = 660.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """What somebody wants to see the light on: ``face``, ``floor``, ``height`` (then so high, as typed) or
    ``wall-ROOM-NUMBER``; of one lamp alone where ``solo`` names it.
    """

    plane: str = "face"
    height: str = ""
    solo: str = ""

    @property
    def wall(self) -> tuple[int, int] | None:
        """Room and wall, from 0."""
        found = re.fullmatch(r"wall-(\d{1,4})-(\d{1,4})", self.plane)
        return (int(found[1]), int(found[2])) if found else None


@dataclass(frozen=True, slots=True, kw_only=True)
class LightPicture:
    """``image``: a picture as a data address, ``width`` by ``height`` units; ``words``: on what, and in what."""

    image: str
    width: float
    height: float
    u: float
    contours: tuple[Contour, ...]
    words: str


def light_on_plan(
    now: Evaluation, picture: SetupPicture, wanted: Wanted, units: UnitSystem, *, is_coarse: bool
) -> LightPicture:
    """Over the sheet of the plan. Raises: BadValue for a height that cannot be."""
    paper = picture.paper
    sheet = Sheet(left_m=paper.left_m, top_m=paper.top_m, width_m=paper.width_m, height_m=paper.height_m)
    sheet = sheet.coarser if is_coarse else sheet
    plane = _plane(now, wanted, units)
    field = weighted_field_lx(now.lit, plane, sheet, _weights(now, wanted.solo))
    where = "on the floor" if plane.is_floor else f"{display.length(plane.height_m, units)} over the floor"
    taken = taken_boxes(picture.pieces, picture.place, picture.sheets[0], now.lit.built.surroundings)
    parts = _parts(now, sheet)
    return _drawn(now, field, sheet, where, taken, paper.per_px, units, wanted.solo, parts)


def light_on_wall(now: Evaluation, wanted: Wanted, units: UnitSystem) -> LightPicture:
    """Over one wall, seen from inside. Raises: NotFound."""
    rooms = now.lit.built.surroundings.rooms
    room, wall = wanted.wall or (-1, -1)
    if not (0 <= room < len(rooms) and 0 <= wall < len(rooms[room].walls)):
        raise NotFound("this place has no such wall")
    field = weighted_on_wall_lx(now.lit, room, wall, _weights(now, wanted.solo))
    panel = rooms[room].wall(wall)
    sheet = Sheet(
        left_m=0.0,
        top_m=panel.height_m,
        width_m=panel.width_m,
        height_m=panel.height_m,
        columns=field.shape[2],
        rows=field.shape[1],
    )
    name = f"on wall {wall + 1} of {now.lit.built.surroundings.place.rooms[room].name}, seen from inside"
    u = panel.width_m * CM / _WALL_PX
    whole = np.zeros(field.shape[1:], dtype=int)
    return _drawn(now, field, sheet, name, np.empty((0, 4)), u, units, wanted.solo, whole)


def _parts(now: Evaluation, sheet: Sheet) -> Array:
    """By which room each place of a sheet lies in: lines of light end at walls, and are drawn in the rooms of whoever
    and whatever is seen, and of the camera. Shape (rows, columns), -1 elsewhere, the outside being the last number.
    """
    rooms, setup = now.lit.built.surroundings, now.setup
    parts = rooms.rooms_at(sheet.places_m(0.5).reshape(-1, 3)).reshape(sheet.rows, sheet.columns)
    seen = [(setup.camera.x_m, setup.camera.y_m), *((each.x_m, each.y_m) for each in setup.people)]
    theirs = rooms.rooms_at(np.array([(x_m, y_m, 0.5) for x_m, y_m in seen]))
    return np.where(np.isin(parts, theirs), parts % (len(rooms.rooms) + 1), -1)


def _plane(now: Evaluation, wanted: Wanted, units: UnitSystem) -> FieldPlane:
    if wanted.plane == "floor":
        return FLOOR
    if wanted.plane == "height":
        return FieldPlane(height_m=parse.length_m(wanted.height, "Height", units))
    return FieldPlane.of_faces(now.setup)


def _weights(now: Evaluation, solo: str) -> Array:
    """Of every light: its level, then its level in red, green and blue. Shape (4, L)."""
    lights, balance = now.lit.built.lights, now.setup.look.white_balance_k
    levels = now.lit.built.levels
    if solo in {light.light_id for light in lights}:
        levels = np.array(
            [level if light.light_id == solo else 0.0 for light, level in zip(lights, levels, strict=True)]
        )
    tints = np.array([seen_channels(light_k=light.cct_k, white_balance_k=balance) for light in lights]).reshape(-1, 3)
    return np.concatenate([levels[None], levels * tints.T])


def _drawn(
    now: Evaluation,
    field: Array,
    sheet: Sheet,
    where: str,
    taken: Array,
    u: float,
    units: UnitSystem,
    solo: str,
    parts: Array,
) -> LightPicture:
    level, tinted = np.maximum(field[0], _FAINT_LX), np.maximum(field[1:], 0.0)
    stops = np.log2(level / now.ladder.wanted_lx)
    alone = next((f", {each.name} alone" for each in now.lit.built.lights if each.light_id == solo), "")
    wanted = display.illuminance(now.ladder.wanted_lx, units)
    return LightPicture(
        image=_image(stops, tinted / level),
        width=round(sheet.width_m * CM, 1),
        height=round(sheet.height_m * CM, 1),
        u=u,
        contours=contours(stops, parts, sheet, taken, u),
        words=f"{where}{alone}, in stops from the key’s {wanted}",
    )


def _image(stops: Array, colours: Array) -> str:
    """How opaque light is says its stops, so that between two places they go in a straight line. Shapes (rows,
    columns), (3, rows, columns).
    """
    share = np.clip((stops - _FROM_STOPS) / (_TO_STOPS - _FROM_STOPS), 0.0, 1.0)
    opaque = 255.0 * _FULLEST * share**_GROWS
    pixels = np.concatenate([np.clip(colours, 0.0, 255.0), opaque[None]]).round().astype(np.uint8)
    file = io.BytesIO()
    Image.fromarray(np.moveaxis(pixels, 0, 2), "RGBA").save(file, "PNG", compress_level=1)
    return "data:image/png;base64," + base64.b64encode(file.getvalue()).decode()
