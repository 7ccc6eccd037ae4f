"""The light over a plane as it is drawn on slate: a picture in the colours of the lamps, and lines of equal light."""

import base64
import io
import re
from collections.abc import Hashable
from dataclasses import dataclass

import numpy as np
from PIL import Image

from iron_bucket.core.quantities import display, parse
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.field import FLOOR, FieldPlane, Sheet
from iron_bucket.core.setups.evaluate.seen_light import SeenLight, light_over_plane, light_over_wall, rooms_in_use
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.desk.bounded_cache import BoundedCache
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
#: Some dozens of kilobytes each. An evaluation is the same one as long as nothing of its set-up, place, gear and rules
#: has changed.
_DRAWN: BoundedCache[Hashable, "LightPicture"] = BoundedCache(100)
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
    """Over the sheet of the plan, drawn once for a state of it. Raises: BadValue for a height that cannot be."""
    if is_coarse:  # of what is being dragged, and not asked for again
        return _on_plan(now, picture, wanted, units, is_coarse=True)
    key = now, picture.paper, wanted, units
    return _DRAWN.get_or_make(key, lambda: _on_plan(now, picture, wanted, units, is_coarse=False))


def _on_plan(
    now: Evaluation, picture: SetupPicture, wanted: Wanted, units: UnitSystem, *, is_coarse: bool
) -> LightPicture:
    paper = picture.paper
    sheet = Sheet(left_m=paper.left_m, top_m=paper.top_m, width_m=paper.width_m, height_m=paper.height_m)
    sheet = sheet.coarser if is_coarse else sheet
    plane = _plane(now, wanted, units)
    where = "on the floor" if plane.is_floor else f"{display.length(plane.height_m, units)} over the floor"
    taken = taken_boxes(picture.pieces, picture.place, picture.sheets[0], now.lit.built.surroundings)
    seen = light_over_plane(now.lit, plane, sheet, wanted.solo)
    lines = contours(seen.stops, rooms_in_use(now.lit, sheet), sheet, taken, paper.per_px)
    return _drawn(seen, sheet, lines, paper.per_px, _words(now, where, wanted.solo, units))


def light_on_wall(now: Evaluation, wanted: Wanted, units: UnitSystem) -> LightPicture:
    """Over one wall, seen from inside; drawn once for a state of the set-up. Raises: NotFound."""
    return _DRAWN.get_or_make((now, wanted, units), lambda: _on_wall(now, wanted, units))


def _on_wall(now: Evaluation, wanted: Wanted, units: UnitSystem) -> LightPicture:
    rooms = now.lit.built.surroundings.rooms
    room, wall = wanted.wall or (-1, -1)
    if not (0 <= room < len(rooms) and 0 <= wall < len(rooms[room].walls)):
        raise NotFound("this place has no such wall")
    seen, panel = light_over_wall(now.lit, room, wall, wanted.solo), rooms[room].wall(wall)
    rows, columns = seen.stops.shape
    width_m, height_m = panel.width_m, panel.height_m
    sheet = Sheet(left_m=0.0, top_m=height_m, width_m=width_m, height_m=height_m, columns=columns, rows=rows)
    u = width_m * CM / _WALL_PX
    lines = contours(seen.stops, np.zeros((rows, columns)), sheet, np.empty((0, 4)), u)
    where = f"on wall {wall + 1} of {now.lit.built.surroundings.place.rooms[room].name}, seen from inside"
    return _drawn(seen, sheet, lines, u, _words(now, where, wanted.solo, units))


def _plane(now: Evaluation, wanted: Wanted, units: UnitSystem) -> FieldPlane:
    if wanted.plane == "floor":
        return FLOOR
    if wanted.plane == "height":
        return FieldPlane(height_m=parse.length_m(wanted.height, "Height", units))
    return FieldPlane.of_faces(now.setup)


def _words(now: Evaluation, where: str, solo: str, units: UnitSystem) -> str:
    """On what, by whom, in what, and what is not in it."""
    alone = next((f", {each.name} alone" for each in now.lit.built.lights if each.light_id == solo), "")
    key = display.illuminance(now.ladder.wanted_lx, units)
    return f"{where}{alone}, in stops from the key’s {key}, no wall bounce"


def _drawn(seen: SeenLight, sheet: Sheet, lines: tuple[Contour, ...], u: float, words: str) -> LightPicture:
    return LightPicture(
        image=_image(seen),
        width=round(sheet.width_m * CM, 1),
        height=round(sheet.height_m * CM, 1),
        u=u,
        contours=lines,
        words=words,
    )


def _image(seen: SeenLight) -> str:
    """How opaque light is says its stops, so that between two places they go in a straight line."""
    share = np.clip((seen.stops - _FROM_STOPS) / (_TO_STOPS - _FROM_STOPS), 0.0, 1.0)
    opaque = 255.0 * _FULLEST * share**_GROWS
    pixels = np.concatenate([np.clip(seen.channels, 0.0, 255.0), opaque[None]]).round().astype(np.uint8)
    file = io.BytesIO()
    Image.fromarray(np.moveaxis(pixels, 0, 2), "RGBA").save(file, "PNG", compress_level=1)
    return "data:image/png;base64," + base64.b64encode(file.getvalue()).decode()
