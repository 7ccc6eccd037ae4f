import numpy as np
import pytest

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.configuration import EmittingFace, FaceShape
from iron_bucket.core.bench.output import cross_section_lx, level_lx, output_table
from iron_bucket.core.photometry.distribution import CosinePower
from iron_bucket.core.photometry.tabulated import PhotometryType, Tabulated
from tests.made_up import a_configuration, a_gear, a_head, a_sheet


def test_gear_knows_its_own_and_output_at_a_distance():
    gear = a_gear(sheets=(a_sheet("nd"),))
    assert gear.head("lamp").name == "lamp"
    assert [item.slug for item in gear.items()] == ["lamp", "lamp.own", "nd"]
    assert [item.slug for item in gear.modifiers()] == ["nd"]
    assert a_head().lumens_per_watt == pytest.approx(50.0)
    assert a_head().plate_for("v-lock").plates == 2
    assert a_head().plate_for("np") is None
    rows = output_table(a_configuration(), (0.4, 3.0))
    assert rows[1].illuminance_lx == pytest.approx(1000.0)
    assert rows[1].half_width_m == pytest.approx(2 * 3 * np.tan(np.radians(20)), rel=1e-3)
    assert rows[1].law == "inverse square"
    assert rows[0].law.startswith("nearer than five sides: inverse square reads high")
    assert output_table(a_configuration(offset_m=0.2), (3.0,))[0].law == "inverse square from 0.2 m behind"


@pytest.mark.parametrize("shape", FaceShape)
def test_a_glowing_face_by_its_area(shape):
    panel = a_configuration(
        distribution=CosinePower(peak_cd=900.0, exponent=1.0),
        is_lambertian=True,
        face=EmittingFace(shape=shape, width_m=1.0, height_m=1.0),
    )
    # By hand: a disc of radius 0.5 gives I / (d2 + r2) = 720; the corner formula 4 x 900 / 2 x 2 x 0.4472 x
    # atan(0.4472) = 677.
    assert level_lx(panel, 1.0) == pytest.approx({FaceShape.DISC: 720.0, FaceShape.RECTANGLE: 677.05}[shape], rel=1e-4)
    assert output_table(panel, (1.0,))[0].law == "area law, nearer than five sides"
    level = cross_section_lx(panel, 2.0, np.array([-1.0, 0.0, 1.0]))
    assert level[0] == pytest.approx(level[2])
    assert level[1] > level[0]


def test_a_lopsided_beam_keeps_its_sides_across_the_subject():
    """Brighter along C0 than along C180; C0 is where the places are above 0, the middle among them."""
    angles = np.linspace(0.0, 90.0, 10)
    sides = Tabulated(
        kind=PhotometryType.C,
        vertical_deg=angles,
        horizontal_deg=np.array([0.0, 90.0, 180.0]),
        candela=np.array([900.0 - 2.0 * angles, 900.0 - 4.0 * angles, 900.0 - 6.0 * angles]),
    )
    level = cross_section_lx(a_configuration(distribution=sides, offset_m=0.0), 2.0, np.array([-2.0, 0.0, 2.0]))
    by_hand = (
        np.array([900.0 - 270.0, 900.0 * 8.0**0.5, 900.0 - 90.0]) / 8.0**0.5 / 4.0
    )  # at 45 degrees cos^3 is 1 / 8^0.5
    assert level == pytest.approx(by_hand)


def test_a_battery_gives_nine_tenths_of_its_plate_at_95_percent_unless_it_says_otherwise():
    plain = BatteryKind(
        slug="b", name="b", maker="", weight_kg=1.0, mount="v-lock", capacity_wh=100.0, nominal_v=14.0, most_a=10.0
    )
    assert (plain.usable, plain.efficiency) == (0.9, 0.95)
    assert plain.supply(3).energy_wh == pytest.approx(3 * 100.0 * 0.9 * 0.95)


def test_what_is_retired_takes_its_configurations_along():
    gear = a_gear(
        heads=(a_head(), a_head(slug="old", is_retired=True)),
        configurations=(a_configuration(), a_configuration(slug="old.own", head_slug="old")),
    )
    assert [head.slug for head in gear.in_use().heads] == ["lamp"]
    assert [each.slug for each in gear.in_use().configurations] == ["lamp.own"]
