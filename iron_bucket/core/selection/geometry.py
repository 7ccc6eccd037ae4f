"""What each front does at one throw, as matrices over the direction grid.

Places across the subject run from the axis outwards; the subject's plane faces the source. Panels are sampled with
Gauss
points drawn towards the middle, so that a narrow spot on a large frame is not missed.
"""

from dataclasses import dataclass
from functools import cache

import numpy as np

from iron_bucket.core.arrays import Array, angle_rad
from iron_bucket.core.modifiers.lobe import is_matt, lobe_exponent, lobe_middle, lobe_peak
from iron_bucket.core.quadrature import gauss_nodes
from iron_bucket.core.selection.directions import grid_weights
from iron_bucket.core.selection.fronts import BOARD_ANGLE_DEG, BOARD_THROW_SHARE, Front, FrontKind

PANEL_NODES = 12
#: Share of the even spacing that is left in the middle of a panel: about seven times as many points there.
MIDDLE_SPACING = 0.15


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PanelMatrices:
    """Shapes: with F panels, M places and D directions: profile (D, F, M); caught, along2, across2, middle, rim (D, F).

    ``along2`` and ``across2``: squared offset from the panel's middle, each point counted by what it sends to the
    subject,
    because a light frost glows only where it hardly has to bend the light.
    """

    profile: Array
    caught: Array
    along2: Array
    across2: Array
    middle: Array
    rim: Array


@cache
def graded_nodes() -> tuple[Array, Array]:
    """Places from -1 to 1 and their weights, drawn to the middle. Shapes (PANEL_NODES,)."""
    nodes, weights = gauss_nodes(PANEL_NODES)
    places = MIDDLE_SPACING * nodes + (1.0 - MIDDLE_SPACING) * nodes**3
    return places, weights * (MIDDLE_SPACING + 3.0 * (1.0 - MIDDLE_SPACING) * nodes**2)


def open_matrix(throw_m: float, places_m: Array) -> Array:
    """Directions to levels at places across the subject, nothing in between; left and right averaged. Shape (D, M)."""
    gamma = np.degrees(np.arctan2(places_m, throw_m))
    level = np.cos(np.radians(gamma)) ** 3 / throw_m**2 / 2.0
    sides = np.array([[0.0], [180.0]])
    return grid_weights(gamma[None, :], sides, level[None, :], np.arange(len(places_m))[None, :], len(places_m))


def panel_matrices(fronts: tuple[Front, ...], throw_m: float, places_m: Array) -> PanelMatrices:
    """Frames and bounces: the two-stage integral, scattered part only, for a panel that passes (returns) everything."""
    sizes = [(part.width_m, part.height_m) for front in fronts if (part := front.frame or front.board)]
    size = np.array(sizes, dtype=float).reshape(len(fronts), 2)
    lobe = np.array([(front.cloth or front.board).lobe_deg for front in fronts])  # type: ignore[union-attr]
    is_board = np.array([front.kind is FrontKind.BOARD for front in fronts])
    head_m = np.where(is_board, throw_m * BOARD_THROW_SHARE, throw_m * np.array([front.head_share for front in fronts]))
    subject_m = np.where(is_board, throw_m, throw_m - head_m)
    turn = np.radians(np.where(is_board, BOARD_ANGLE_DEG, 0.0))
    places, weights = graded_nodes()
    x, y = (axis.ravel() for axis in np.meshgrid(places, places, indexing="ij"))
    across = size[:, :1] / 2 * x, size[:, 1:] / 2 * y  # (F, N) each
    area = np.outer(weights, weights).ravel() * size[:, :1] * size[:, 1:] / 4
    points = np.stack([across[0], across[1], np.zeros_like(across[0])], axis=-1)  # the panel lies in z = 0
    side = np.where(is_board, 1.0, -1.0)  # a bounce is lit from the side it sends the light to
    head = np.stack([-np.sin(turn) * head_m, np.zeros_like(turn), side * np.cos(turn) * head_m], axis=-1)
    rays = points - head[:, None, :]
    reach = np.linalg.norm(rays, axis=-1)
    gamma, azimuth = _head_angles(rays, reach, aim=-head / head_m[:, None])
    into = np.abs(rays[..., 2]) / reach / np.square(reach)  # illuminance per candela
    count = len(fronts)
    index = np.arange(count)

    def per_panel(weight: Array) -> Array:
        return grid_weights(gamma, azimuth, weight, index[:, None], count)

    leaving = _scattered(points, rays / reach[..., None], lobe, is_board, subject_m, turn, places_m)
    columns = index[:, None, None] * len(places_m) + np.arange(len(places_m))
    seen = into * area * leaving[..., 0]
    profile = grid_weights(
        gamma[..., None], azimuth[..., None], (into * area)[..., None] * leaving, columns, count * len(places_m)
    )
    middle, rim = (_spot_matrix(head, head_m, size, share, count) for share in (0.0, 1.0))
    return PanelMatrices(
        profile=profile.reshape(-1, count, len(places_m)),
        caught=per_panel(into * area),
        along2=per_panel(seen * np.square(across[0])),
        across2=per_panel(seen * np.square(across[1])),
        middle=middle,
        rim=rim,
    )


