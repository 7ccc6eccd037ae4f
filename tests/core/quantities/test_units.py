import pytest

from iron_bucket.core.quantities.units import fc_from_lx, ft_from_m, kg_from_lb, lb_from_kg, lx_from_fc, m_from_ft
from tests.tables import tabled


@tabled
def test_known_conversions(convert, value, expected):
    assert convert(value) == pytest.approx(expected, rel=1e-5)  # given to six digits


@pytest.mark.parametrize(
    ("there", "back"), [(lx_from_fc, fc_from_lx), (m_from_ft, ft_from_m), (kg_from_lb, lb_from_kg)]
)
def test_there_and_back(there, back):
    assert back(there(7.25)) == pytest.approx(7.25)
