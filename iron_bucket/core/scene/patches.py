"""Surfaces cut into flat pieces."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array

_HAIR_M = 1e-4
#: One of three bands of light, by its number; None: all of it, as it is told for white light.
Band = int | None


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Patches:
    """Shapes: corners_m (P, 4, 3) counter-clockwise from where they are seen, a triangle with its last corner twice;
    centres_m and normals (P, 3);
    rest (P,). ``face`` tells which pieces lie in one plane. ``tint``: what each makes of three bands of light, over its
    reflectance, shape (P, 3); None where all of them leave light its colour.
    """

    corners_m: Array
    centres_m: Array
    normals: Array
    area_m2: Array
    reflectance: Array
    face: np.ndarray
    tint: Array | None = None

    @classmethod
    def of(cls, corners_m: Array, reflectance: Array, face: np.ndarray, tint: Array | None = None) -> "Patches":
        """Centres, normals and areas from the corners."""
        first = _triangles(corners_m[:, [0, 1, 2]])
        second = _triangles(corners_m[:, [0, 2, 3]])
        sizes = np.stack([np.linalg.norm(first, axis=1), np.linalg.norm(second, axis=1)])
        area = sizes.sum(axis=0)
        middles = np.stack([corners_m[:, [0, 1, 2]].mean(axis=1), corners_m[:, [0, 2, 3]].mean(axis=1)])
        return cls(
            corners_m=corners_m,
            centres_m=np.einsum("tp,tpk->pk", sizes, middles) / area[:, None],
            normals=(first + second) / np.linalg.norm(first + second, axis=1)[:, None],
            area_m2=area,
            reflectance=reflectance,
            face=face,
            tint=tint,
        )

    @classmethod
    def joined(cls, several: "Sequence[Patches]") -> "Patches":
        """Several behind each other; faces are numbered on."""
        if len(several) == 1:
            return several[0]
        first = np.cumsum([0, *(each.face.max(initial=-1) + 1 for each in several[:-1])])
        return cls(
            corners_m=np.concatenate([np.zeros((0, 4, 3)), *(each.corners_m for each in several)]),
            centres_m=np.concatenate([np.zeros((0, 3)), *(each.centres_m for each in several)]),
            normals=np.concatenate([np.zeros((0, 3)), *(each.normals for each in several)]),
            area_m2=np.concatenate([np.zeros(0), *(each.area_m2 for each in several)]),
            reflectance=np.concatenate([np.zeros(0), *(each.reflectance for each in several)]),
            face=np.concatenate(
                [np.zeros(0, dtype=np.int64), *(each.face + start for each, start in zip(several, first, strict=False))]
            ),
            tint=_joined_tints(several),
        )

    def in_band(self, band: Band) -> Array:
        """What each sends back of one band. Shape (P,)."""
        return (
            self.reflectance
            if self.tint is None or band is None
            else np.minimum(self.reflectance * self.tint[:, band], 1.0)
        )

    @property
    def just_off_m(self) -> Array:
        """The middles a hair off their walls, so that a wall is not in its own way. Shape (P, 3)."""
        return np.asarray(self.centres_m + _HAIR_M * self.normals)

    def of_those(self, chosen: np.ndarray) -> "Patches":
        """Some of them, by their places."""
        return Patches(
            corners_m=self.corners_m[chosen],
            centres_m=self.centres_m[chosen],
            normals=self.normals[chosen],
            area_m2=self.area_m2[chosen],
            reflectance=self.reflectance[chosen],
            face=self.face[chosen],
            tint=None if self.tint is None else self.tint[chosen],
        )


def _joined_tints(several: "Sequence[Patches]") -> Array | None:
    if all(each.tint is None for each in several):
        return None
    return np.concatenate([np.ones((len(each.area_m2), 3)) if each.tint is None else each.tint for each in several])


def _triangles(corners: Array) -> Array:
    """Half the cross product of two sides: area and direction in one. Shapes (P, 3, 3) to (P, 3)."""
    return np.asarray(np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]) / 2.0)


def subdivided(patches: Patches, per_side: int) -> Patches:
    """Every piece cut ``per_side`` times along both sides; the pieces of one stand together, in its place."""
    steps = np.linspace(0.0, 1.0, per_side + 1)
    u, v = np.meshgrid(steps, steps, indexing="ij")
    a, b, c, d = (patches.corners_m[:, at, None, None, :] for at in range(4))
    u, v = u[..., None], v[..., None]
    points = (1 - u) * (1 - v) * a + u * (1 - v) * b + u * v * c + (1 - u) * v * d
    pieces = np.stack([points[:, :-1, :-1], points[:, 1:, :-1], points[:, 1:, 1:], points[:, :-1, 1:]], axis=3)
    return Patches.of(
        pieces.reshape(-1, 4, 3),
        np.repeat(patches.reflectance, per_side**2),
        np.repeat(patches.face, per_side**2),
        None if patches.tint is None else np.repeat(patches.tint, per_side**2, axis=0),
    )
