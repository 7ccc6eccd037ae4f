"""What every configuration gives through every frame and off every bounce, by where its light really starts.

Sources behind a lens are taken between matrices (``offsets``); a large face is looked at from several places, and there
are few sizes of it.
"""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.selection.books import with_books
from iron_bucket.core.selection.fronts import Front
from iron_bucket.core.selection.geometry import FIGURES, Stage, faces_light, panel_matrix, stage_of
from iron_bucket.core.selection.offsets import between_offsets, offsets_m
from iron_bucket.core.selection.packing import PackedBench


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Panels:
    """The matrices of some fronts at one throw: one for each of some offsets (E,), each (D, F, M + 5);
    ``faces`` (U, F, M + 5), of one candela on the axis of every size of even face; ``face_of``, which of them each
    evenly glowing head has, one after the other.
    """

    stage: Stage
    offsets_m: Array
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
    stage, at_m = stage_of(fronts, throw_m, places_m), offsets_m(bench, throw_m)
    stage = with_books(stage, fronts, throw_m, places_m)
    faces_m, face_of = np.unique(face_spreads_m(bench)[bench.is_lambertian], axis=0, return_inverse=True)
    return Panels(
        stage=stage,
        offsets_m=at_m,
        matrices=tuple(panel_matrix(stage, offset_m).astype(np.float32) for offset_m in at_m),
        faces=faces_light(stage, faces_m),
        face_of=face_of,
    )


def panel_light(bench: PackedBench, panels: Panels) -> PanelLight:
    """Every configuration through every panel, at full output."""
    sums = between_offsets(bench, panels.offsets_m, panels.matrices, panels.stage.head_m[None, :, None])
    rows = np.flatnonzero(bench.is_lambertian)
    sums[rows] = bench.candela[rows, 0, None, None] * panels.faces[panels.face_of]
    figures = np.moveaxis(sums[..., -len(FIGURES) :], -1, 0)
    return PanelLight(profile=sums[..., : -len(FIGURES)], **dict(zip(FIGURES, figures, strict=True)))


def face_spreads_m(bench: PackedBench) -> Array:
    """Root of the mean square offset of a face's points from its middle, along and across. Shape (C, 2).

    Source: w / sqrt(12) of a strip, d / 4 of a disc.
    """
    sides_m = np.column_stack([bench.face_width_m, bench.face_height_m])
    return np.asarray(sides_m / np.where(bench.is_disc, 4.0, np.sqrt(12.0))[:, None])
