"""Where light arrives, and how much of it counts there."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Points:
    """Receivers. Shapes: positions_m and normals (R, 3), normals of length 1; domes (R,): which are read by a dome in
    place of a flat face, None where none is.

    ``are_many``: the thousands of a wall or a field, for which sources are cut more coarsely.
    """

    positions_m: Array
    normals: Array
    are_many: bool = False
    domes: np.ndarray | None = None

    @property
    def read_by_dome(self) -> np.ndarray:
        """Which receivers are. Shape (R,)."""
        return np.zeros(len(self.normals), dtype=bool) if self.domes is None else self.domes

    def counted(self, cosine: Array) -> Array:
        """Share of a ray that counts, by its cosine to the receiver's axis. Shape (..., R).

        Source: docs/craft.md, section 5; a flat face counts cos(epsilon), a dome (1 + cos(epsilon)) / 2.
        """
        flat = np.maximum(cosine, 0.0)
        return flat if self.domes is None else np.where(self.domes, (1.0 + cosine) / 2.0, flat)

    def is_dome(self, at: int | np.integer) -> bool:
        """Whether one of them is."""
        return bool(self.read_by_dome[at])

    def some(self, chosen: np.ndarray) -> "Points":
        """Some of them, by their places or a mask."""
        domes = None if self.domes is None else self.domes[chosen]
        return Points(
            positions_m=self.positions_m[chosen], normals=self.normals[chosen], are_many=self.are_many, domes=domes
        )
