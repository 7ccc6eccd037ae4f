"""Whether a face or frame fits under a ceiling with the light where it has to be."""

import numpy as np

from iron_bucket.core.arrays import Array, Floats

#: Typical: the eyes of somebody seated; a key whose centre is lower lights from below.
SEATED_FACE_M = 1.3
#: Typical: room for corners, knuckles and the top of the stand.
CLEARANCE_M = 0.15


def needed_height_m(face_height_m: Floats) -> Array:
    """Ceiling that a face of this height needs: upright off the floor, and its centre not below a seated face.

    Source: docs/craft.md, section 7: a 2.4 m frame does not work under 2.44 m, a 1.8 m frame does.
    """
    return np.maximum(np.asarray(face_height_m) + CLEARANCE_M, SEATED_FACE_M + np.asarray(face_height_m) / 2.0)
