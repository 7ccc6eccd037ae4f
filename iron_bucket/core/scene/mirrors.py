"""Lamps and windows seen in mirrors: each as its image, as far as the glass shows it.

The image of a lamp sends to a place what the lamp itself would send to the image of that place, so that places are
turned over and lamps stay.
"""

from collections.abc import Sequence

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.scene.blocking import Blocker, Blockers, crosses, passing_each
from iron_bucket.core.scene.face_pieces import face_outline, face_pieces
from iron_bucket.core.scene.light_levels import small_levels_lx
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.scene import Light, SceneFrame, SceneLamp
from iron_bucket.core.scene.seen_part import through_window_form_factor
from iron_bucket.core.scene.skylight import Window
from iron_bucket.core.scene.sunlight import disc_m, is_sun

#: Pieces along each side of a face, to see how much of its image is blocked.
_PIECES = 4


def mirrored_lx(lamps: Sequence[Light], mirror: SceneFrame, points: Points, blockers: Blockers) -> Array:
    """What lights at full output send to points by way of a mirror. The open sky in it is left out. Shape (L, R).

    Source: an ideal mirror keeps the luminance of what it shows, times its reflectance.
    """
    panel, images = mirror.panel, _turned_over(mirror.panel, points)
    found = np.zeros((len(lamps), len(points.normals)))
    for at, lamp in enumerate(lamps):
        if isinstance(lamp, SceneLamp):
            by_image = _small_lx if lamp.face is None else _face_lx
            found[at] = by_image(lamp, panel, points, images, blockers)
        elif isinstance(lamp, Window):
            found[at] = _window_lx(lamp, panel, points, images, blockers)
    return np.asarray((mirror.reflectance or 0.0) * found)


def _turned_over(panel: Panel, points: Points) -> Points:
    """The images of places and of the ways they look."""
    off = (points.positions_m - panel.centre_m) @ panel.normal
    turned = points.normals @ panel.normal
    return Points(
        positions_m=points.positions_m - 2.0 * off[:, None] * panel.normal,
        normals=np.ascontiguousarray(points.normals - 2.0 * turned[:, None] * panel.normal),
        are_many=points.are_many,
        domes=points.domes,
    )


def _unblocked(starts_m: Array, panel: Panel, points: Points, images: Points, blockers: Blockers) -> Array:
    """Of rays from some places by way of the glass: what arrives, 0 beside it.

    Shapes: starts_m (Q, 3); gives (R, Q).
    """
    shares = crosses(starts_m, images.positions_m, panel).T.astype(float)
    receivers, pieces = np.nonzero(shares)
    ends, starts = images.positions_m[receivers], starts_m[pieces]
    met = panel.met_m(starts, ends)
    shares[receivers, pieces] = passing_each(starts, met, blockers) * passing_each(
        met, points.positions_m[receivers], blockers
    )
    return shares


def _small_lx(lamp: SceneLamp, panel: Panel, points: Points, images: Points, blockers: Blockers) -> Array:
    places = disc_m(lamp) if is_sun(lamp) and not points.are_many else lamp.position_m[None]
    return np.asarray(
        small_levels_lx((lamp,), images)[0] * _unblocked(places, panel, points, images, blockers).mean(axis=1)
    )


def _face_lx(lamp: SceneLamp, panel: Panel, points: Points, images: Points, blockers: Blockers) -> Array:
    """The part of the face that the glass shows, exactly; what else stands in the way, piece by piece."""
    _, centres, luminance = face_pieces(lamp, _PIECES)
    arriving, outline = _unblocked(centres, panel, points, images, blockers), face_outline(lamp)
    shown = crosses(centres, images.positions_m, panel).T
    seen = np.divide(arriving.sum(axis=1), shown.sum(axis=1), out=np.ones(len(shown)), where=shown.any(axis=1))
    before = (images.positions_m - lamp.position_m) @ lamp.aim > 0.0
    factors = np.zeros(len(before))
    for at in np.flatnonzero(before):
        place, normal = images.positions_m[at], images.normals[at]
        factors[at] = through_window_form_factor(outline, place, normal, panel, is_dome=images.is_dome(at))
    return np.asarray(np.pi * luminance * factors * seen)


def _window_lx(window: Window, panel: Panel, points: Points, images: Points, blockers: Sequence[Blocker]) -> Array:
    corners, centres = window.pieces(points)
    factors = form_factors(corners, images.positions_m, images.normals, images.domes)
    shown = _unblocked(centres, panel, points, images, Blockers.of(blockers))
    # A level mirror turns sky and ground over; the piece is looked at as the image sees it.
    return np.asarray(np.pi * (window.luminance_cd_m2(centres, images.positions_m) * factors * shown).sum(axis=1))
