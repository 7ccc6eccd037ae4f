"""Whether a face or frame fits under a ceiling with the light where it has to be."""

import numpy as np

from iron_bucket.core.arrays import Array, Floats

#: Typical: the eyes of somebody seated; a key whose centre is lower lights from below.
SEATED_FACE_M = 1.3
#: Typical: room for corners, knuckles and the top of the stand.
CLEARANCE_M = 0.15


#: Typical: from the middle of a head to its top.
HALF_HEAD_M = 0.2


def top_of_head_m(middle_m: float) -> float:
    """Upper edge of a head whose middle hangs at a height."""
    return middle_m + HALF_HEAD_M


def top_of_flat_m(middle_m: float, height_m: float, tilt_deg: float) -> float:
    """Upper edge of a frame or flag. Source: a flat of height h, tilted by t, stands h cos t high."""
    return middle_m + height_m * float(np.cos(np.radians(tilt_deg))) / 2.0


def highest_head_m(ceiling_m: float) -> float:
    """The highest that the middle of a head goes under a ceiling, with room for its stand."""
    return ceiling_m - HALF_HEAD_M - CLEARANCE_M


def needed_height_m(face_height_m: Floats) -> Array:
    """Ceiling that a face of this height needs: upright off the floor, and its centre not below a seated face.

    Source: docs/craft.md, section 7: a 2.4 m frame does not work under 2.44 m, a 1.8 m frame does.
    """
    return np.maximum(np.asarray(face_height_m) + CLEARANCE_M, SEATED_FACE_M + np.asarray(face_height_m) / 2.0)
