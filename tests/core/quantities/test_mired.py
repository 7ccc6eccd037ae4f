import pytest

from iron_bucket.core.quantities.mired import mired_from_k, shift_mired, shifted_k
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
