"""What goes on and in front of heads: what each kind takes, and the law of straight cells."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.head import HeadClass
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.transmission import TOLD_FOR, Transmission
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.modifiers.cells import grid_cut
from iron_bucket.core.modifiers.gelled import as_measured, by_curve, gelled
from iron_bucket.core.modifiers.kinds import ClothSize, SheetKind
from iron_bucket.core.modifiers.lobe import MATT_DEG
from iron_bucket.core.modifiers.measured_pass import MeasuredPass
from tests.made_up import a_cloth, a_face, a_frame, a_gear, a_gel, a_sheet, typical


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


def test_cloths_of_a_size_are_counted():
    sizes = (ClothSize(width_m=2.0, height_m=1.0, owned=3), ClothSize(width_m=1.0, height_m=2.004, owned=1))
    cloth = a_cloth(owned=9, sizes=(*sizes, ClothSize(width_m=3.0, height_m=1.0, owned=5)))
    assert [cloth.owned_of(area_m2) for area_m2 in (2.0, 3.0, 1.0)] == [4, 5, 0]
    assert a_cloth(owned=9).owned_of(2.0) == 9


def test_sheets_add_their_shifts_and_a_curve_makes_its_own():
    light, curve = LightColour.of_cct(5600.0), Transmission(shares=tuple(np.linspace(0.2, 0.9, 31).tolist()))
    warm, green = a_gel(shift_mired=100.0), a_sheet("green", SheetKind.TINT, tint=0.5)
    found = gelled(light, (warm, green), 10.0)
    assert found.mired - light.mired == pytest.approx(110.0)
    assert found.duv - light.duv == pytest.approx(0.01)
    assert gelled(light, ()).uv == pytest.approx(light.uv)
    told = by_curve(warm, curve)
    behind = curve.behind(TOLD_FOR)
    assert (told.curve, told.transmittance) == (curve, Figure(value=behind.passes, origin=Origin.MEASURED))
    assert (told.shift_mired, told.tint * 0.02) == (behind.shift_mired, pytest.approx(behind.duv))
    assert gelled(light, (told, green)) == curve.behind(gelled(light, (green,))).colour
    by_meter = MeasuredPass(modifier_slug="gel", head_class=HeadClass.LED, passes=0.5, count=1, shift_mired=80.0)
    other = replace(by_meter, modifier_slug="other", shift_mired=1.0)
    for measured, shift, tint in ((by_meter, 80.0, told.tint), (replace(by_meter, duv_shift=0.01), 80.0, 0.5)):
        seen = as_measured(told, a_gear(measured=(other, measured)), HeadClass.LED)
        assert (seen.shift_mired, seen.tint, seen.curve) == (shift, tint, None)
    for measured in (replace(by_meter, head_class=HeadClass.TUNGSTEN), other, replace(by_meter, shift_mired=None)):
        assert as_measured(told, a_gear(measured=(measured,)), HeadClass.LED) is told
