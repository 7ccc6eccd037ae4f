import json

import numpy as np
import pytest

from iron_bucket.core.photometry.directions import type_a_angles, type_b_angles, unit_vectors
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.tabulated import PhotometryType
from iron_bucket.core.photometry.widths import beam_deg, field_deg
from iron_bucket.formats.photometric import read_photometric
from tests.conftest import GOLDEN
from tests.core.photometry.made import a_table
from tests.tables import refusals, tabled

FILES = json.loads((GOLDEN / "photometric" / "expected.json").read_text())["files"]


@pytest.fixture(params=FILES, ids=lambda case: case["file"])
def case(request):
    path = GOLDEN / "photometric" / request.param["file"]
    return request.param, read_photometric(path.read_bytes(), path.name).distribution


def test_reference_peak_and_lumens(case):
    expected, table = case
    assert table.peak_cd == pytest.approx(expected["peak_cd"], rel=1e-4)
    assert float(table.intensity_cd(0.0)) == pytest.approx(expected["axis_cd"], rel=1e-4)
    methods = expected["lumens"]["methods"]
    assert lumens(table) == pytest.approx(methods.get("bilinear_exact", expected["lumens"]["value"]), rel=1e-5)
    assert table.symmetry.value == expected["symmetry"]
    vertical, horizontal = table.peak_at_deg
    assert [horizontal, vertical] in expected["peak_directions_stored"]["at"]


def test_reference_widths_and_probes(case):
    expected, table = case
    for (name, plane), angle in zip(expected["planes"].items(), (0.0, 90.0), strict=True):
        assert beam_deg(table, angle) == pytest.approx(plane["beam_50"]["of_plane_peak"]["full_deg"], abs=0.01), name
        assert field_deg(table, angle) == pytest.approx(plane["field_10"]["of_plane_peak"]["full_deg"], abs=0.01), name
    expected, table = case
    for probe in expected.get("probes", []):
        found = float(table.intensity_cd(probe["gamma"], probe["C"]))
        assert found == pytest.approx(probe["cd"], abs=expected["peak_cd"] * 1e-5), probe


def test_directions_by_hand():
    assert [float(part) for part in unit_vectors(90.0, 90.0)] == pytest.approx([0.0, 1.0, 0.0], abs=1e-12)
    # 30 degrees to the right, then 20 up: type A turns first sideways, type B first up.
    x, y, z = (
        np.cos(np.radians(20)) * np.sin(np.radians(30)),
        np.sin(np.radians(20)),
        np.cos(np.radians(20)) * np.cos(np.radians(30)),
    )
    gamma, azimuth = np.degrees(np.arccos(z)), np.degrees(np.arctan2(y, x))
    assert [float(part) for part in type_a_angles(gamma, azimuth)] == pytest.approx([20.0, 30.0])
    vertical, horizontal = (float(part) for part in type_b_angles(gamma, azimuth))
    assert (vertical, horizontal) == pytest.approx((np.degrees(np.arctan2(y, z)), np.degrees(np.arcsin(x))))


@tabled
def test_mirrors(horizontal, symmetry, asked, same_as):
    planes = np.array(horizontal)
    table = a_table(horizontal_deg=planes, candela=np.outer(100.0 + planes % 360, np.ones(3)))
    assert table.symmetry is symmetry
    assert table.intensity_cd(30.0, asked) == pytest.approx(float(table.intensity_cd(30.0, same_as)))


def test_the_turn_closes_on_its_first_plane_and_outside_the_stored_angles_it_is_dark():
    table = a_table(
        horizontal_deg=np.array([0.0, 90.0, 180.0, 270.0]), candela=np.outer([100.0, 0.0, 0.0, 50.0], np.ones(3))
    )
    assert table.intensity_cd(10.0, 315.0) == pytest.approx(75.0)
    assert lumens(table) == pytest.approx(2 * np.pi * 37.5)  # the mean plane over a half space
    table = a_table(vertical_deg=np.array([10.0, 45.0]))
    assert table.intensity_cd(9.0) == 0.0
    assert table.intensity_cd(46.0) == 0.0
    assert table.intensity_cd(45.0) == 100.0
    assert table.intensity_cd(10.0) == 100.0


@pytest.mark.parametrize("kind", [PhotometryType.A, PhotometryType.B])
def test_half_a_turning_table_stands_for_both(kind):
    whole = a_table(kind=kind, vertical_deg=np.array([-40.0, 0.0, 40.0]), horizontal_deg=np.array([-60.0, 0.0, 60.0]))
    half = a_table(kind=kind, vertical_deg=np.array([-40.0, 0.0, 40.0]), horizontal_deg=np.array([0.0, 60.0]))
    assert half.is_mirrored
    assert not whole.is_mirrored
    assert half.intensity_cd(30.0, 180.0) == 100.0
    assert lumens(half) == pytest.approx(lumens(whole))


def test_lumens_of_a_turning_table_slanted_planes_and_how_far_each_type_turns():
    # A constant field: solid angle = (turning range) x (difference of sines of the latitude).
    angles = {"vertical_deg": np.array([-40.0, 0.0, 40.0]), "horizontal_deg": np.array([-60.0, 0.0, 60.0])}
    by_b = np.radians(80.0) * 2 * np.sin(np.radians(60.0)) * 100.0
    by_a = np.radians(120.0) * 2 * np.sin(np.radians(40.0)) * 100.0
    assert lumens(a_table(kind=PhotometryType.B, **angles)) == pytest.approx(by_b)
    assert lumens(a_table(kind=PhotometryType.A, **angles)) == pytest.approx(by_a)
    table = read_photometric((GOLDEN / "photometric" / "f24.ies").read_bytes(), "f24.ies").distribution
    assert 20.15 < beam_deg(table, 45.0) < 40.0
    assert a_table(kind=PhotometryType.A, horizontal_deg=np.array([-180.0, 180.0])).kind is PhotometryType.A
    assert a_table(kind=PhotometryType.B, vertical_deg=np.array([-180.0, 0.0, 180.0])).kind is PhotometryType.B


test_what_is_refused = refusals(__file__)
