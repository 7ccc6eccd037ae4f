"""The number types that bulk work takes and gives."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
#: One float or an array of them; functions that take it broadcast.
Floats = float | Array
