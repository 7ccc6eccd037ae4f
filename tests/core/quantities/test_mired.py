import pytest

from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.quantities.mired import k_from_mired, mired_from_k, seen_k, shift_mired, shifted_k
from tests.conftest import golden_cases


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases("exposure_power.json", "mired_shift"))
def test_shift_between_two_whites(given, expected, rel_tol):
    assert shift_mired(from_k=given["from_K"], to_k=given["to_K"]) == pytest.approx(
        expected["mired_shift"], rel=rel_tol
    )
    assert mired_from_k(given["from_K"]) == pytest.approx(expected["reciprocal_megakelvin_from"], rel=rel_tol)


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases("exposure_power.json", "mired_apply"))
def test_behind_a_filter(given, expected, rel_tol):
    assert shifted_k(given["source_K"], given["shift"]) == pytest.approx(expected["result_K"], rel=rel_tol)


def test_round_trip():
    assert k_from_mired(mired_from_k(4300.0)) == pytest.approx(4300.0)


def test_a_filter_can_be_too_blue():
    with pytest.raises(NoAnswer, match="-200 mired on 5600 K is bluer than any"):
        shifted_k(5600.0, -200.0)


@pytest.mark.parametrize(("convert", "field"), [(mired_from_k, "cct_k"), (k_from_mired, "mired")])
def test_nothing_at_zero(convert, field):
    with pytest.raises(BadValue, match=rf"{field} is 0\.0; accepted: above 0"):
        convert(0.0)


def test_bluer_than_any_colour_temperature():
    assert seen_k(20.0) == seen_k(-5.0) == 50_000.0  # 10^6 / 20
    assert seen_k(178.571428) == pytest.approx(5600.0, abs=0.01)
    assert shifted_k(10_000.0, -99.5) == pytest.approx(2e6)
    with pytest.raises(NoAnswer, match="-100 mired on 10000 K is bluer than any colour temperature"):
        shifted_k(10_000.0, -100.0)
