"""How a person is lit: by what, from where, how softly, at what ratio."""

from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.exposure.ratio import ContrastRatio
from iron_bucket.core.modifiers.scatter import COUNTED_SHARE
from iron_bucket.core.photometry.apparent_size import apparent_size_deg
from iron_bucket.core.places.bearing import bearing_of, tilt_of, turn_between
from iron_bucket.core.scene.blocking import crosses
from iron_bucket.core.scene.first_light import first_light
from iron_bucket.core.scene.frame_points import FramePoints
from iron_bucket.core.scene.origins import Origins
from iron_bucket.core.scene.scene import SceneFrame, SceneLamp
from iron_bucket.core.scene.skylight import Window
from iron_bucket.core.scene.standing import mark_points
from iron_bucket.core.scene.sunlight import SUN_DEG
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene
from iron_bucket.core.setups.plan.setup import Person
from iron_bucket.core.setups.scene.build_scene import BuiltLight, Side, position_of

#: docs/craft.md, section 4: angle names from the nose-to-camera line, up to so many degrees.
ANGLE_NAMES = ((20.0, "front"), (60.0, "three-quarter"), (110.0, "side"), (150.0, "edge"), (180.0, "back"))
#: A typical edge in a picture of a face: the nose casts its shadow over this distance.
NOSE_M = 0.03
_FRAME_POINTS = 15


def angle_name(angle_deg: float) -> str:
    """The word for a light so far off the line from nose to camera."""
    return next(name for limit, name in ANGLE_NAMES if abs(angle_deg) <= limit)


@dataclass(frozen=True, slots=True, kw_only=True)
class LitFace:
    """``angle_deg``: of the key from the line to the camera, clockwise seen from above, ``bearing_deg`` on the plan;
    ``height_deg``: above the eyes. ``apparent_deg``: how large the source looks, by four fifths of its light.
    ``hot_centre``: straight light over scattered, where the lamp shows through its cloth.

    ``edge_m``: width of the edge that the nose's shadow has on the cheek. ``is_near_side``: the key comes from the
    camera's side of the nose.
    ``way``: the frame or board that most of it comes by, empty where it comes straight; the angles and sizes are those
    of what glows. ``ratio`` is None where the shadow side gets nothing.
    """

    person: Person
    key_side: str
    key_light: str
    way: str
    key_lx: float
    shadow_lx: float
    ratio: ContrastRatio | None
    angle_deg: float
    bearing_deg: float
    height_deg: float
    throw_m: float
    apparent_deg: float
    edge_m: float
    is_near_side: bool
    nose_lx: float
    hot_centre: float | None = None

    @property
    def fall_off_stops(self) -> float:
        """What the key loses over the next metre behind the face.

        Source: docs/craft.md, section 4, 2 log2(d_bg / d_subj).
        """
        return float(2.0 * np.log2((self.throw_m + 1.0) / self.throw_m))

    @property
    def angle_word(self) -> str:
        """front, three-quarter, side, edge or back."""
        return angle_name(self.angle_deg)


def lit_faces(lit: LitScene) -> tuple[LitFace, ...]:
    """One for each person who gets any light at all."""
    return tuple(found for person in lit.built.setup.people if (found := _lit_face(lit, person)) is not None)


def _lit_face(lit: LitScene, person: Person) -> LitFace | None:
    built, total, by_light = lit.built, lit.total_lx, lit.by_light_lx
    key, shadow = lit.key_and_shadow(person.piece_id)
    at_key, at_shadow, at_nose = (built.mark_index(f"{person.piece_id}.{side}") for side in (key, shadow, Side.NOSE))
    if at_key is None or at_shadow is None or at_nose is None or total[at_key] < DARK_LX:
        return None
    strongest = int(np.argmax(by_light[:, at_key]))
    centre, size_m, way = _what_glows(lit, strongest, at_key)
    ray = centre - position_of(person)
    throw = float(np.linalg.norm(ray))
    camera = np.array([built.setup.camera.x_m, built.setup.camera.y_m, built.setup.camera.z_m]) - position_of(person)
    off_camera = turn_between(bearing_of(camera), bearing_of(ray))
    key_off_nose, camera_off_nose = (turn_between(person.bearing_deg, bearing_of(each)) for each in (ray, camera))
    difference = float(total[at_key] - total[at_shadow])
    has_ratio = total[at_shadow] > DARK_LX and difference > DARK_LX
    return LitFace(
        person=person,
        key_side=key,
        key_light=built.lights[strongest].name,
        way=way,
        key_lx=float(total[at_key]),
        shadow_lx=float(total[at_shadow]),
        ratio=ContrastRatio(key_lx=difference, fill_lx=float(total[at_shadow])) if has_ratio else None,
        angle_deg=off_camera,
        bearing_deg=bearing_of(ray),
        height_deg=tilt_of(ray),
        throw_m=throw,
        apparent_deg=float(apparent_size_deg(size_m, throw)),
        edge_m=size_m * NOSE_M / throw,
        is_near_side=key_off_nose * camera_off_nose >= 0.0,
        nose_lx=float(total[at_nose]),
        hot_centre=_hot_centre(lit, strongest, at_key),
    )


