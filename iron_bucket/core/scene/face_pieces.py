"""The outline of a glowing face, and the pieces that it is cut into."""

from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array, cross
from iron_bucket.core.scene.scene import GlowingFace, LitShape, SceneLamp

#: A face is cut into so many pieces along each side; each by the exact law, and blocked or not as a whole.
FACE_PIECES = 16
#: A disc that is partly hidden is taken as so many corners.
_CORNERS_OF_A_DISC = 64


def face_outline(lamp: SceneLamp) -> Array:
    """The corners of a face, counter-clockwise from in front; a disc as a polygon of its area. Shape (N, 3)."""
    face = _face_of(lamp)
    if face.shape is LitShape.DISC:
        step = 2.0 * np.pi / _CORNERS_OF_A_DISC
        turn = np.arange(_CORNERS_OF_A_DISC) * step
        radius = face.width_m / 2.0 * np.sqrt(step / np.sin(step))
        flat = radius * np.stack([np.cos(turn), np.sin(turn)], axis=1)
    else:
        flat = np.array([[-0.5, -0.5], [0.5, -0.5], [0.5, 0.5], [-0.5, 0.5]]) * (face.width_m, face.height_m)
    return np.asarray(
        lamp.position_m + flat[:, :1] * face.width_along + flat[:, 1:] * cross(lamp.aim, face.width_along)
    )


@lru_cache(maxsize=256)
def face_pieces(lamp: SceneLamp, per_side: int = FACE_PIECES) -> tuple[Array, Array, float]:
    """A face in equal pieces: corners (Q, 4, 3) counter-clockwise from in front, centres (Q, 3), and the luminance.

    A disc is cut in rings and sectors whose straight edges are moved out so far that its area stays. Kept, because
    every frame asks for the same lamps again.
    """
    face = _face_of(lamp)
    across, up = face.width_along, cross(lamp.aim, face.width_along)
    if face.shape is LitShape.DISC:
        flat = _disc_pieces(face.width_m / 2.0, per_side)
    else:
        flat = _rectangle_pieces(face.width_m, face.height_m, per_side)
    corners = lamp.position_m + flat[..., :1] * across + flat[..., 1:] * up
    return corners, corners.mean(axis=1), face.luminance_cd_m2


def _rectangle_pieces(width_m: float, height_m: float, per_side: int) -> Array:
    """Corners in the plane. Shape (Q, 4, 2)."""
    edges = np.linspace(-0.5, 0.5, per_side + 1)
    x, y = np.meshgrid(edges[:-1] * width_m, edges[:-1] * height_m, indexing="ij")
    steps = np.array([[0, 0], [1, 0], [1, 1], [0, 1]]) * np.array([width_m, height_m]) / per_side
    return np.asarray(np.stack([x.ravel(), y.ravel()], axis=1)[:, None, :] + steps)


def _disc_pieces(radius_m: float, per_side: int) -> Array:
    """Rings of equal width, each of four times as many sectors as pieces along a side. Shape (Q, 4, 2)."""
    sectors, rings = 4 * per_side, per_side // 2
    turn = np.arange(sectors + 1) * 2.0 * np.pi / sectors
    # A polygon inside the circle is too small by this much in radius.
    grow = np.sqrt(2.0 * np.pi / (sectors * np.sin(2.0 * np.pi / sectors)))
    edge = np.stack([np.cos(turn), np.sin(turn)], axis=1) * grow * radius_m
    inner, outer = (np.arange(rings) / rings), (np.arange(1, rings + 1) / rings)
    pieces = [
        np.stack([low * edge[:-1], high * edge[:-1], high * edge[1:], low * edge[1:]], axis=1)
        for low, high in zip(inner, outer, strict=True)
    ]
    return np.concatenate(pieces)


def _face_of(lamp: SceneLamp) -> GlowingFace:
    if lamp.face is None:
        raise ValueError("a lamp without a face has no pieces")
    return lamp.face
