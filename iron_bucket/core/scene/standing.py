"""What stands about in a scene, whatever burns in it: the ways of light that was scattered, the same for all lamps."""

from collections.abc import Sequence
from copy import copy
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.lobe import is_matt
from iron_bucket.core.scene.blocking import NO_TINT
from iron_bucket.core.scene.box_room import BoxRoom
from iron_bucket.core.scene.fineness import Fineness
from iron_bucket.core.scene.frame_points import FramePoints
from iron_bucket.core.scene.later_light import LaterWays, Nodes, nodes_a_side
from iron_bucket.core.scene.lobed_light import lobed_ways
from iron_bucket.core.scene.patches import Band
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.polygon_room import PolygonRoom
from iron_bucket.core.scene.room_grid import RoomGrid
from iron_bucket.core.scene.scene import Mark, Scene
from iron_bucket.core.scene.walls import Walls

#: What of a fineness only lights are looked at by.
_OF_LIGHTS = ("frame_points", "wall_frame_points", "splits_suns")
#: Each is up to some megabytes with its ways.
_MOST_CUTS = 40


@dataclass(frozen=True, kw_only=True, eq=False)
class Standing:
    """Each part is computed when it is first asked for. ``scene``: its lamps are not looked at."""

    scene: Scene
    walls: Walls
    marks: Points
    later: LaterWays
    fineness: Fineness
    _cuts: dict[tuple[int, int], FramePoints] = field(default_factory=dict, init=False, repr=False)

    @classmethod
    def of(
        cls, scene: Scene, grids: Sequence[RoomGrid] | None = None, *, with_walls: bool, fineness: Fineness
    ) -> "Standing":
        """``grids``: the rooms', where they are at hand already; without walls nothing comes off them."""
        chosen = rooms_with_marks(scene) if with_walls else ()
        walls = Walls(
            grids=tuple(grids[at] if grids else RoomGrid.of(scene.rooms[at], fineness.wall_patches) for at in chosen)
        )
        nodes = Nodes.of(scene.scatterers, nodes_a_side(len(scene.scatterers), fineness.series_points))
        later = LaterWays(nodes=nodes, walls=walls, blockers=scene.blockers)
        return cls(scene=scene, walls=walls, marks=mark_points(scene.marks), later=later, fineness=fineness)

    def looked_at(self, fineness: Fineness) -> "Standing":
        """The same, what lights lay on it taken more or less finely; all that does not hang on that is shared.

        Raises: BadValue for another cut of what stands about.
        """
        if replace(fineness, **{name: getattr(self.fineness, name) for name in _OF_LIGHTS}) != self.fineness:
            raise BadValue("fineness", repr(fineness), "the same cut of what stands about")
        found = copy(self)
        object.__setattr__(found, "fineness", fineness)
        return found

    @property
    def bands(self) -> tuple[Band, ...]:
        """Those that light has to be followed in: all at once where nothing tints it."""
        is_tinted = (
            self.walls.fine.tint is not None
            or any(each.tint != NO_TINT for each in self.scene.scatterers)
            or any(each.tinting for each in self.scene.blockers)
        )
        return (0, 1, 2) if is_tinted else (None,)

    def tints(self, band: Band) -> Array:
        """What each scatterer makes of a band, over what it makes of all light. Shape (K,)."""
        scatterers = self.scene.scatterers
        if band is None:
            return np.ones(len(scatterers))
        return np.array([each.tint[band] for each in scatterers], dtype=float)

    @property
    def nodes_a_side(self) -> int:
        """Nodes along each side of every scatterer."""
        return nodes_a_side(len(self.scene.scatterers), self.fineness.series_points)

    def cut(self, of: int, points_a_side: int) -> FramePoints:
        """A scatterer, by its number, in so many points; the ways from it are kept while no more than a few are."""
        found = self._cuts.get((of, points_a_side))
        if found is None:
            if len(self._cuts) >= _MOST_CUTS:
                self._cuts.clear()
            found = self._cuts[of, points_a_side] = FramePoints.of(self.scene.scatterers[of], points_a_side)
        return found

    @cached_property
    def factors(self) -> Array:
        """Form factors of the fine patches at the marks. Shape (M, W)."""
        return self.walls.factors(self.marks, self.scene.blockers, splits_shadows=self.fineness.splits_shadows)

    @cached_property
    def lobed(self) -> dict[int, Array]:
        """Of each scatterer that is not matt, by its number, what it makes of what nodes and walls send it."""
        a_side = max(self.nodes_a_side, self.fineness.lobed_points)
        about = (self.later.nodes, self.walls.coarse, self.marks, self.scene.blockers, a_side)
        return {
            of: lobed_ways(each, of, *about)
            for of, each in enumerate(self.scene.scatterers)
            if not is_matt(each.lobe_deg)
        }


def rooms_with_marks(scene: Scene) -> tuple[int, ...]:
    """The rooms whose walls are computed, by their place in the scene."""
    marks = mark_points(scene.marks)
    return tuple(at for at, room in enumerate(scene.rooms) if _inside(room, marks).any())


def mark_points(marks: Sequence[Mark]) -> Points:
    """Marks as receivers."""
    has_domes = any(each.is_dome for each in marks)
    return Points(
        positions_m=np.array([each.position_m for each in marks]).reshape(-1, 3),
        normals=np.array([each.normal for each in marks]).reshape(-1, 3),
        domes=np.array([each.is_dome for each in marks], dtype=bool) if has_domes else None,
    )


def _inside(room: BoxRoom | PolygonRoom, marks: Points) -> np.ndarray:
    """Which marks a room's walls may light; in a box they all are."""
    return np.ones(len(marks.normals), dtype=bool) if isinstance(room, BoxRoom) else room.holds(marks.positions_m)