def _hot_centre(lit: LitScene, light: int, mark: int) -> float | None:
    """Straight light over scattered, of a lamp seen through a cloth; None where it hardly shows."""
    scene, source = lit.built.scene, lit.built.scene.lamps[light]
    if not isinstance(source, SceneLamp):
        return None
    ends = source.position_m[None], lit.built.marks[mark].mark.position_m[None]
    cloths = [
        of
        for of, each in enumerate(scene.frames)
        if each.straight_transmittance > 0.0 and crosses(*ends, each.panel)[0, 0]
    ]
    straight = float(lit.response.direct_lx[light, mark])
    scattered = float(lit.response.via_lx[light, cloths, mark].sum())
    if not cloths or scattered <= DARK_LX or straight < _HOT_SHARE * (straight + scattered):
        return None
    return straight / scattered


def _what_glows(lit: LitScene, light: int, mark: int) -> tuple[Array, float, str]:
    """Middle, size, and the frame's name, of what lights a mark: the lamp's own face, the window, its image in a
    mirror, or the lit part of the frame that most of it comes through.
    """
    built = lit.built
    source = built.lights[light]
    via = lit.response.via_lx[light, : len(built.scene.frames), mark]
    if len(via) and float(via.max()) > float(lit.response.direct_lx[light, mark]):
        frame = built.scene.frames[int(np.argmax(via))]
        name = built.setup.frames[int(np.argmax(via))].name
        if frame.is_mirror and isinstance(source.light, SceneLamp):
            behind = float((source.light.position_m - frame.panel.centre_m) @ frame.panel.normal)
            return source.light.position_m - 2.0 * behind * frame.panel.normal, _own_size_m(source), name
        return frame.panel.centre_m, _lit_size_m(lit, light, int(np.argmax(via)), mark), name
    if isinstance(source.light, Window):
        panel = source.light.panel
        return panel.centre_m, float(np.sqrt(panel.width_m * panel.height_m)), ""
    if isinstance(source.light, SceneLamp):
        return source.light.position_m, _own_size_m(source), ""
    above = built.marks[mark].mark.position_m + np.array([0.0, 0.0, 10.0])
    return above, 20.0, ""  # the open sky: a half space, from above


def _own_size_m(source: BuiltLight) -> float:
    """Of the sun or a lamp with what it wears, as the side of a square."""
    if source.light_id == "sun" and isinstance(source.light, SceneLamp):
        return float(_SUN_SIZE * np.linalg.norm(source.light.position_m))
    width_m, height_m = source.fixture.size_m if source.fixture else (0.1, 0.1)
    return float(np.sqrt(width_m * height_m))


#: With less of it straight a centre is not called hot.
_HOT_SHARE = 0.25
#: The sun's disc over its distance.
_SUN_SIZE = 2.0 * np.tan(np.radians(SUN_DEG / 2.0))


def _lit_size_m(lit: LitScene, light: int, frame_index: int, mark: int) -> float:
    """Of what holds four fifths of the light that a lamp gives a mark by way of a frame, as the side of an even square;
    what goes straight through still comes from the lamp's own small image.

    Source: docs/craft.md, section 3; an even square holds four fifths of its light within 0.8 / pi of its area.
    """
    scene, of = lit.built.scene, lit.built.marks[mark].mark
    frame, lamp = scene.frames[frame_index], scene.lamps[light]
    cut, alone = FramePoints.of(frame, _FRAME_POINTS), replace(scene, lamps=(lamp,))
    meter = mark_points((of,))
    by_side = []
    for side in (True, False):
        by_others = first_light(alone, cut.side(is_front=side), _FRAME_POINTS).via_lx[0].sum(axis=0)
        lit_lx = cut.lit_lx((lamp,), alone.blockers, is_lit_in_front=side)[0] + by_others
        lit_by = Origins.of((lamp,), cut, lit_lx[None])
        by_origin = cut.sent_by_point_lx(lit_by.places_m, lit_by.lit_lx, meter, alone.blockers, is_lit_in_front=side)
        by_side.append(by_origin.sum(axis=0))
    given = np.sum(by_side, axis=0)
    if not given.any():
        return float(np.sqrt(frame.panel.width_m * frame.panel.height_m))
    places, weights = cut.points_m - frame.panel.centre_m, given
    straight_lx = float(lit.response.direct_lx[light, mark])
    if straight_lx > 0.0 and isinstance(lamp, SceneLamp):
        met = frame.panel.met_m(lamp.position_m, of.position_m)
        places = np.concatenate([places, (met - frame.panel.centre_m)[None]])
        weights = np.append(given, straight_lx)
    return max(_holding_most_m(places, weights, frame), _own_size_m(lit.built.lights[light]) if straight_lx else 0.0)


def _holding_most_m(places: Array, weights: Array, frame: SceneFrame) -> float:
    """Shapes: places (P, 3) off the frame's middle, weights (P,)."""
    across = np.stack([places @ frame.panel.side_x, places @ frame.panel.side_y])
    share = weights / weights.sum()
    off = across - (across @ share)[:, None]
    spread = np.maximum(np.sqrt(np.square(off) @ share), 1e-6)
    reach = np.sqrt(np.square(off / spread[:, None]).sum(axis=0))
    order = np.argsort(reach)
    most_reach = np.interp(COUNTED_SHARE, np.cumsum(share[order]), reach[order])
    size_m = np.sqrt(np.pi / COUNTED_SHARE) * most_reach * np.sqrt(spread[0] * spread[1])
    return float(min(size_m, np.sqrt(frame.panel.width_m * frame.panel.height_m)))
