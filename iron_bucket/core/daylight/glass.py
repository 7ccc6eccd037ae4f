"""What a double pane loses to light that falls on it slantwise."""

import numpy as np

from iron_bucket.core.arrays import Array, Floats
from iron_bucket.core.photometry.fresnel import returned_each

#: Window glass.
_INDEX = 1.52
#: Surfaces of two panes, less one: light thrown to and fro between all of them still comes through.
_AND_AGAIN = 3.0


def slant_share(cosine: Floats) -> Array:
    """Of what the panes pass straight on, what they pass at an angle, from the cosine to their normal.

    Source: Fresnel, both polarisations alike; of m panes with R a surface (1 - R) / (1 + (2 m - 1) R).
    """
    return np.asarray(_passes(np.maximum(np.abs(cosine), 1e-6)) / _passes(np.array(1.0)))


def _passes(cosine: Array) -> Array:
    """Of both polarisations together."""
    returned = returned_each(cosine, _INDEX)
    return np.asarray(sum((1.0 - each) / (1.0 + _AND_AGAIN * each) for each in returned))


#: The same for cosines from 0 to 1, for rays by the thousand.
SLANT_SHARES = slant_share(np.linspace(0.0, 1.0, 513))
