"""What each front does at one throw, as matrices over the direction grid.

Places across the subject run from the axis outwards; the subject's plane faces the source. Panels are sampled with
Gauss points drawn towards the middle, so that a narrow spot on a large frame is not missed.
"""

from dataclasses import dataclass, field, fields
from functools import cache, lru_cache
from typing import NamedTuple

import numpy as np

from iron_bucket.core.arrays import Array, angle_rad, lengths, units
from iron_bucket.core.modifiers.lobe import is_matt, lobe_exponent, lobe_middle, lobe_peak, lobes_lx
from iron_bucket.core.quadrature import gauss_nodes
from iron_bucket.core.selection.directions import CELLS, add_weights, grid_weights
from iron_bucket.core.selection.fronts import BOARD_ANGLE_DEG, BOARD_THROW_SHARE, Front
from iron_bucket.core.selection.offsets import NEAREST_M

PANEL_NODES = 12
#: Share of the even spacing that is left in the middle of a panel: about seven times as many points there.
MIDDLE_SPACING = 0.15
#: What is summed of a panel beside its levels, in this order: flux caught; squared offsets from its middle along and
#: across, each point counted by what it sends to the subject, because a light frost glows only where it hardly has to
#: bend the light; levels at its middle and at its rim.
FIGURES = ("caught", "along2", "across2", "middle", "rim")
#: Where a glowing face is looked at from a panel: across three places, up two, of which the lower sees the same. In
#: offsets from its middle by the root of their mean square, with the share of the face that each stands for.
FACE_PLACES = ((-np.sqrt(1.8), 1.0, 5 / 18), (0.0, 1.0, 4 / 9), (np.sqrt(1.8), 1.0, 5 / 18))


@cache
def graded_nodes() -> tuple[Array, Array]:
    """Places from -1 to 1 and their weights, drawn to the middle. Shapes (PANEL_NODES,)."""
    nodes, weights = gauss_nodes(PANEL_NODES)
    places = MIDDLE_SPACING * nodes + (1.0 - MIDDLE_SPACING) * nodes**3
    return places, weights * (MIDDLE_SPACING + 3.0 * (1.0 - MIDDLE_SPACING) * nodes**2)


def open_matrix(throw_m: float, places_m: Array, offset_m: float) -> Array:
    """Directions to levels at places across the subject, nothing in between, from a source ``offset_m`` behind its
    housing; left and right averaged. Shape (D, M).
    """
    from_m = max(throw_m + offset_m, NEAREST_M)
    gamma = np.degrees(np.arctan2(places_m, from_m))
    level = np.cos(np.radians(gamma)) ** 3 / from_m**2 / 2.0
    count = len(places_m)
    sides, each = np.repeat([0.0, 180.0], count), np.arange(count)
    return grid_weights(np.tile(gamma, 2), sides, np.tile(level, 2)[:, None], np.tile(each, 2), count)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Stage:
    """Frames and bounces at one throw, each with a head before it and a subject that it sends light to.

    Shapes: F panels of N points, M places at the subject: size_m (F, 2), points (F, N, 3), area (F, N), head_m, lobe
    (F,), aim of the head and normal of the panel (F, 3); ``matt`` (F, N, M) is the illuminance there per lumen that a
    point scatters by Lambert, ``subject_m`` (F, M, 3) the places, ``ways`` (F, N, M, 3) where each lies, ``arriving``
    (F, N, M) what a candela towards it gives; ``squares_m2`` (F, N, 2): squared offsets from the middle of what the
    subject sees. ``beside``: further panels that the same heads light, each counted to one of these.
    """

    size_m: Array
    lobe_deg: Array
    is_board: np.ndarray
    head_m: Array
    aim: Array
    normal: Array
    points: Array
    area: Array
    matt: Array
    subject_m: Array
    ways: Array
    arriving: Array
    squares_m2: Array
    beside: "Stage | None" = None
    beside_of: np.ndarray = field(default_factory=lambda: np.zeros(0, dtype=int))

    def of_those(self, chosen: np.ndarray) -> "Stage":
        """Some panels alone."""
        names = [each.name for each in fields(self) if not each.name.startswith("beside")]
        return Stage(**{name: getattr(self, name)[chosen] for name in names})

    @property
    def lobed(self) -> np.ndarray:
        """The panels that are not matt, by their numbers."""
        return np.flatnonzero(~is_matt(self.lobe_deg))


