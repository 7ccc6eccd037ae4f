"""What holds a beam to the width that is asked for, so that nothing beside it is lit."""

from dataclasses import dataclass

import numpy as np
from scipy.optimize import brentq

from iron_bucket.core.modifiers.beam_cut import between_leaves, field_tangent
from iron_bucket.core.selection.fit import Fit
from iron_bucket.core.selection.fronts import FrontKind
from iron_bucket.core.selection.need import Need

#: A beam that covers so many times what is asked for spills.
_SPILLS = 1.2
#: Two circles share a half where they are so many of their diameters apart.
_HALF_APART = 0.404


@dataclass(frozen=True, slots=True, kw_only=True)
class Holding:
    """Each by itself: leaves left and right opened to ``doors_deg``, a tube of ``snoot_m`` as wide as the lens, or the
    gate of a profile spot closed to ``iris`` of its field. Half of the light is left at the edges of the width.
    """

    doors_deg: float
    snoot_m: float
    iris: float


def holding(fit: Fit, need: Need) -> Holding | None:
    """None where no width is asked for, the beam spills nothing, or what stands before the head shapes it."""
    shape = fit.configuration
    if need.width_m is None or fit.front.kind is not FrontKind.OPEN or shape.is_lambertian:
        return None
    if fit.coverage_m < _SPILLS * need.width_m:
        return None
    tangent = need.width_m / 2.0 / need.throw_m
    return Holding(
        doors_deg=brentq(lambda deg: float(between_leaves(deg, deg, np.array(tangent))) - 0.5, -30.0, 89.9),
        snoot_m=_HALF_APART * shape.face.width_m / tangent,
        iris=min(tangent / field_tangent(shape.distribution), 1.0),
    )
