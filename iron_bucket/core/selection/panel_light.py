"""What every configuration gives through every frame and off every bounce, by where its light really starts.

Sources behind a lens are taken between matrices (``offsets``); a large face is looked at from several places, and there
are few sizes of it.
"""

from collections.abc import Hashable
from dataclasses import dataclass
from functools import partial

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.modifiers.lobe import LAMBERTIAN_DEG
from iron_bucket.core.selection.books import with_books
from iron_bucket.core.selection.fronts import Front, FrontKind
from iron_bucket.core.selection.geometry import FIGURES, Stage, faces_light, panel_matrix, stage_of
from iron_bucket.core.selection.offsets import between_offsets, offsets_m
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.threads import WORKERS, in_threads


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Panels:
    """The matrices of the P different panels of some fronts at one throw: one for each of some offsets (E,), each
    (the ``directions`` of D that any of them takes light from, P, M + 5); ``panel_of`` (F,), which of them each front
    has; ``faces`` (U, P, M + 5), of one candela on the axis of every size of even face; ``face_of``, which of them each
    evenly glowing head has, one after the other.
    """

    stage: Stage
    panel_of: np.ndarray
    offsets_m: Array
    directions: np.ndarray
    matrices: tuple[np.ndarray, ...]
    faces: Array
    face_of: np.ndarray


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PanelLight:
    """Of panels that pass, or return, everything: profile (C, F, M), the rest (C, F)."""

    profile: Array
    caught: Array
    along2: Array
    across2: Array
    middle: Array
    rim: Array


def panels_of(bench: PackedBench, fronts: tuple[Front, ...], throw_m: float, places_m: Array) -> Panels:
    """Laid out for all heads of a bench, with and without sheets on them."""
    distinct = {_kind_of(front): front for front in fronts}
    every, at_m = tuple(distinct.values()), offsets_m(bench, throw_m)
    stage = with_books(stage_of(every, throw_m, places_m), every, throw_m, places_m)
    faces_m, face_of = np.unique(face_spreads_m(bench)[bench.is_lambertian], axis=0, return_inverse=True)
    # The largest parts first, so that neither thread is left with one at the end.
    works = [partial(faces_light, stage, some) for some in np.array_split(faces_m, WORKERS)]
    works += [partial(panel_matrix, stage, float(offset_m)) for offset_m in at_m]
    parts = in_threads(lambda work: work(), works)
    faces, matrices = np.concatenate(parts[:WORKERS]), parts[WORKERS:]
    lit = np.flatnonzero(np.any([each.any(axis=(1, 2)) for each in matrices], axis=0))
    return Panels(
        stage=stage,
        offsets_m=at_m,
        directions=lit,
        matrices=tuple(each[lit].astype(np.float32) for each in matrices),
        panel_of=np.array([list(distinct).index(_kind_of(front)) for front in fronts], dtype=int),
        faces=faces,
        face_of=face_of,
    )


def _kind_of(front: Front) -> Hashable:
    """What alike panels share: cloths of one lobe in frames of one size differ by what they pass alone, and by nothing
    here. A book is its own.
    """
    surface, flat = front.board or front.cloth, front.flats[0]
    if front.kind is FrontKind.BOOK or surface is None:
        return front.key
    lobe_deg = min(surface.lobe_deg, LAMBERTIAN_DEG)
    return flat.width_m, flat.height_m, lobe_deg, front.head_share, front.kind


def panel_light(bench: PackedBench, panels: Panels) -> PanelLight:
    """Every configuration through every panel, at full output."""
    candela = bench.candela[:, panels.directions]
    sums = between_offsets(bench, candela, panels.offsets_m, panels.matrices, panels.stage.head_m[None, :, None])
    rows = np.flatnonzero(bench.is_lambertian)
    sums[rows] = bench.candela[rows, 0, None, None] * panels.faces[panels.face_of]
    sums = sums[:, panels.panel_of]
    figures = np.moveaxis(sums[..., -len(FIGURES) :], -1, 0)
    return PanelLight(profile=sums[..., : -len(FIGURES)], **dict(zip(FIGURES, figures, strict=True)))


def face_spreads_m(bench: PackedBench) -> Array:
    """Root of the mean square offset of a face's points from its middle, along and across. Shape (C, 2).

    Source: w / sqrt(12) of a strip, d / 4 of a disc.
    """
    sides_m = np.column_stack([bench.face_width_m, bench.face_height_m])
    return np.asarray(sides_m / np.where(bench.is_disc, 4.0, np.sqrt(12.0))[:, None])
