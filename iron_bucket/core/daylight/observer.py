"""A place and a time as the library of the sky wants them. Source of every position: VSOP87 and ELP, by ephem."""

from datetime import UTC, datetime

import ephem
import numpy as np

from iron_bucket.core.checks import require_between
from iron_bucket.core.errors import BadValue

#: So much below its true height the sky is not lifted any more: nobody sees it.
_UNSEEN_DEG = -1.0


def observer(when: datetime, *, latitude_deg: float, longitude_deg: float) -> ephem.Observer:
    """On the ground, without air. East is positive. Raises: BadValue for a time without its zone, or a place off the
    globe.
    """
    require_between("latitude", latitude_deg, low=-90.0, high=90.0, unit="degrees")
    require_between("longitude", longitude_deg, low=-180.0, high=180.0, unit="degrees")
    if when.tzinfo is None:
        raise BadValue("when", when.isoformat(), "a time with its zone")
    found = ephem.Observer()
    found.lat, found.lon = float(np.radians(latitude_deg)), float(np.radians(longitude_deg))
    found.pressure, found.elevation = 0.0, 0.0
    found.date = when.astimezone(UTC).replace(tzinfo=None)
    return found


def lifted_deg(altitude_deg: float) -> float:
    """How high something looks through air of 1010 hPa and 10 degrees Celsius.

    Source: Saemundsson, Sky and Telescope 72 (1986), 70: R = 1.02 / tan(h + 10.3 / (h + 5.11)) minutes of arc.
    """
    if altitude_deg < _UNSEEN_DEG:
        return altitude_deg
    raised = np.radians(altitude_deg + 10.3 / (altitude_deg + 5.11))
    return altitude_deg + max(float(1.02 / np.tan(raised)), 0.0) / 60.0
