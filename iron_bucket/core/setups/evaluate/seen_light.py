"""The light over a plane as the camera is set for it: how bright in stops, and in which colour."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.colour.seen import seen_channels
from iron_bucket.core.colour.white import uv_from_xyz
from iron_bucket.core.setups.evaluate.field import IN_A_ROOM_M, FieldPlane, Sheet, weighted_field_lx
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene
from iron_bucket.core.setups.evaluate.spill import weighted_on_wall_lx


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SeenLight:
    """``stops`` from the level that the camera wants, shape (rows, columns), top row first. ``channels``: red, green
    and blue up to 255 of the mixture of all lights there, shape (3, rows, columns).

    What comes off the walls is left out.
    """

    stops: Array
    channels: Array


def light_over_plane(lit: LitScene, plane: FieldPlane, sheet: Sheet, solo: str = "") -> SeenLight:
    """At the lamps' levels; ``solo``: by the one light of that id alone, of all where there is none."""
    return _seen(lit, weighted_field_lx(lit, plane, sheet, _weights(lit, solo)))


def light_over_wall(lit: LitScene, room: int, wall: int, solo: str = "") -> SeenLight:
    """The same over one wall, seen from inside."""
    return _seen(lit, weighted_on_wall_lx(lit, room, wall, _weights(lit, solo)))


def rooms_in_use(lit: LitScene, sheet: Sheet) -> np.ndarray:
    """By which room each place of a sheet lies in, where somebody or the camera is in the same one, or as they are
    outside; -1 elsewhere. Shape (rows, columns).
    """
    around, setup = lit.built.surroundings, lit.built.setup
    spots = [(setup.camera.x_m, setup.camera.y_m), *((each.x_m, each.y_m) for each in setup.people)]
    used = around.rooms_at(np.array([(x_m, y_m, IN_A_ROOM_M) for x_m, y_m in spots]))
    parts = around.rooms_at(sheet.places_m(IN_A_ROOM_M).reshape(-1, 3)).reshape(sheet.rows, sheet.columns)
    return np.where(np.isin(parts, used), parts % (len(around.rooms) + 1), -1)


def _weights(lit: LitScene, solo: str) -> Array:
    """Of every light X, Y and Z of its level. Shape (3, L)."""
    lights = lit.built.lights
    is_alone = np.array([light.light_id == solo for light in lights], dtype=bool)
    levels = np.where(is_alone, lit.built.levels, 0.0) if is_alone.any() else lit.built.levels
    return np.asarray(levels * np.array([light.colour.xyz for light in lights]).reshape(-1, 3).T)


def _seen(lit: LitScene, field: Array) -> SeenLight:
    look = lit.built.setup.look
    white_xyz = look.white.xyz[:, None, None]
    level_lx = np.maximum(field[1], DARK_LX)
    xyz = np.where(field[1] > DARK_LX, np.maximum(field, 0.0), white_xyz * level_lx)
    channels = seen_channels(uv_from_xyz(np.moveaxis(xyz, 0, -1)), look.white)
    return SeenLight(
        stops=np.log2(level_lx / look.wanted_lx(lit.built.receptor)), channels=np.moveaxis(channels, -1, 0)
    )
