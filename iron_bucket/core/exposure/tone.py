"""The tone a camera gives a stop: for wedges that show where what lies."""

import math

#: What 18 % grey is on a screen: the sRGB code of 0.18.
MIDDLE_GREY_CODE = 0.461


def tone(stops: float, *, above: float, below: float) -> float:
    """From 0, at ``below`` stops under the exposure, to 1, at ``above`` over it; the exposure itself is middle grey.

    Typical of a camera that shares its codes out over the stops it holds: code = u^p, u the share of the range, and p
    so that middle grey comes out as it does on a screen.
    """
    share = min(max((stops + below) / (above + below), 0.0), 1.0)
    return float(share ** (math.log(MIDDLE_GREY_CODE) / math.log(below / (above + below))))
