"""A room whose floor is any polygon, with openings in its walls and ceiling."""

from dataclasses import dataclass, field, replace

import numpy as np
import shapely

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_positive, require_share
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.quantities.rounding import at_most
from iron_bucket.core.scene.blocking import NO_TINT, Blocker
from iron_bucket.core.scene.patches import Patches

MOST_CORNERS = 60
_UP = np.array([0.0, 0.0, 1.0])
#: A piece of floor smaller than this is not worth a patch.
_SMALLEST_M2 = 1e-4
_SAME_PLANE_M = 1e-6


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Opening:
    """A window, a roof light or a doorway in one wall (by the number of its first corner) or the ceiling
    (``CEILING``); ``panel`` looks inwards.

    ``passes``: share of a ray that goes square through; ``reflectance``: what it sends back into the room.
    ``is_glass``: it loses more slantwise. ``tint``: what it makes of three bands of light that goes through.
    """

    surface: int
    panel: Panel
    passes: float
    reflectance: float = 0.0
    is_glass: bool = False
    tint: tuple[float, float, float] = NO_TINT


#: What stands in place of a wall's number.
CEILING = -1


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PolygonRoom:
    """``corners_m`` (N, 2) run counter-clockwise; wall n goes from corner n to the next.

    Reflectances are shares; one for each wall. ``tints``: of the walls, the floor and the ceiling, what each makes of
    three bands of light over its reflectance; none where all leave light its colour.
    """

    corners_m: Array
    height_m: float
    walls: tuple[float, ...]
    floor: float
    ceiling: float
    openings: tuple[Opening, ...] = ()
    tints: tuple[tuple[float, float, float], ...] = ()
    #: The floor; and the same with what stands on its edge.
    outline: shapely.Polygon = field(init=False, repr=False)
    _ground: shapely.Polygon = field(init=False, repr=False)

    def __post_init__(self) -> None:
        if self.corners_m.ndim != 2 or not 3 <= len(self.corners_m) <= MOST_CORNERS:
            raise BadValue("corners", len(self.corners_m), f"3 to {MOST_CORNERS} corners")
        require_positive("height_m", self.height_m, unit="m")
        for reflectance in (*self.walls, self.floor, self.ceiling):
            require_share("reflectance", reflectance)
        if len(self.walls) != len(self.corners_m):
            raise BadValue("walls", len(self.walls), f"one reflectance for each of {len(self.corners_m)} walls")
        if self.tints and len(self.tints) != len(self.walls) + 2:
            raise BadValue("tints", len(self.tints), "one for each wall, the floor and the ceiling")
        outline = shapely.Polygon(self.corners_m)
        object.__setattr__(self, "outline", outline)
        if not outline.is_valid or outline.area < _SMALLEST_M2 or not shapely.is_ccw(outline.exterior):
            raise BadValue(
                "corners", self.corners_m.tolist(), "corners that run counter-clockwise round a floor and do not cross"
            )
        object.__setattr__(self, "_ground", outline.buffer(1e-6))

    @property
    def is_convex(self) -> bool:
        """Whether every wall sees every other."""
        outline = self.outline
        return at_most(float(outline.convex_hull.area), float(outline.area))

    def holds(self, positions_m: Array) -> np.ndarray:
        """Which places lie in the room; what stands on a wall does. Shapes (R, 3) to (R,)."""
        on_floor = shapely.contains_xy(self._ground, positions_m[:, 0], positions_m[:, 1])
        return np.asarray(on_floor & (positions_m[:, 2] > -1e-6) & (positions_m[:, 2] < self.height_m + 1e-6))

    def wall(self, number: int) -> Panel:
        """One wall; its panel looks into the room, ``side_x`` from the next corner back to the first."""
        start, end = self.corners_m[number], self.corners_m[(number + 1) % len(self.corners_m)]
        along = np.append(start - end, 0.0)
        length = float(np.linalg.norm(along))
        return Panel(
            centre_m=np.append((start + end) / 2.0, self.height_m / 2.0),
            side_x=along / length,
            side_y=_UP,
            width_m=length,
            height_m=self.height_m,
        )

    def blockers(self) -> tuple[Blocker, ...]:
        """Walls and ceiling as what stands in the way, with their openings.

        The ceiling is taken as the rectangle round the room.
        """
        low, high = self.corners_m.min(axis=0), self.corners_m.max(axis=0)
        ceiling = Panel(
            centre_m=np.append((low + high) / 2.0, self.height_m),
            side_x=np.array([1.0, 0.0, 0.0]),
            side_y=np.array([0.0, -1.0, 0.0]),
            width_m=float(high[0] - low[0]),
            height_m=float(high[1] - low[1]),
        )
        surfaces = [(number, self.wall(number)) for number in range(len(self.corners_m))] + [(CEILING, ceiling)]
        return tuple(
            Blocker(
                panel=panel,
                passes=0.0,
                holes=tuple(
                    Blocker(panel=each.panel, passes=each.passes, is_glass=each.is_glass, tint=each.tint)
                    for each in self.openings
                    if each.surface == number
                ),
            )
            for number, panel in surfaces
        )

    def patches(self, per_side: int) -> Patches:
        """Walls, floor and ceiling in pieces of about one size, as many in all as a box of ``per_side`` would have."""
        outline = self.outline
        area = 2.0 * outline.area + outline.length * self.height_m
        cell_m = float(np.sqrt(area / (6 * per_side**2)))
        flat = _floor_pieces(outline, cell_m)
        down = np.concatenate([flat, np.full((*flat.shape[:2], 1), self.height_m)], axis=2)[:, [0, 3, 2, 1]]
        # A triangle repeats its last corner, also when it is turned over.
        is_triangle = (flat[:, 2] == flat[:, 3]).all(axis=1)
        down[is_triangle] = down[is_triangle][:, [0, 2, 3, 3]]
        pieces = [_wall_pieces(self.wall(number), cell_m) for number in range(len(self.walls))]
        pieces += [np.concatenate([flat, np.zeros((*flat.shape[:2], 1))], axis=2), down]
        face = np.repeat(np.arange(len(pieces)), [len(each) for each in pieces])
        shares = np.array([*self.walls, self.floor, self.ceiling])
        return Patches.of(
            np.concatenate(pieces), shares[face], face, np.array(self.tints)[face] if self.tints else None
        )

    def with_openings(self, patches: Patches) -> Patches:
        """Small pieces, those that lie in an opening with its reflectance, and no tint."""
        found, tint = patches.reflectance.copy(), None if patches.tint is None else patches.tint.copy()
        for opening in self.openings:
            offset = patches.centres_m - opening.panel.centre_m
            inside = np.abs(offset @ opening.panel.normal) < _SAME_PLANE_M
            for side, size in (
                (opening.panel.side_x, opening.panel.width_m),
                (opening.panel.side_y, opening.panel.height_m),
            ):
                inside &= np.abs(offset @ side) <= size / 2.0 + _SAME_PLANE_M
            found[inside] = opening.reflectance
            if tint is not None:
                tint[inside] = 1.0
        return replace(patches, reflectance=found, tint=tint)