def _head_angles(rays: Array, reach: Array, aim: Array) -> tuple[Array, Array]:
    """Gamma and azimuth of rays from heads that look along ``aim``, upright. Shapes (F, N, 3), (F, N), (F, 3)."""
    sideways = np.stack([aim[:, 2], np.zeros(len(aim)), -aim[:, 0]], axis=-1)
    gamma = np.degrees(angle_rad(np.einsum("fnk,fk->fn", rays, aim) / reach))
    return gamma, np.degrees(np.arctan2(rays[..., 1], np.einsum("fnk,fk->fn", rays, sideways)))


def _scattered(
    points: Array,
    incoming: Array,
    lobe_deg: Array,
    is_board: np.ndarray,
    subject_m: Array,
    turn: Array,
    places_m: Array,
) -> Array:
    """Illuminance at the places per lumen that a panel point scatters. Shape (F, N, M)."""
    centre = np.stack([np.sin(turn) * subject_m, np.zeros_like(turn), np.cos(turn) * subject_m], axis=-1)
    facing = centre / subject_m[:, None]  # from the panel's middle to the subject's
    sideways = np.stack([np.cos(turn), np.zeros_like(turn), -np.sin(turn)], axis=-1)
    subject = centre[:, None, :] + places_m[None, :, None] * sideways[:, None, :]
    rays = subject[:, None, :, :] - points[:, :, None, :]
    reach2 = np.einsum("fnmk,fnmk->fnm", rays, rays)
    reach = np.sqrt(reach2)
    arriving = np.einsum("fnmk,fk->fnm", rays, facing) / reach
    lambert = np.abs(rays[..., 2]) / reach / np.pi
    mirror = np.stack([np.ones(len(turn)), np.ones(len(turn)), np.where(is_board, -1.0, 1.0)], axis=-1)
    exponents = lobe_exponent(lobe_deg)
    leaving = np.array([0.0, 0.0, 1.0])  # both a cloth and a bounce send towards +z
    middle = lobe_middle(incoming * mirror[:, None, :], leaving, lobe_deg[:, None])
    along = np.maximum(np.einsum("fnmk,fnk->fnm", rays, middle) / reach, 0.0)
    peak = np.array([lobe_peak(each, exponent) for each, exponent in zip(middle[..., 2], exponents, strict=True)])
    lobe = peak[..., None] * np.power(along, exponents[:, None, None])
    return np.asarray(np.where(is_matt(lobe_deg)[:, None, None], lambert, lobe) * np.maximum(arriving, 0.0) / reach2)


def _spot_matrix(head: Array, head_m: Array, size: Array, share: float, count: int) -> Array:
    """Illuminance at the panel's middle (share 0), or averaged over the middles of its four edges (share 1)."""
    edges = np.array([[1.0, 0.0], [-1.0, 0.0], [0.0, 1.0], [0.0, -1.0]]) * share / 2.0
    spots = np.concatenate([edges[None] * size[:, None, :], np.zeros((count, 4, 1))], axis=-1)
    rays = spots - head[:, None, :]
    reach = np.linalg.norm(rays, axis=-1)
    gamma, azimuth = _head_angles(rays, reach, aim=-head / head_m[:, None])
    weight = np.abs(rays[..., 2]) / reach**3 / 4.0
    return grid_weights(gamma, azimuth, weight, np.arange(count)[:, None], count)
