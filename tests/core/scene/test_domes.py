"""A dome reads what small flat faces all over a half sphere read together: E = 2 (mean of E(m) over them)."""

import numpy as np
import pytest

from iron_bucket.core.daylight.sky_luminance import SkyLuminance
from iron_bucket.core.quadrature import gauss_nodes
from iron_bucket.core.scene.scene import Mark, Solid
from tests.core.scene.made import ROOM, X, Z, a_frame, a_panel, at, found
from tests.tables import table

ROUND, UP = 24, 12
MIDDLE, AXIS = at(2.6, 2.1, 1.3), at(0.48, -0.6, 0.64)


def facets() -> tuple[list[Mark], np.ndarray]:
    """Flat marks all over the half sphere about the axis, and the share of it that each stands for."""
    heights, weights = gauss_nodes(UP)
    heights, weights = (heights + 1.0) / 2.0, weights / 2.0
    across = np.cross(AXIS, Z) / np.linalg.norm(np.cross(AXIS, Z))
    other = np.cross(AXIS, across)
    marks, shares = [], []
    for height, weight in zip(heights, weights, strict=True):
        for turn in (np.arange(ROUND) + 0.5) * 2.0 * np.pi / ROUND:
            flat = np.cos(turn) * across + np.sin(turn) * other
            normal = height * AXIS + np.sqrt(1.0 - height**2) * flat
            marks.append(Mark(mark_id=f"{len(marks)}", position_m=MIDDLE, normal=normal))
            shares.append(weight / ROUND)
    return marks, np.array(shares)


SKY = SkyLuminance(kind="overcast", horizontal_lx=10_000.0, ground_reflectance=0.2)
EVERYTHING = table(__file__, "EVERYTHING")
EVERYTHING["past a flag"] = EVERYTHING["face"] | {
    "solids": (Solid(solid_id="f", panel=a_panel((2.7, 1.5, 1.4), X, Z, width_m=0.5, height_m=0.5)),)
}
EVERYTHING["through cloth"] = EVERYTHING["small"] | {
    "frames": (a_frame(panel=a_panel((2, 1.7, 1.2), at(0.6, -0.8, 0), Z)),)
}
EVERYTHING["in a mirror"] = EVERYTHING["face"] | {
    "frames": (a_frame(panel=a_panel((2.6, 3.2, 1.3), X, Z), transmittance=None, reflectance=0.9, is_mirror=True),)
}
EVERYTHING["in series"] = EVERYTHING["small"] | {
    "frames": (
        a_frame(panel=a_panel((2, 1.7, 1.2), at(0.6, -0.8, 0), Z)),
        a_frame(frame_id="G", panel=a_panel((3.4, 2.6, 1.0), at(0.6, -0.8, 0), Z), transmittance=None, reflectance=0.8),
    )
}
EVERYTHING["in a room"] = EVERYTHING["small"] | {"rooms": (ROOM,)}


@pytest.mark.parametrize("parts", EVERYTHING.values(), ids=EVERYTHING)
def test_a_dome_is_all_its_facets(parts):
    marks, shares = facets()
    dome = Mark(mark_id="dome", position_m=MIDDLE, normal=AXIS, is_dome=True)
    levels = found(**parts, marks=(dome, *marks)).whole_lx[0]
    assert levels[0] == pytest.approx(2.0 * float(shares @ levels[1:]), rel=0.01)
    assert levels[0] > 1.0
