import pytest

from iron_bucket.core import constants
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin, least_trusted


def test_errors_origins_and_constants():
    bad = BadValue("throw_m", 0.0, "above 0 m")
    assert (bad.field, bad.value, bad.accepted) == ("throw_m", 0.0, "above 0 m")
    assert str(bad) == "throw_m is 0.0; accepted: above 0 m"
    assert str(BadValue("name", "x" * 61, "a name")) == f"name is {'x' * 60}; accepted: a name"
    # A result is as good as its weakest figure.
    assert least_trusted((Origin.MEASURED, Origin.TYPICAL, Origin.CLAIMED)) is Origin.TYPICAL
    assert least_trusted((Origin.MEASURED, Origin.CLAIMED)) is Origin.CLAIMED
    # Physics.
    assert pytest.approx(10.76391, rel=1e-6) == constants.LUX_PER_FOOTCANDLE  # craft text
    assert (constants.METER_CONSTANT_FLAT, constants.METER_CONSTANT_DOME) == (250.0, 340.0)  # docs/craft.md, section 4
    assert constants.MIDDLE_GREY == 0.18
