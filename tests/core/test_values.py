import math

import numpy as np
import pytest

from iron_bucket.core import checks, constants
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin, least_trusted


def test_an_error_knows_field_value_and_what_would_do():
    bad = BadValue("throw_m", 0.0, "above 0 m")
    assert (bad.field, bad.value, bad.accepted) == ("throw_m", 0.0, "above 0 m")
    assert str(bad) == "throw_m is 0.0; accepted: above 0 m"


@pytest.mark.parametrize(
    ("check", "bad", "sentence"),
    [
        (lambda v: checks.require_positive("x", v, unit="m"), 0.0, "x is 0.0; accepted: above 0 m"),
        (lambda v: checks.require_positive("x", v, unit=""), math.nan, "x is nan; accepted: above 0"),
        (
            lambda v: checks.require_positive("x", v, unit="m"),
            np.array([1.0, math.inf, -1.0]),
            "x is inf; accepted: above 0 m",
        ),
        (lambda v: checks.require_not_negative("x", v, unit="A"), -0.1, "x is -0.1; accepted: 0 A or more"),
        (lambda v: checks.require_not_negative("x", v, unit=""), math.inf, "x is inf; accepted: 0 or more"),
        (lambda v: checks.require_share("x", v), 1.01, "x is 1.01; accepted: a share from 0 to 1"),
        (lambda v: checks.require_share("x", v), -0.01, "x is -0.01; accepted: a share from 0 to 1"),
        (lambda v: checks.require_between("x", v, low=1, high=2, unit="K"), 2.1, "x is 2.1; accepted: 1 to 2 K"),
        (lambda v: checks.require_between("x", v, low=1, high=2, unit=""), 0.9, "x is 0.9; accepted: 1 to 2"),
        (lambda v: checks.require_word("x", v), "  ", "x is '  '; accepted: a name with at least one letter or digit"),
    ],
)
def test_guards_refuse_with_a_sentence(check, bad, sentence):
    with pytest.raises(BadValue) as refused:
        check(bad)
    assert str(refused.value) == sentence


def test_guards_let_the_edges_pass():
    checks.require_not_negative("x", 0.0, unit="")
    checks.require_share("x", 0.0)
    checks.require_share("x", 1.0)
    checks.require_between("x", 1.0, low=1, high=2, unit="")
    checks.require_between("x", 2.0, low=1, high=2, unit="")
    checks.require_positive("x", np.array([1e-9, 1.0]), unit="")


def test_a_result_is_as_good_as_its_weakest_figure():
    assert least_trusted((Origin.MEASURED, Origin.TYPICAL, Origin.CLAIMED)) is Origin.TYPICAL
    assert least_trusted((Origin.MEASURED, Origin.CLAIMED)) is Origin.CLAIMED


def test_physics():
    assert pytest.approx(10.76391, rel=1e-6) == constants.LUX_PER_FOOTCANDLE  # craft text
    assert (constants.METER_CONSTANT_FLAT, constants.METER_CONSTANT_DOME) == (250.0, 340.0)  # docs/craft.md, section 4
    assert constants.MIDDLE_GREY == 0.18
