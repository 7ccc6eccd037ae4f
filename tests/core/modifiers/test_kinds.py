"""What goes on and in front of heads: what each kind takes, and the law of straight cells."""

import numpy as np
import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.cells import grid_cut
from iron_bucket.core.modifiers.kinds import SheetKind
from iron_bucket.core.modifiers.lobe import MATT_DEG
from tests.made_up import a_cloth, a_face, a_frame, a_sheet, typical


def test_the_ends_of_what_a_kind_takes():
    assert a_face(efficiency=typical(1.0)).efficiency.value == 1.0
    for share in (0.0, 1.01):
        with pytest.raises(BadValue, match="efficiency is"):
            a_face(efficiency=typical(share))
    for layers in (1, 2):
        assert a_sheet("scrim", SheetKind.SCRIM, transmittance=None, layers=layers).layers == layers
    for layers in (0, 3):
        with pytest.raises(BadValue, match="layers is"):
            a_sheet("scrim", SheetKind.SCRIM, transmittance=None, layers=layers)
    cloth = a_cloth(widest_m=2.0)
    sizes = ((2.0, 1.0, True), (1.0, 2.0, True), (2.1, 1.0, False), (1.0, 2.1, False))
    assert [cloth.fits(a_frame(width_m=w, height_m=h)) for w, h, _ in sizes] == [fits for _, _, fits in sizes]
    assert MATT_DEG == 90.0


@pytest.mark.parametrize("cutoff_deg", [30.0, 60.0])
def test_straight_cells_shade_by_the_tangent(cutoff_deg):
    shares = grid_cut(cutoff_deg, np.array([0.0, 10.0, cutoff_deg / 2, cutoff_deg]))
    part = 1.0 - np.tan(np.radians(10.0)) / np.tan(np.radians(cutoff_deg / 2))
    assert shares == pytest.approx([1.0, part, 0.0, 0.0], abs=1e-12)
