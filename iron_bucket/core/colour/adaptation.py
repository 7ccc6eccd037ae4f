"""How lights look to a camera that is balanced for one of them."""

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.colour.white import uv_from_xyz, xyz_from_uv

#: Source: CAT16 (Li et al., Color Research and Application 42 (2017), 703), adapted in full.
_CAT16 = np.array([[0.401288, 0.650173, -0.051461], [-0.250268, 1.204414, 0.045854], [-0.002079, 0.048952, 0.953127]])
#: Source: IEC 61966-2-1, linear sRGB from X, Y, Z; its white is D65.
_SRGB_FROM_XYZ = np.linalg.inv(np.array([[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]]))
_D65_XYZ = np.array([0.9505, 1.0, 1.0890])


def adapted(xyz: Array, white_xyz: Array, to_white_xyz: Array) -> Array:
    """What looks under the one white as ``xyz`` does under the other. Shapes (..., 3), (3,), (3,) to (..., 3)."""
    ratio = (_CAT16 @ to_white_xyz) / (_CAT16 @ white_xyz)
    return np.asarray(xyz @ _CAT16.T * ratio @ np.linalg.inv(_CAT16).T)


def screen_rgb(uv: Array, white_uv: Array) -> Array:
    """Red, green and blue up to 1 of lights on a screen, the brightest channel full; what a screen cannot show is
    paler. Shapes (..., 2), (2,) to (..., 3).
    """
    linear = adapted(xyz_from_uv(uv), xyz_from_uv(white_uv), _D65_XYZ) @ _SRGB_FROM_XYZ.T
    lowest = np.minimum(linear.min(axis=-1, keepdims=True), 0.0)
    paler = (linear - lowest) / (linear - lowest).max(axis=-1, keepdims=True)
    # Source: IEC 61966-2-1, the curve of a screen.
    return np.asarray(np.where(paler <= 0.0031308, 12.92 * paler, 1.055 * np.maximum(paler, 1e-9) ** (1 / 2.4) - 0.055))


def from_screen(rgb: Array, white_uv: Array) -> Array:
    """The light that a white balance sees as linear red, green and blue. Shapes (3,), (2,) to CIE 1960 (2,)."""
    xyz = np.linalg.inv(_SRGB_FROM_XYZ) @ rgb
    return uv_from_xyz(adapted(xyz, _D65_XYZ, xyz_from_uv(white_uv)))
