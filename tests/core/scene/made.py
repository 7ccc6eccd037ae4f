"""What scenes of these tests are made of."""

from dataclasses import replace

import numpy as np

from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.distribution import CosinePower
from iron_bucket.core.scene.box_room import BoxRoom
from iron_bucket.core.scene.fineness import REFERENCE, Fineness
from iron_bucket.core.scene.mark_levels import UnitResponse, unit_response
from iron_bucket.core.scene.scene import GlowingFace, LitShape, Mark, Scene, SceneFrame, SceneLamp
from tests.made_up import panel_at

X, Y, Z = np.eye(3)
#: Fine enough for a few hundredths, and ten times as quick as what the reference cases ask for.
LIGHTER = replace(REFERENCE, series_points=9, wall_patches=7, fine_walls=50)
ROOM = BoxRoom(dimensions_m=(5.0, 4.0, 2.6), reflectances=(0.5, 0.6, 0.4, 0.3, 0.2, 0.8))


def at(*coordinates: float) -> np.ndarray:
    return np.array(coordinates, dtype=float)


def a_lamp(**changes) -> SceneLamp:
    made = {
        "lamp_id": "A",
        "position_m": at(0, 0, -2),
        "aim": Z,
        "intensity": CosinePower(peak_cd=9000.0, exponent=20.0),
    }
    return SceneLamp(**(made | changes))


def a_panel(centre=(0, 0, 0), side_x=X, side_y=Y, width_m=1.2, height_m=1.2) -> Panel:
    return panel_at(at(*centre), side_x, side_y, width_m, height_m)


def a_frame(**changes) -> SceneFrame:
    return SceneFrame(**({"frame_id": "F", "panel": a_panel(), "transmittance": 0.5} | changes))


def a_mark(position=(0, 0, 2), normal=-Z, name="m") -> Mark:
    return Mark(mark_id=name, position_m=at(*position), normal=np.asarray(normal, dtype=float))


def found(fineness: Fineness = LIGHTER, **parts) -> UnitResponse:
    return unit_response(Scene(**({"lamps": (a_lamp(),), "marks": (a_mark(),)} | parts)), fineness=fineness)


def a_face(shape=LitShape.RECTANGLE, width_m=1.0, height_m=0.6, luminance=1000.0, along=X) -> GlowingFace:
    return GlowingFace(shape=shape, width_m=width_m, height_m=height_m, luminance_cd_m2=luminance, width_along=along)
