import pytest

from iron_bucket.core.quantities.units import fc_from_lx, ft_from_m, kg_from_lb, lb_from_kg, lx_from_fc, m_from_ft


@pytest.mark.parametrize(
    ("convert", "value", "expected"),
    [
        pytest.param(lx_from_fc, 1.0, 10.7639, id="docs/craft.md: 1 fc"),
        pytest.param(fc_from_lx, 640.0, 59.458, id="by hand: 640 / 10.7639"),
        pytest.param(m_from_ft, 12.0, 3.6576, id="exact"),
        pytest.param(ft_from_m, 3.0, 9.84252, id="by hand: 3 / 0.3048"),
        pytest.param(kg_from_lb, 10.0, 4.5359237, id="exact pound"),
        pytest.param(lb_from_kg, 5.0, 11.0231, id="by hand: 5 / 0.45359"),
    ],
)
def test_known_conversions(convert, value, expected):
    assert convert(value) == pytest.approx(expected, rel=1e-5)  # given to six digits


@pytest.mark.parametrize(
    ("there", "back"), [(lx_from_fc, fc_from_lx), (m_from_ft, ft_from_m), (kg_from_lb, lb_from_kg)]
)
def test_there_and_back(there, back):
    assert back(there(7.25)) == pytest.approx(7.25)