def stage_of(fronts: tuple[Front, ...], throw_m: float, places_m: Array) -> Stage:
    """Where everything stands."""
    sizes = [(front.flats[0].width_m, front.flats[0].height_m) for front in fronts]
    size = np.array(sizes, dtype=float).reshape(len(fronts), 2)
    lobe = np.array([(front.board or front.cloth).lobe_deg for front in fronts])  # type: ignore[union-attr]
    is_board = np.array([bool(front.board) for front in fronts])
    head_m = np.where(is_board, throw_m * BOARD_THROW_SHARE, throw_m * np.array([front.head_share for front in fronts]))
    subject_m = np.where(is_board, throw_m, throw_m - head_m)
    turn = np.radians(BOARD_ANGLE_DEG) * is_board
    none = np.zeros_like(turn)
    side = np.where(is_board, 1.0, -1.0)  # a bounce is lit from the side it sends the light to
    flats = [panel_points(width_m, height_m) for width_m, height_m in size]
    points, area = (np.array([flat[at] for flat in flats]) for at in (0, 1))  # the panel lies in z = 0
    facing = np.column_stack([np.sin(turn), none, np.cos(turn)])  # from the panel's middle to the subject's
    sideways = np.column_stack([np.cos(turn), none, -np.sin(turn)])
    subject = facing[:, None, :] * subject_m[:, None, None] + places_m[None, :, None] * sideways[:, None, :]
    rays = subject[:, None, :, :] - points[:, :, None, :]
    reach2 = np.einsum("fnmk,fnmk->fnm", rays, rays)
    ways = rays / np.sqrt(reach2)[..., None]
    arriving = np.maximum(np.einsum("fnmk,fk->fnm", ways, facing), 0.0) / reach2
    return Stage(
        size_m=size,
        lobe_deg=lobe,
        is_board=is_board,
        head_m=head_m,
        aim=np.column_stack([np.sin(turn), none, -side * np.cos(turn)]),
        normal=np.tile([0.0, 0.0, 1.0], (len(fronts), 1)),
        points=points,
        area=area,
        matt=np.abs(ways[..., 2]) / np.pi * arriving,
        subject_m=subject,
        ways=ways,
        arriving=arriving,
        squares_m2=np.square(points[..., :2]),
    )


@lru_cache(maxsize=1000)
def panel_points(width_m: float, height_m: float) -> tuple[Array, Array]:
    """Points of a flat about its middle, in z = 0, and the area that each stands for. Shapes (N, 3), (N,)."""
    places, weights = graded_nodes()
    x, y = (axis.ravel() for axis in np.meshgrid(places, places, indexing="ij"))
    points = np.column_stack([width_m / 2 * x, height_m / 2 * y, np.zeros_like(x)])
    return points, np.outer(weights, weights).ravel() * width_m * height_m / 4


def panel_matrix(stage: Stage, offset_m: float) -> Array:
    """The two-stage integral, scattered part only, of panels that pass (return) everything, from sources ``offset_m``
    behind their housings: levels at the places, then ``FIGURES``. Shape (D, F, M + 5).
    """
    head = _heads(stage, offset_m)
    count, wide = len(head), stage.matt.shape[2] + len(FIGURES)
    first, found = np.arange(count) * wide, np.zeros((CELLS, count * wide))
    gamma, azimuth, into = _from_head(stage, head, stage.points)
    _add_by_direction(found, gamma, azimuth, _sums(stage, into, _leaving(stage, head)), first)
    gamma, azimuth, into = _from_head(stage, head, _spots(stage))
    _add_by_direction(found, gamma, azimuth, into[..., None] * _SHARE_OF_SPOT, first + wide - 2)
    found = found.reshape(-1, count, wide)
    if stage.beside is not None:
        found[:, stage.beside_of, :-2] += panel_matrix(stage.beside, offset_m)[..., :-2]
    return found


def _add_by_direction(found: Array, gamma: Array, azimuth: Array, sums: Array, first: np.ndarray) -> None:
    """The points of every panel (F, N), with what each counts (F, N, W) from the panel's ``first`` column on."""
    rows = sums.reshape(-1, sums.shape[-1])
    add_weights(found, gamma.ravel(), azimuth.ravel(), rows, np.repeat(first, gamma.shape[1]))


