"""What a clear surface throws back."""

import numpy as np

from iron_bucket.core.arrays import Array, Floats


def returned_each(cosine: Floats, index: float) -> tuple[Array, Array]:
    """Of light across the plane of incidence and along it, by the cosine to the normal and the refractive index.

    Source: Fresnel.
    """
    inside = np.sqrt(index**2 - 1.0 + np.square(cosine))
    across = np.square((cosine - inside) / (cosine + inside))
    along = np.square((index**2 * cosine - inside) / (index**2 * cosine + inside))
    return np.asarray(across), np.asarray(along)


def returned(cosine: Floats, index: float) -> Array:
    """Of light of no polarisation."""
    across, along = returned_each(cosine, index)
    return np.asarray((across + along) / 2.0)
