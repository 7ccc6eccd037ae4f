"""Lambertian faces in closed form: discs and rectangles before a receiver parallel to them, and how far inverse square
is out.
"""

import math

import numpy as np

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.checks import require_between, require_positive


def disc_illuminance_lx(luminance_cd_m2: Floats, radius_m: Floats, throw_m: Floats, offset_m: Floats = 0.0) -> Array:
    """Illuminance of a disc on a parallel receiver ``offset_m`` off its axis. Shapes: broadcast.

    Raises: BadValue if radius or throw is not above 0.
    Source: E = (pi L / 2) [1 - (d^2 + a^2 - r^2) / sqrt((d^2 + a^2 + r^2)^2 - 4 a^2 r^2)]; on axis pi L r^2/(r^2 +
        d^2).
    """
    require_positive("radius_m", radius_m, unit="m")
    require_positive("throw_m", throw_m, unit="m")
    near = np.square(throw_m) + np.square(offset_m)
    radius2 = np.square(radius_m)
    root = np.sqrt(np.square(near + radius2) - 4.0 * np.square(offset_m) * radius2)
    # The textbook form cancels far away; multiplied out, the numerator is a difference no more.
    return np.asarray(luminance_cd_m2 * np.pi / 2.0 * (root - near + radius2) / root)


def _corner(along_m: Array, across_m: Array, throw_m: Array) -> Array:
    """Half the illuminance per luminance of a rectangle seen from in front of its corner; odd in both sides."""
    a_root, b_root = np.hypot(along_m, throw_m), np.hypot(across_m, throw_m)
    return np.asarray(
        (along_m / a_root * np.arctan(across_m / a_root) + across_m / b_root * np.arctan(along_m / b_root)) / 2.0
    )


def rectangle_illuminance_lx(
    luminance_cd_m2: Floats, width_m: Floats, height_m: Floats, throw_m: Floats, x_m: Floats = 0.0, y_m: Floats = 0.0
) -> Array:
    """Illuminance of a rectangle on a parallel receiver shifted by x, y from its axis. Shapes: broadcast.

    Raises: BadValue if a side or the throw is not above 0.
    Source: corner formula of the docs/craft.md, section 2, by adding and subtracting four rectangles.
    """
    for field, value in (("width_m", width_m), ("height_m", height_m), ("throw_m", throw_m)):
        require_positive(field, value, unit="m")
    throw = np.asarray(throw_m, dtype=float)
    right, left = np.asarray(width_m) / 2.0 - x_m, np.asarray(width_m) / 2.0 + x_m
    top, bottom = np.asarray(height_m) / 2.0 - y_m, np.asarray(height_m) / 2.0 + y_m
    four = (
        _corner(right, top, throw)
        + _corner(right, bottom, throw)
        + _corner(left, top, throw)
        + _corner(left, bottom, throw)
    )
    return np.asarray(luminance_cd_m2 * four)


def inverse_square_error_distance_m(radius_m: float, error: float, *, over_true: bool) -> float:
    """Distance from which inverse square on a disc is out by no more than ``error``.

    Source: E_point/E = 1 + (r/d)^2; the error counts over the true level, or over the inverse-square one.
    """
    require_positive("radius_m", radius_m, unit="m")
    require_between("error", error, low=1e-6, high=0.99, unit="")
    return radius_m * math.sqrt(1.0 / error if over_true else 1.0 / error - 1.0)