def faces_light(stage: Stage, faces_m: Array) -> Array:
    """The same of evenly glowing faces for each candela on their axis, by the roots of their mean square offsets along
    and across. Shapes (U, 2) to (U, F, M + 5).

    Source: a Lambertian face is many small ones that each send by the cosine.
    """
    heads, share = _face_places(stage, faces_m)
    found = np.zeros((len(faces_m), len(stage.area), stage.matt.shape[2] + len(FIGURES)))
    lit = _by_cosine(stage, heads, stage.points) * share * stage.area
    every = _of_faces(lit)
    matt, lobed = np.flatnonzero(is_matt(stage.lobe_deg)), stage.lobed
    found[:, matt, :-2] = _summed(every[:, matt], stage.matt[matt], stage.squares_m2[matt])
    found[:, lobed, :-2] = _of_faces(_lobed_sums(stage, heads, lit))
    found[..., -2:] = _of_faces(_by_cosine(stage, heads, _spots(stage)) * share) @ _SHARE_OF_SPOT
    if stage.beside is not None:
        found[:, stage.beside_of, :-2] += faces_light(stage.beside, faces_m)[..., :-2]
    return found


def _face_places(stage: Stage, faces_m: Array) -> tuple[Array, Array]:
    """Where faces are looked at, of each size one place after the other, and what share each stands for. Shapes
    (U * 3, F, 3), (U * 3, 1, 1).
    """
    along, across, share = np.array(FACE_PLACES).T
    sideways, upwards = _sideways(stage.aim), np.array([0.0, 1.0, 0.0])
    off = (faces_m[:, :1] * along).reshape(-1, 1, 1) * sideways
    off = off + (faces_m[:, 1:] * across).reshape(-1, 1, 1) * upwards
    return _heads(stage, 0.0) + off, np.tile(share, len(faces_m))[:, None, None]


