"""Glare off what is glossy or wet: where on it each lamp shows to the lens."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array, angle_rad, units
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.fresnel import returned
from iron_bucket.core.places.place import Gloss
from iron_bucket.core.scene.blocking import passing
from iron_bucket.core.scene.light_levels import lamp_level_lx
from iron_bucket.core.scene.points import Points
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.camera_view import camera_position, in_view
from iron_bucket.core.setups.scene.build_scene import panel_of

#: Of varnish and paint, and of water.
_INDEX = {Gloss.GLOSSY: 1.5, Gloss.WET: 1.33}
#: A spot stands for so much of the table or wall about it.
_ABOUT_A_SPOT_M = 0.8
#: Less of its own brightest is nothing to see.
_SHOWS_SHARE = 0.02


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class GlareLine:
    """From a lamp by a place of shape (3,) on a surface to the lens. ``off_deg``: from square to the surface;
    ``returned``: of the lamp's luminance.
    """

    lamp: str
    surface: str
    place_m: Array
    away_m: float
    off_deg: float
    returned: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Surface:
    name: str
    panel: Panel
    gloss: Gloss


def glare_lines(lit: LitScene) -> Iterator[GlareLine]:
    """Of our lamps that are on, by each surface that is marked, inside the picture and with nothing in the way.

    Source: the image of a lamp lies as far behind a plane as the lamp before it.
    """
    built = lit.built
    setup, eye = built.setup, camera_position(built.setup.camera)
    for light, lamp in zip(built.lights, built.scene.lamps, strict=True):
        if light.placed is None or light.level <= 0.0:
            continue
        for surface in _surfaces(lit):
            panel = surface.panel
            eye_off, lamp_off = (float((each - panel.centre_m) @ panel.normal) for each in (eye, lamp.position_m))  # type: ignore[union-attr]
            if min(eye_off, lamp_off) <= 0.0:
                continue
            image = lamp.position_m - 2.0 * lamp_off * panel.normal  # type: ignore[union-attr]
            place = eye + (image - eye) * eye_off / (eye_off + lamp_off)
            if not _is_on(place, panel) or not in_view(setup.camera, setup.look, place[None])[0]:
                continue
            ends = np.array([eye, lamp.position_m])  # type: ignore[union-attr]
            towards = Points(positions_m=place[None], normals=units(ends[1] - place)[None])
            arrives = float(lamp_level_lx(lamp, towards, ())[0]) * float(np.sum((ends[1] - place) ** 2))
            hidden = passing(place[None], ends, built.scene.blockers)[0].min() < _SHOWS_SHARE
            if hidden or arrives < _SHOWS_SHARE * light.fixture.axis_cd:  # type: ignore[union-attr]
                continue
            cosine = eye_off / float(np.linalg.norm(place - eye))
            yield GlareLine(
                lamp=light.name,
                surface=surface.name,
                place_m=place,
                away_m=float(np.linalg.norm(place - eye)),
                off_deg=float(np.degrees(angle_rad(np.array(cosine)))),
                returned=float(returned(cosine, _INDEX[surface.gloss])),
            )


def _surfaces(lit: LitScene) -> Iterator[_Surface]:
    """All that is marked glossy or wet."""
    around = lit.built.surroundings
    for room, shape in zip(around.place.rooms, around.rooms, strict=True):
        if room.floor_gloss is not Gloss.NONE:
            low, high = shape.corners_m.min(axis=0), shape.corners_m.max(axis=0)
            floor = Panel(
                centre_m=np.append((low + high) / 2.0, 0.0),
                side_x=np.array([1.0, 0.0, 0.0]),
                side_y=np.array([0.0, 1.0, 0.0]),
                width_m=float(high[0] - low[0]),
                height_m=float(high[1] - low[1]),
            )
            yield _Surface(name=f"the floor of {room.name}", panel=floor, gloss=room.floor_gloss)
        if room.wall_gloss is not Gloss.NONE:
            for number in range(len(shape.corners_m)):
                name = f"wall {number + 1} of {room.name}"
                yield _Surface(name=name, panel=shape.wall(number), gloss=room.wall_gloss)
    for spot in lit.built.setup.spots:
        if spot.gloss is not Gloss.NONE:
            about = panel_of(spot, _ABOUT_A_SPOT_M, _ABOUT_A_SPOT_M)
            yield _Surface(name=spot.name, panel=about, gloss=spot.gloss)


def _is_on(place_m: Array, panel: Panel) -> bool:
    off = place_m - panel.centre_m
    return bool(abs(off @ panel.side_x) <= panel.width_m / 2.0 and abs(off @ panel.side_y) <= panel.height_m / 2.0)
