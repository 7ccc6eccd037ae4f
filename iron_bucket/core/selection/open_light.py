"""What every configuration gives across the subject with nothing in between, at full output."""

from functools import lru_cache

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.faces import disc_illuminance_lx, rectangle_illuminance_lx
from iron_bucket.core.selection.geometry import open_matrix
from iron_bucket.core.selection.offsets import between_offsets, offsets_m
from iron_bucket.core.selection.packing import PackedBench


def open_profile_lx(bench: PackedBench, throw_m: float, places_m: Array) -> Array:
    """Levels across the subject with nothing in between. Shape (C, M)."""
    at_m = offsets_m(bench, throw_m)
    matrices = tuple(open_matrix(throw_m, places_m, offset_m).astype(np.float32) for offset_m in at_m)
    profile = between_offsets(bench, bench.candela, at_m, matrices, np.array(throw_m))
    point = throw_m**2 / np.square(throw_m**2 + np.square(places_m))  # Lambertian, per candela of the axis
    for mask, law in (
        (bench.is_lambertian & bench.is_disc, disc_law),
        (bench.is_lambertian & ~bench.is_disc, rectangle_law),
    ):
        if mask.any():
            profile[mask] *= law(bench.face_width_m[mask], bench.face_height_m[mask], throw_m, places_m) / point
    return profile


@lru_cache(maxsize=8)
def open_levels_lx(bench: PackedBench, throw_m: float) -> Array:
    """Level on the axis of every configuration with nothing in between, at full output. Shape (C,); read only. Every
    chain begins with it.
    """
    found = np.asarray(open_profile_lx(bench, throw_m, np.zeros(1))[:, 0], dtype=float)
    found.flags.writeable = False
    return found


def disc_law(width_m: Array, height_m: Array, throw_m: float, places_m: Array) -> Array:
    """Illuminance per candela of axial intensity. Shapes (N,), (N,), scalar, (M,) to (N, M)."""
    radius = np.sqrt(width_m * height_m)[:, None] / 2.0
    return disc_illuminance_lx(1.0 / (np.pi * radius**2), radius, throw_m, places_m[None, :])


def rectangle_law(width_m: Array, height_m: Array, throw_m: float, places_m: Array) -> Array:
    """The same for rectangles."""
    area = (width_m * height_m)[:, None]
    return rectangle_illuminance_lx(1.0 / area, width_m[:, None], height_m[:, None], throw_m, places_m[None, :])
