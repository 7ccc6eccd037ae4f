"""Measured distributions: a table over two angles, in type A, B or C photometry."""

from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.directions import type_a_angles, type_b_angles
from iron_bucket.core.photometry.distribution import BRIGHTEST_CD, FIRST_PLANE_DEG
from iron_bucket.core.quantities.rounding import at_most


class PhotometryType(StrEnum):
    """Which goniometer turned: see ``directions``."""

    A = "A"
    B = "B"
    C = "C"


class Symmetry(StrEnum):
    """What the stored half planes stand for once they are mirrored."""

    ROTATIONAL = "rotational"
    QUADRANT = "quadrant"
    BILATERAL_0_180 = "bilateral C0-C180"
    BILATERAL_90_270 = "bilateral C90-C270"
    NONE = "none"


def _require_rising(field: str, angles: Array) -> None:
    if angles.ndim != 1 or not len(angles):
        raise BadValue(field, f"an array of shape {angles.shape}", "one list with at least one angle")
    steps = np.diff(angles)
    if not np.isfinite(angles).all() or (steps <= 0).any():
        where = int(np.argmax(~(steps > 0))) if len(steps) else 0
        raise BadValue(
            field, f"{angles[min(where + 1, len(angles) - 1)]:g} after {angles[where]:g}", "angles in rising order"
        )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Tabulated:
    """Candela over vertical and horizontal angles, as stored, not yet mirrored.

    Shapes: vertical_deg (V,), horizontal_deg (H,), candela (H, V).
    """

    kind: PhotometryType
    vertical_deg: Array
    horizontal_deg: Array
    candela: Array

    def __post_init__(self) -> None:
        _require_rising("vertical_deg", self.vertical_deg)
        _require_rising("horizontal_deg", self.horizontal_deg)
        if self.candela.shape != (len(self.horizontal_deg), len(self.vertical_deg)):
            raise BadValue(
                "candela",
                f"an array of shape {self.candela.shape}",
                f"{len(self.horizontal_deg)} planes of {len(self.vertical_deg)} values",
            )
        if self.candela.max(initial=0.0) > BRIGHTEST_CD:
            raise BadValue("candela", f"{self.candela.max():.4g}", f"up to {BRIGHTEST_CD:.0g} cd")
        if not np.isfinite(self.candela).all() or (self.candela < 0).any():
            raise BadValue(
                "candela",
                float(self.candela[~(np.isfinite(self.candela) & (self.candela >= 0))].flat[0]),
                "0 cd or more",
            )
        for field, angles, low, high in self._limits():
            if angles[0] < low - 1e-6 or angles[-1] > high + 1e-6:
                raise BadValue(
                    field, f"{angles[0]:g} to {angles[-1]:g}", f"{low:g} to {high:g} degrees in type {self.kind}"
                )

    def _limits(self) -> tuple[tuple[str, Array, float, float], ...]:
        if self.kind is PhotometryType.C:
            return (
                ("vertical_deg", self.vertical_deg, 0.0, 180.0),
                ("horizontal_deg", self.horizontal_deg, 0.0, 360.0),
            )
        turning, latitude = ("vertical_deg", self.vertical_deg), ("horizontal_deg", self.horizontal_deg)
        if self.kind is PhotometryType.A:
            turning, latitude = latitude, turning
        return ((*turning, -180.0, 180.0), (*latitude, -90.0, 90.0))

    @property
    def symmetry(self) -> Symmetry:
        """Read off the horizontal range, as LM-63 and EULUMDAT define it.

        Source: ANSI/IES LM-63-19, section 5.12, horizontal angles.
        """
        first, last = self.horizontal_deg[0], self.horizontal_deg[-1]
        if self.kind is not PhotometryType.C:
            return Symmetry.NONE
        if len(self.horizontal_deg) == 1:
            return Symmetry.ROTATIONAL
        if first == 0 and last == 90:
            return Symmetry.QUADRANT
        if first == 0 and last == 180:
            return Symmetry.BILATERAL_0_180
        if first == 90 and last == 270:
            return Symmetry.BILATERAL_90_270
        return Symmetry.NONE

    def _folded(self, azimuth_deg: Array) -> Array:
        """Any azimuth brought into the stored range by the table's own mirrors."""
        turned = np.mod(azimuth_deg, 360.0)
        match self.symmetry:
            case Symmetry.ROTATIONAL:
                return np.full_like(turned, self.horizontal_deg[0])
            case Symmetry.QUADRANT:
                half = np.minimum(turned, 360.0 - turned)
                return np.minimum(half, 180.0 - half)
            case Symmetry.BILATERAL_0_180:
                return np.minimum(turned, 360.0 - turned)
            case Symmetry.BILATERAL_90_270:
                return np.where((turned < 90.0) | (turned > 270.0), np.mod(180.0 - turned, 360.0), turned)
        return turned

    def _closed_planes(self) -> tuple[Array, Array]:
        """Horizontal angles and planes with the turn closed, so that interpolation runs through 360."""
        if self.kind is PhotometryType.C and self.symmetry is Symmetry.NONE and self.horizontal_deg[-1] < 360.0:
            return np.append(self.horizontal_deg, self.horizontal_deg[0] + 360.0), np.vstack(
                [self.candela, self.candela[:1]]
            )
        return self.horizontal_deg, self.candela

    def intensity_cd(self, gamma_deg: Floats, azimuth_deg: Floats = FIRST_PLANE_DEG) -> Array:
        """Candela at type C angles: bilinear between stored angles, 0 outside the stored range."""
        gamma, azimuth = np.broadcast_arrays(np.asarray(gamma_deg, dtype=float), np.asarray(azimuth_deg, dtype=float))
        if self.kind is PhotometryType.C:
            vertical, horizontal = gamma, self._folded(azimuth)
        elif self.kind is PhotometryType.A:
            vertical, horizontal = type_a_angles(gamma, azimuth)
        else:
            vertical, horizontal = type_b_angles(gamma, azimuth)
        if self.is_mirrored:
            horizontal = np.abs(horizontal)
        return self.stored_cd(vertical, horizontal)

    @property
    def is_mirrored(self) -> bool:
        """Type A and B tables that begin at horizontal 0 hold one half; the other is its mirror (LM-63-19, 5.12)."""
        return self.kind is not PhotometryType.C and self.horizontal_deg[0] == 0.0 and len(self.horizontal_deg) > 1

    def stored_cd(self, vertical_deg: Array, horizontal_deg: Array) -> Array:
        """Candela at the table's own angles; a hair of 1e-9 degrees past the last angle still counts as inside."""
        angles, planes = self._closed_planes()
        row, row_share, row_inside = _between(angles, horizontal_deg)
        column, column_share, column_inside = _between(self.vertical_deg, vertical_deg)
        low = planes[row, column] * (1 - column_share) + planes[row, _next(column, self.vertical_deg)] * column_share
        above = _next(row, angles)
        high = (
            planes[above, column] * (1 - column_share) + planes[above, _next(column, self.vertical_deg)] * column_share
        )
        return np.where(row_inside & column_inside, low * (1 - row_share) + high * row_share, 0.0)

    @property
    def peak_cd(self) -> float:
        """The largest stored candela."""
        return float(self.candela.max())

    @property
    def peak_at_deg(self) -> tuple[float, float]:
        """Vertical and horizontal angle of the first stored peak."""
        plane, angle = np.unravel_index(int(self.candela.argmax()), self.candela.shape)
        return float(self.vertical_deg[angle]), float(self.horizontal_deg[plane])


def _next(index: np.ndarray, angles: Array) -> np.ndarray:
    return np.asarray(np.minimum(index + 1, len(angles) - 1))


def _between(angles: Array, wanted: Array) -> tuple[np.ndarray, Array, np.ndarray]:
    """Index below, share towards the next, and whether the wanted angle lies inside the table."""
    inside = at_most(angles[0], wanted) & at_most(wanted, angles[-1])
    if len(angles) == 1:
        return np.zeros(np.shape(wanted), dtype=int), np.zeros(np.shape(wanted)), inside
    index = np.clip(np.searchsorted(angles, wanted, side="right") - 1, 0, len(angles) - 2)
    share = np.clip((wanted - angles[index]) / (angles[index + 1] - angles[index]), 0.0, 1.0)
    return index, share, inside
