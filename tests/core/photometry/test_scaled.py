import numpy as np
import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.distribution import BeamField, CosinePower
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.resampled import MOST_GAMMAS, all_planes, on_c_planes
from iron_bucket.core.photometry.scaled import scaled, stretch_through, stretched
from iron_bucket.core.photometry.tabulated import PhotometryType, Tabulated
from iron_bucket.core.photometry.widths import beam_deg, field_deg
from tests.tables import table, tabled

BEAM = BeamField(peak_cd=8000.0, beam_deg=20.0, field_deg=34.0)
COSINE = CosinePower.from_beam(peak_cd=500.0, beam_deg=80.0)
TABLE = table(__file__, "TABLE")


@pytest.mark.parametrize("distribution", [BEAM, COSINE, TABLE])
def test_scaled_candela_and_lumens(distribution):
    brighter = scaled(distribution, 2.5)
    for angle in (0.0, 7.0, 31.0):
        assert brighter.intensity_cd(angle) == pytest.approx(2.5 * distribution.intensity_cd(angle))
    assert lumens(brighter) == pytest.approx(2.5 * lumens(distribution))
    with pytest.raises(BadValue, match="factor is 0"):
        scaled(distribution, 0.0)


def test_what_can_be_scaled_and_a_pencil_beam_on_its_axis():
    with pytest.raises(TypeError, match="object cannot be scaled"):
        scaled(object(), 2.0)
    pencil = BeamField(peak_cd=9e5, beam_deg=1.0, field_deg=3.0)
    assert stretch_through(pencil, np.array([0.5]), np.array([0.5])) == pytest.approx(1.0, rel=0.006)


def test_stretched_beams_keep_their_peak_and_proportion():
    wide = stretched(BEAM, 1.5)
    assert (wide.peak_cd, wide.beam_deg, wide.field_deg) == (8000.0, 30.0, 51.0)
    assert beam_deg(stretched(COSINE, 0.5)) == pytest.approx(40.0, abs=0.01)
    assert stretched(TABLE, 2.0) is TABLE
    assert stretched(BEAM, 100.0).beam_deg == 175.0
    assert field_deg(stretched(BEAM, 100.0)) is not None or stretched(BEAM, 100.0).field_deg == 179.9
    with pytest.raises(BadValue, match="stretch is -1"):
        stretched(BEAM, -1.0)


@pytest.mark.parametrize("stretch", [0.5, 0.9, 1.0, 1.7])
def test_the_stretch_is_found_again_whatever_one_bad_reading_says(stretch):
    gamma = np.array([4.0, 6.0, 8.0, 11.0, 14.0])
    shares = stretched(BEAM, stretch).intensity_cd(gamma) / 8000.0
    shares[2] *= 1.8
    assert stretch_through(BEAM, gamma, shares) == pytest.approx(stretch, rel=0.006)  # half a step of the search


def test_formulas_become_tables_and_tables_of_c_planes_stay():
    table = on_c_planes(BEAM)
    assert lumens(table) == pytest.approx(lumens(BEAM), rel=1e-3)
    assert table.intensity_cd(7.03) == pytest.approx(BEAM.intensity_cd(7.03), rel=1e-4)
    assert len(table.horizontal_deg) == 1
    assert (table.vertical_deg[0], table.vertical_deg[-1], len(table.vertical_deg)) == (0.0, 180.0, 300 + 151)
    assert on_c_planes(TABLE) is TABLE


def test_too_many_angles_are_thinned():
    fine = Tabulated(
        kind=PhotometryType.C,
        vertical_deg=np.linspace(0, 90, 1801),
        horizontal_deg=np.zeros(1),
        candela=np.cos(np.radians(np.linspace(0, 90, 1801)))[None],
    )
    thin = on_c_planes(fine)
    assert (len(thin.vertical_deg), thin.vertical_deg[0], thin.vertical_deg[-1]) == (MOST_GAMMAS, 0.0, 90.0)
    assert lumens(thin) == pytest.approx(lumens(fine), rel=1e-4)
    just = table(__file__, "just")
    assert on_c_planes(just) is just


def test_type_b_is_laid_out_on_c_planes():
    angles = np.linspace(-30.0, 30.0, 61)
    candela = 1000.0 * np.exp(-((angles[:, None] / 12.0) ** 2) - (angles[None, :] / 20.0) ** 2)
    across = Tabulated(kind=PhotometryType.B, vertical_deg=angles, horizontal_deg=angles, candela=candela)
    table = on_c_planes(across)
    assert table.kind is PhotometryType.C
    assert len(table.horizontal_deg) == 144
    assert table.horizontal_deg[[0, 1, -1]].tolist() == [0.0, 2.5, 357.5]
    assert lumens(table) == pytest.approx(lumens(across), rel=0.005)
    assert table.intensity_cd(10.0, 90.0) == pytest.approx(across.intensity_cd(10.0, 90.0), rel=0.005)
    assert table.intensity_cd(10.0, 0.0) < table.intensity_cd(10.0, 90.0)


@tabled
def test_every_plane_written_out(horizontal, planes):
    candela = np.array([[900.0, 500.0 - 10 * at, 10.0] for at in range(len(horizontal))])
    candela[-1] = candela[0] if horizontal[-1] == 360.0 else candela[-1]
    table = Tabulated(
        kind=PhotometryType.C,
        vertical_deg=np.array([0.0, 20.0, 60.0]),
        horizontal_deg=np.array(horizontal),
        candela=candela,
    )
    whole = all_planes(table)
    assert len(whole.horizontal_deg) == planes
    azimuths = np.arange(0.0, 360.0, 7.5)
    assert whole.intensity_cd(20.0, azimuths) == pytest.approx(table.intensity_cd(20.0, azimuths))


def test_a_stretch_is_looked_for_between_two_fifths_and_two_and_a_half():
    gamma = np.array([4.0, 6.0, 8.0, 11.0, 14.0])
    assert stretch_through(BEAM, gamma, stretched(BEAM, 4.0).intensity_cd(gamma) / 8000.0) == pytest.approx(2.5)
    assert stretch_through(BEAM, gamma, stretched(BEAM, 0.2).intensity_cd(gamma) / 8000.0) == pytest.approx(0.4)
    assert MOST_GAMMAS == 721  # what the format's readers take
