"""Frames, bounces and mirrors: what of every head comes through, off, past and out of them."""

from math import prod

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.modifiers.lobe import MIRROR_DEG
from iron_bucket.core.selection.fronts import BOARD_ANGLE_DEG, BOARD_THROW_SHARE, Front, FrontKind
from iron_bucket.core.selection.open_light import open_profile_lx
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.selection.panel_light import PanelLight
from iron_bucket.core.selection.places import DARK_LX, between_smooth

_BOTH_SIDES = np.array([-1.0, 1.0])


def panel_profile(
    bench: PackedBench, fronts: tuple[Front, ...], light: PanelLight, open_profile: Array, places_m: Array, gain: Array
) -> tuple[Array, Array, Array]:
    """Scattered plus straight light behind frames, scattered light off bounces (C, F, M); share of the scattered on
    the axis (C, F); what of the first goes past a frame's edge (C, F, M).

    ``gain`` (C, F): what a meter found of the cloth or board, over its own figure.
    """
    passes = np.array([prod(figure.value for _, figure in front.passing) for front in fronts])
    is_frame = np.array([front.kind is FrontKind.FRAME for front in fronts])[:, None]
    straight = (
        np.array([front.cloth.straight_share if front.cloth else 0.0 for front in fronts]) * passes * is_frame[:, 0]
    )
    scattered = light.profile * ((passes - straight)[None, :] * gain).astype(np.float32)[..., None]
    scattered = between_smooth(scattered, places_m)
    frame_m = np.array([(front.frame.width_m, front.frame.height_m) if front.frame else (0.0, 0.0) for front in fronts])
    nearer = 1.0 - np.array([front.head_share for front in fronts])[:, None]
    edges_m = frame_m[:, None, :1] / 2.0 * _BOTH_SIDES / nearer[..., None]
    edges_m = edges_m + (places_m * (1.0 - 1.0 / nearer))[..., None]
    through = _seen_part(bench, edges_m, frame_m[:, 1] / nearer[:, 0])  # of the rest the ray goes past, unhindered
    spill = open_profile[:, None, :] * (1.0 - through) * is_frame
    profile = (
        scattered
        + open_profile[:, None, :] * through * (straight[None, :] * gain).astype(np.float32)[..., None]
        + spill
    )
    return profile, scattered[..., 0] / np.maximum(profile[..., 0], DARK_LX), spill


def _seen_part(bench: PackedBench, edges_m: Array, height_m: Array) -> Array:
    """Part of each head that places see through windows; of a face some, of a point all or none.

    Shapes: edges_m (F, M, 2), where the rays from a place past a window's edges meet the head's plane, off its axis;
    height_m (F,), of the window seen there; gives (C, F, M).
    """
    is_seen = (edges_m[..., 0] <= 0.0) & (edges_m[..., 1] >= 0.0)
    part = np.repeat(is_seen[None].astype(np.float32), len(bench.configurations), axis=0)
    rows = bench.is_lambertian
    sides_m = np.column_stack([bench.face_width_m, bench.face_height_m])[rows, :, None, None]
    first, last = (np.clip(edges_m[..., at] / sides_m[:, 0], -0.5, 0.5) for at in (0, 1))
    across = np.where(bench.is_disc[rows, None, None], _disc_up_to(last) - _disc_up_to(first), last - first)
    part[rows] = across * np.minimum(height_m[:, None] / sides_m[:, 1], 1.0)
    return np.asarray(part)


def _disc_up_to(place: Array) -> Array:
    """Share of a disc's area between its middle and a place, -0.5 to 0.5 of its width."""
    return np.asarray((2.0 * place * np.sqrt(1.0 - 4.0 * np.square(place)) + np.arcsin(2.0 * place)) / np.pi)


def panels_among(bench: PackedBench) -> tuple[Front, ...]:
    """The frames and bounces of a bench."""
    return tuple(front for front in bench.fronts if front.kind.stands_free)


def mirrors_among(bench: PackedBench) -> list[int]:
    """The fronts that show the head instead of glowing."""
    return [at for at, front in enumerate(bench.fronts) if front.board and front.board.lobe_deg < MIRROR_DEG]


def mirror_profile(bench: PackedBench, front: Front, throw_m: float, places_m: Array) -> Array:
    """The head's image in a mirror, as far behind the glass as the head stands before it. Shape (C, M).

    Source: docs/craft.md, section 3, the image of the head at d1 + d2 times rho; the glass is its window.
    """
    board, before_m = front.board, throw_m * BOARD_THROW_SHARE
    if board is None:
        raise ValueError("a front without a board is no mirror")
    whole_m = before_m + throw_m
    turn, sides_m = np.radians(BOARD_ANGLE_DEG), board.width_m / 2.0 * _BOTH_SIDES
    onward = whole_m / (throw_m - sides_m * np.sin(turn))
    edges_m = places_m[:, None] + onward * (sides_m * np.cos(turn) - places_m[:, None])
    seen = _seen_part(bench, edges_m[None], np.array([board.height_m * whole_m / throw_m]))[:, 0]
    return np.asarray(board.reflectance.value * open_profile_lx(bench, whole_m, places_m) * seen)


def panel_figures(bench: PackedBench, fronts: tuple[Front, ...], light: PanelLight) -> tuple[Array, Array, Array]:
    """Share of the flux caught, stops from middle to rim, size of the lit part. Shapes (C, F)."""
    seen = np.maximum(light.profile[..., 0], DARK_LX)
    # An even strip of width w has a mean square offset of w^2 / 12.
    width, height = np.sqrt(12.0 * light.along2 / seen), np.sqrt(12.0 * light.across2 / seen)
    outer = np.array([(part.width_m, part.height_m) for front in fronts if (part := front.frame or front.board)])
    size = np.sqrt(np.minimum(width, outer[:, 0]) * np.minimum(height, outer[:, 1]))
    rim_stops = np.log2(np.maximum(light.middle, DARK_LX) / np.maximum(light.rim, DARK_LX))
    return np.minimum(light.caught / bench.lumens[:, None], 1.0), rim_stops, size