def _of_faces(by_place: Array) -> Array:
    """Summed over the places of each face. Shapes (U * 3, ...) to (U, ...)."""
    places = len(FACE_PLACES)
    return np.asarray(by_place.reshape(len(by_place) // places, places, *by_place.shape[1:]).sum(axis=1))


def _lobed_sums(stage: Stage, heads: Array, lit: Array) -> Array:
    """``_sums`` of the panels that are not matt, already added up over the points, for several heads of each. Shapes
    (L, F, 3), (L, F, N) to (L, the lobed of F, M + 3).
    """
    lobed = stage.lobed
    levels = np.empty((len(heads), len(lobed), stage.matt.shape[2]))
    spread = np.empty((len(heads), len(lobed), 2))
    for lobe_deg in np.unique(stage.lobe_deg[lobed]):
        alike = np.flatnonzero(stage.lobe_deg[lobed] == lobe_deg)
        middles = _lobe_middles(stage, lobed[alike], heads[:, lobed[alike]])
        exponent = float(lobe_exponent(lobe_deg))
        peaks = lobe_peak(middles[..., 2], exponent) * lit[:, lobed[alike]]
        for at, peak, middle in zip(alike, peaks.swapaxes(0, 1), middles.swapaxes(0, 1), strict=True):
            of = _Lobed(stage, lobed[at], exponent, np.ascontiguousarray(middle))
            levels[:, at] = of.lit_lx(peak)
            for axis in (0, 1):
                counted = peak * stage.squares_m2[lobed[at], :, axis]
                spread[:, at, axis] = of.lit_lx(counted, places=1)[:, 0]
    return np.concatenate([levels, lit[:, lobed].sum(axis=-1, keepdims=True), spread], axis=-1)


class _Lobed(NamedTuple):
    """One panel, and where each of its points sends the most of each head's light (L, N, 3)."""

    stage: Stage
    panel: int
    exponent: float
    middles: Array

    def lit_lx(self, peaks: Array, places: int | None = None) -> Array:
        """Levels at the first of the places, from the candela in the middle of the lobes. Shapes (L, N) to (L, M)."""
        stage, panel = self.stage, self.panel
        arriving, ends_m = stage.arriving[panel, :, :places], stage.subject_m[panel, :places]
        return lobes_lx(peaks, self.middles, stage.points[panel], ends_m, arriving, self.exponent)


def _heads(stage: Stage, offset_m: float) -> Array:
    return -stage.aim * np.maximum(stage.head_m + offset_m, NEAREST_M)[:, None]


def _sideways(aim: Array) -> Array:
    """Level and square to the aim, of heads that stand upright. Shape (F, 3)."""
    return np.column_stack([aim[:, 2], np.zeros(len(aim)), -aim[:, 0]])


def _from_head(stage: Stage, head: Array, points: Array) -> tuple[Array, Array, Array]:
    """Gamma and azimuth of points on the panels from their heads, and the illuminance there per candela. Shapes
    (F, N).
    """
    rays = points - head[:, None, :]
    reach = lengths(rays)
    gamma = np.degrees(angle_rad(_along(rays, stage.aim) / reach))
    azimuth = np.degrees(np.arctan2(rays[..., 1], _along(rays, _sideways(stage.aim))))
    return gamma, azimuth, np.abs(_along(rays, stage.normal)) / reach**3


def _along(rays: Array, ways: Array) -> Array:
    """How far each goes its panel's way. Shapes (..., F, N, 3), (F, 3) to (..., F, N)."""
    return np.asarray(np.matmul(rays, ways[..., None])[..., 0])


def _by_cosine(stage: Stage, heads: Array, points: Array) -> Array:
    """Illuminance there of one candela on the axis of small even faces. Shapes (L, F, 3), (F, N, 3) to (L, F, N)."""
    # Every ray's products from those of its ends: the rays themselves would be thrice as much to go through.
    ahead, off = (
        _along(points, way) - np.einsum("lfk,fk->lf", heads, way)[..., None] for way in (stage.aim, stage.normal)
    )
    together = np.matmul(heads.swapaxes(0, 1), points.swapaxes(1, 2)).swapaxes(0, 1)
    apart2 = np.square(points).sum(axis=-1) + np.square(heads).sum(axis=-1)[..., None] - 2.0 * together
    return np.asarray(np.maximum(ahead, 0.0) * np.abs(off) / np.square(apart2))


def _summed(lit: Array, leaving: Array, squares_m2: Array) -> Array:
    """``_sums``, already added up over the points. Shapes (U, F, N), (F, N, M), (F, N, 2) to (U, F, M + 3)."""
    counted = np.concatenate([leaving, np.ones_like(squares_m2[..., :1]), leaving[..., :1] * squares_m2], axis=-1)
    return np.moveaxis(np.matmul(np.moveaxis(lit, 0, 1), counted), 1, 0)


def _sums(stage: Stage, into: Array, leaving: Array) -> Array:
    """What each point counts towards the levels, the flux and the squared offsets. Shapes (F, N), (F, N, M) to (F, N,
    M + 3).
    """
    lit = (into * stage.area)[..., None]
    seen = leaving[..., :1]
    return np.asarray(lit * np.concatenate([leaving, np.ones_like(seen), seen * stage.squares_m2], -1))


def _leaving(stage: Stage, head: Array) -> Array:
    """Illuminance at the places per lumen that a panel point scatters of a head's light. Shape (F, N, M)."""
    found = stage.matt.copy()
    found[stage.lobed] = _lobes(stage, head)
    return found


def _lobes(stage: Stage, head: Array) -> Array:
    """The same of the panels that are not matt, alone."""
    lobed, lobe_deg = stage.lobed, stage.lobe_deg[stage.lobed]
    middle = _lobe_middles(stage, lobed, head[lobed])
    found = np.maximum(np.matmul(stage.ways[lobed], middle[..., None])[..., 0], 0.0)
    for at, exponent in enumerate(lobe_exponent(lobe_deg)):
        np.power(found[at], exponent, out=found[at])
        found[at] *= lobe_peak(middle[at, :, 2], exponent)[:, None]
    return np.asarray(found * stage.arriving[lobed])


def _lobe_middles(stage: Stage, panels: np.ndarray, heads: Array) -> Array:
    """Where panels send the most of heads' light. Shapes (P,), (..., P, 3) to (..., P, N, 3)."""
    incoming = units(stage.points[panels] - heads[..., None, :])
    incoming[..., 2] *= np.where(stage.is_board[panels], -1.0, 1.0)[:, None]  # a bounce mirrors, a cloth lets on
    return lobe_middle(incoming, np.array([0.0, 0.0, 1.0]), stage.lobe_deg[panels, None])


#: How the five spots of a panel make up its middle and, averaged, its rim.
_SHARE_OF_SPOT = np.array([[1.0, 0.0], *[[0.0, 0.25]] * 4])


def _spots(stage: Stage) -> Array:
    """The middle of each panel, and those of its four edges. Shape (F, 5, 3)."""
    places = np.array([[0.0, 0.0], [1.0, 0.0], [-1.0, 0.0], [0.0, 1.0], [0.0, -1.0]]) / 2.0
    return np.concatenate([places * stage.size_m[:, None, :], np.zeros((len(stage.size_m), 5, 1))], axis=-1)
