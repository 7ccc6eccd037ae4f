"""Where light arrives."""

from dataclasses import dataclass

from iron_bucket.core.arrays import Array


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Points:
    """Receivers. Shapes: both (R, 3), normals of length 1.

    ``are_many``: the thousands of a wall or a field, for which sources are cut more coarsely.
    """

    positions_m: Array
    normals: Array
    are_many: bool = False
