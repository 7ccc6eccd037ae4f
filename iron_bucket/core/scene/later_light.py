"""Light that has been scattered once already: between frames, boards, flags and walls, as often as it likes.

Every frame is a handful of nodes on both its sides, every wall its coarse patches; what each sends the others is one
matrix, solved as a whole, so that no series of scatterings is cut off. What mirrors do with scattered light is left
out. In here a cloth that is not matt counts as matt; what it sends to the marks is in ``lobed_light``.
Source: radiosity, E = E0 + K E.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cache, cached_property

import numpy as np
from numba import njit
from numpy.polynomial.legendre import legvander
from scipy.linalg import lu_factor, lu_solve

from iron_bucket.core.arrays import Array
from iron_bucket.core.modifiers.lobe import is_matt
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.quadrature import gauss_nodes
from iron_bucket.core.scene.blocking import Blockers, passing
from iron_bucket.core.scene.frame_points import Scatterer, points_for_near
from iron_bucket.core.scene.patches import Band, Patches
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.room_grid import FINE
from iron_bucket.core.scene.walls import Walls

#: More nodes take too long to solve.
_MOST_NODES = 2700
#: More points along a side of a frame than a mark near it may ask for.
_MOST_A_SIDE = 40


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Nodes:
    """Gauss points of all scatterers, each on both sides. Shapes (N, 3) and (N,); ``normals`` look off the lit side,
    ``back`` and ``through`` are the shares that leave on it and on the other, ``owner`` the scatterer's number.

    The first half lies in front of the panels, the second behind them, in the same order.
    """

    points: Points
    area_m2: Array
    back: Array
    through: Array
    owner: np.ndarray

    @classmethod
    def of(cls, scatterers: Sequence[Scatterer], a_side: int) -> "Nodes":
        """Of all that send light on; mirrors have nodes that send nothing."""
        cut = [each.panel.points(a_side) for each in scatterers]
        places = np.concatenate([np.zeros((0, 3)), *(points for points, _ in cut)])
        front = np.repeat(np.array([each.panel.normal for each in scatterers]).reshape(-1, 3), a_side**2, axis=0)
        area = np.concatenate([np.zeros(0), *(area for _, area in cut)])
        owner = np.tile(np.repeat(np.arange(len(scatterers)), a_side**2), 2)
        return cls(
            points=Points(
                positions_m=np.concatenate([places, places]), normals=np.concatenate([front, -front]), are_many=True
            ),
            area_m2=np.concatenate([area, area]),
            back=np.array([each.back_share for each in scatterers], dtype=float)[owner],
            through=np.array([each.through_share for each in scatterers], dtype=float)[owner],
            owner=owner,
        )

    def some(self, chosen: np.ndarray) -> "Nodes":
        """Those that are chosen, by a mask."""
        rest = {name: getattr(self, name)[chosen] for name in ("area_m2", "back", "through", "owner")}
        return Nodes(points=self.points.some(chosen), **rest)

    def without_lobes(self, scatterer: Scatterer) -> "Nodes":
        """The nodes of one that is not matt without what goes on by its lobes."""
        if is_matt(scatterer.lobe_deg):
            return self
        keeps_back = bool(scatterer.through_share)
        return replace(self, through=np.zeros_like(self.through), back=self.back * keeps_back)

    def sent_lx(self, points: Points, blockers: Blockers) -> Array:
        """Lux at some points for each lux on each node, all matt. Shape (R, N)."""
        lux = _node_lx(
            self.points.positions_m,
            self.points.normals,
            self.back * self.area_m2,
            self.through * self.area_m2,
            np.ascontiguousarray(points.positions_m),
            np.ascontiguousarray(points.normals),
            points.read_by_dome,
            self.area_m2,
        )
        return np.asarray(lux * passing(points.positions_m, self.points.positions_m, blockers))

    def seen_patches(self, patches: Patches, blockers: Blockers) -> Array:
        """Form factor of each patch from each node, past what stands in the way. Shape (N, P)."""
        factors = form_factors(patches.corners_m, self.points.positions_m, self.points.normals)
        half = len(self.owner) // 2
        seen = passing(self.points.positions_m[:half], patches.just_off_m, blockers)
        return np.asarray(factors * np.concatenate([seen, seen]))

    def sent_to_patches(self, seen: Array, patches: Patches) -> Array:
        """Mean lux on patches for each lux on each node. Shapes: seen (N, P); gives (P, N).

        Source: reciprocity, A_patch F(patch to node) = A_node F(node to patch).
        """
        half = len(seen) // 2
        turned = np.concatenate([seen[half:], seen[:half]])
        leaving = self.area_m2[:, None] * (self.back[:, None] * seen + self.through[:, None] * turned)
        return np.asarray(leaving.T / patches.area_m2[:, None])


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class LaterLight:
    """What lies on nodes and coarse patches beside the first light. Shapes (L, N), (L, P)."""

    on_nodes: Array
    on_walls: Array


@dataclass(frozen=True, kw_only=True, eq=False)
class LaterWays:
    """The ways of light between nodes and walls, whatever first lit them; computed when they are first asked for."""

    nodes: Nodes
    walls: Walls
    blockers: Blockers

    @cached_property
    def _pieces(self) -> dict[int, Array]:
        """Of coarse patches that had sharp light on them once, by their numbers."""
        return {}

    @cached_property
    def _factored(self) -> dict[Band, tuple[Array, np.ndarray]]:
        """Taken apart for some bands of light."""
        return {}

    def seen_pieces(self, patches: np.ndarray) -> Array:
        """Form factors of the fine pieces of some coarse patches from each node, side by side. Shape (N, K FINE^2)."""
        new = [at for at in patches.tolist() if at not in self._pieces]
        if new:
            fine = self.walls.fine.of_those(pieces_of(np.array(new)))
            found = self.nodes.seen_patches(fine, self.blockers).reshape(len(self.nodes.owner), len(new), -1)
            self._pieces.update((at, found[:, column]) for column, at in enumerate(new))
        return np.concatenate([self._pieces[at] for at in patches.tolist()], axis=1)

    @cached_property
    def seen(self) -> Array:
        """Form factor of each coarse patch from each node. Shape (N, P)."""
        return self.nodes.seen_patches(self.walls.coarse, self.blockers)

    @cached_property
    def between_walls(self) -> Array:
        """Form factors of coarse patches from each other, past what stands there. Shape (P, P)."""
        return _between_walls(self.walls, self.blockers)

    @cached_property
    def _kernel(self) -> Array:
        """Lux on nodes, then on patches, for each lux on a node and each lm/m2 off a patch. Shape (N + P, N + P)."""
        coarse, count = self.walls.coarse, len(self.nodes.owner)
        kernel = np.zeros((count + len(coarse.area_m2),) * 2)
        kernel[:count, :count] = self.nodes.sent_lx(self.nodes.points, self.blockers)
        kernel[:count, count:] = self.seen
        kernel[count:, :count] = self.nodes.sent_to_patches(self.seen, coarse)
        kernel[count:, count:] = self.between_walls
        return kernel

    def solved(self, given: Array, band: Band, tints: Array) -> Array:
        """All that lies on nodes, then on patches, with ``given`` there at first, in one band of light, of which each
        node makes ``tints`` (N,). Shapes (L, N + P).
        """
        if band not in self._factored:
            sends = np.concatenate([tints, self.walls.coarse.in_band(band)])
            matrix = np.eye(len(sends)) - self._kernel * sends
            self._factored[band] = lu_factor(matrix, overwrite_a=True, check_finite=False)
        return np.asarray(lu_solve(self._factored[band], given.T, check_finite=False).T)

    def light(
        self, first_on_nodes: Array, fine_lx: Array, fine_walls: int, band: Band = None, tints: Array | float = 1.0
    ) -> LaterLight:
        """``first_on_nodes`` (L, N): from other scatterers' first light; ``fine_lx`` (L, W): the first light on the
        walls, that of frames too. In one ``band`` of light, of which each node makes ``tints`` (N,); None: of all.
        """
        walls, count = self.walls, len(self.nodes.owner)
        first_on_walls = walls.on_coarse(fine_lx)
        if not count and not len(self.blockers):
            return LaterLight(on_nodes=first_on_nodes, on_walls=_in_empty_rooms(walls, first_on_walls, band))
        uneven = self._off_uneven_walls(fine_lx, first_on_walls, fine_walls, band)
        sent = (first_on_walls * walls.coarse.in_band(band)) @ self.between_walls.T
        given = np.concatenate([first_on_nodes + uneven, sent], axis=1)
        solved = self.solved(given, band, np.broadcast_to(tints, (count,)))
        return LaterLight(on_nodes=solved[:, :count], on_walls=solved[:, count:])

    def _off_uneven_walls(self, fine_lx: Array, coarse_lx: Array, fine_walls: int, band: Band) -> Array:
        """The first bounce on the nodes; the patches with the sharpest light on them piece by piece. Shape (L, N)."""
        fine, coarse, seen = self.walls.fine, self.walls.coarse, self.seen
        sends, fine_sends = coarse.in_band(band), fine.in_band(band)
        found = (coarse_lx * sends) @ seen.T
        if not len(coarse.area_m2) or not len(self.nodes.owner) or not fine_walls:
            return np.asarray(found)
        over = fine_lx.max(axis=0, initial=0.0)
        groups = (over * fine.area_m2).reshape(len(coarse.area_m2), -1)
        spread = (groups.max(axis=1) - groups.min(axis=1)) * coarse.reflectance
        sharp = np.argsort(-spread)[:fine_walls]
        sharp = sharp[spread[sharp] > 1e-3 * spread.max()]
        if not len(sharp):
            return np.asarray(found)
        pieces = pieces_of(sharp)
        found -= (coarse_lx[:, sharp] * sends[sharp]) @ seen[:, sharp].T
        return np.asarray(found + (fine_lx[:, pieces] * fine_sends[pieces]) @ self.seen_pieces(sharp).T)


def _in_empty_rooms(walls: Walls, first: Array, band: Band) -> Array:
    """Every later bounce, as solved once for each room."""
    found, start = np.zeros_like(first), 0
    for grid in walls.grids:
        end, solved = start + len(grid.solved), grid.solved_in(band)
        found[:, start:end] = first[:, start:end] @ solved.T - first[:, start:end]
        start = end
    return found


def _between_walls(walls: Walls, blockers: Blockers) -> Array:
    """Form factors of coarse patches from each other, past all that stands between them. Shape (P, P)."""
    factors, start = np.zeros((len(walls.coarse.area_m2),) * 2), 0
    off_walls_m = walls.coarse.just_off_m
    for grid in walls.grids:
        end = start + len(grid.factors)
        own = off_walls_m[start:end]
        factors[start:end, start:end] = grid.factors * passing(own, own, blockers)
        start = end
    return factors


def pieces_of(patches: np.ndarray) -> np.ndarray:
    """The numbers of the fine pieces of some coarse patches, patch by patch."""
    return np.asarray((patches[:, None] * FINE**2 + np.arange(FINE**2)).ravel())


def later_at_marks_lx(
    nodes: Nodes, on_nodes: Array, scatterers: Sequence[Scatterer], marks: Points, blockers: Blockers, a_side: int
) -> Array:
    """What lies on nodes at the marks by the scatterer that it met last, on a finer cut where a mark is near: what has
    been scattered is smooth. What goes on by lobes is left out. Shape (L, K, R).
    """
    found = np.zeros((len(on_nodes), len(scatterers), len(marks.normals)))
    for of, scatterer in enumerate(scatterers):
        near = int(np.ceil(points_for_near(scatterer.panel, marks.positions_m)))
        fine = min(max(a_side, near), _MOST_A_SIDE)
        between = np.kron(*(2 * (_polynomials(a_side, fine),)))
        finer = Nodes.of((scatterer,), fine).without_lobes(scatterer)
        halves = on_nodes[:, nodes.owner == of].reshape(len(on_nodes), 2, a_side**2) @ between.T
        found[:, of] = halves.reshape(len(on_nodes), 2 * fine**2) @ finer.sent_lx(marks, blockers).T
    return found


@cache
def _polynomials(known: int, wanted: int) -> Array:
    """Values at some Gauss points from those at fewer, by the polynomial through them. Shape (wanted, known)."""
    (places, _), (targets, _) = gauss_nodes(known), gauss_nodes(wanted)
    return np.asarray(legvander(targets, known - 1) @ np.linalg.inv(legvander(places, known - 1)))


def nodes_a_side(count: int, asked: int) -> int:
    """Nodes along each side of so many scatterers: as many as are asked for, while all together can be solved."""
    return min(asked, max(2, int(np.sqrt(_MOST_NODES / (2 * max(count, 1))))))


# Compiled where it is read, not where it is first called: the server's threads have too little stack for a compiler.
@njit(
    "float64[:,::1](float64[:,::1], float64[:,::1], float64[::1], float64[::1], float64[:,::1], float64[:,::1],"
    "boolean[::1], float64[::1])",
    cache=True,
    error_model="numpy",
)
def _node_lx(starts, leaving, back, through, ends, normals, domes, area):  # type: ignore[no-untyped-def]
    """Lux at receivers for each lux on matt nodes, with nothing in the way. Shape (R, N).

    Source: E = L cos(theta) cos(epsilon) A / r^2, or as a dome counts it; nearer than its own width a node is as large
    as its view.
    """
    found = np.zeros((len(ends), len(starts)))
    for end in range(len(ends)):
        for start in range(len(starts)):
            x, y, z = (
                ends[end, 0] - starts[start, 0],
                ends[end, 1] - starts[start, 1],
                ends[end, 2] - starts[start, 2],
            )
            far = x * x + y * y + z * z
            arriving = -(x * normals[end, 0] + y * normals[end, 1] + z * normals[end, 2])
            if domes[end]:
                arriving = (np.sqrt(far) + arriving) / 2.0
            if arriving > 0.0:
                out = x * leaving[start, 0] + y * leaving[start, 1] + z * leaving[start, 2]
                share = back[start] if out > 0.0 else through[start]
                found[end, start] = share * abs(out) * arriving / (far * max(np.pi * far, area[start]))
    return found