def _wall_pieces(panel: Panel, cell_m: float) -> Array:
    """A wall as rectangles. Shape (Q, 4, 3)."""
    across, up = max(1, round(panel.width_m / cell_m)), max(1, round(panel.height_m / cell_m))
    x, y = np.meshgrid(np.linspace(-0.5, 0.5, across + 1), np.linspace(-0.5, 0.5, up + 1), indexing="ij")
    points = (
        panel.centre_m + (x * panel.width_m)[..., None] * panel.side_x + (y * panel.height_m)[..., None] * panel.side_y
    )
    return np.stack([points[:-1, :-1], points[1:, :-1], points[1:, 1:], points[:-1, 1:]], axis=2).reshape(-1, 4, 3)


def _floor_pieces(outline: shapely.Polygon, cell_m: float) -> Array:
    """The floor as squares, and triangles along slanting walls. Shape (Q, 4, 2)."""
    left, low, right, high = outline.bounds
    across, up = max(1, round((right - left) / cell_m)), max(1, round((high - low) / cell_m))
    x, y = np.linspace(left, right, across + 1), np.linspace(low, high, up + 1)
    pieces = []
    for column in range(across):
        for row in range(up):
            square = shapely.box(x[column], y[row], x[column + 1], y[row + 1], ccw=True)
            part = shapely.intersection(outline, square)
            if part.area > square.area * (1.0 - 1e-9):
                pieces.append(
                    np.array(
                        [
                            [x[column], y[row]],
                            [x[column + 1], y[row]],
                            [x[column + 1], y[row + 1]],
                            [x[column], y[row + 1]],
                        ]
                    )
                )
            elif part.area > _SMALLEST_M2:
                pieces += _triangles_of(part)
    return np.array(pieces)


def _triangles_of(part: shapely.Geometry) -> list[Array]:
    """A piece of floor as triangles with the last corner twice."""
    found = []
    for polygon in shapely.get_parts(shapely.normalize(part)):
        if isinstance(polygon, shapely.Polygon):
            for triangle in shapely.get_parts(shapely.constrained_delaunay_triangles(polygon)):
                corners = shapely.get_coordinates(shapely.geometry.polygon.orient(triangle).exterior)[:3]
                if triangle.area > _SMALLEST_M2 / 100.0:
                    found.append(np.concatenate([corners, corners[2:]]))
    return found
