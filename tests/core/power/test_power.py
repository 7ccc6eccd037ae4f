import numpy as np
import pytest

from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.power.battery import Supply
from iron_bucket.core.power.circuit import Circuit, Load, current_a
from iron_bucket.core.power.load import Draw, DrawCurve
from tests.conftest import golden_cases
from tests.tables import refusals

FILE = "exposure_power.json"


def a_draw(**changes) -> Draw:
    made = {
        "full_w": Figure(value=300.0, origin=Origin.MEASURED),
        "idle_w": 20.0,
        "power_factor": 0.95,
        "curve": DrawCurve.ELECTRONIC,
    } | changes
    return Draw(**made)


def a_circuit(**changes) -> Circuit:
    return Circuit(**({"voltage_v": 230.0, "breaker_a": 16.0} | changes))


def a_supply(**changes) -> Supply:
    return Supply(**({"capacity_wh": 98.0, "nominal_v": 14.4, "most_a": 10.0} | changes))


def test_watts_at_a_dim_level():
    assert a_draw().watts(0.5) == pytest.approx(160.0)  # 20 + 280 / 2
    assert a_draw().watts(0.0) == pytest.approx(20.0)
    filament = a_draw(curve=DrawCurve.FILAMENT, idle_w=0.0)
    assert filament.watts(0.5) == pytest.approx(300.0 * 0.5 ** (1.6 / 3.4))
    np.testing.assert_allclose(a_draw().watts(np.array([0.0, 1.0])), [20.0, 300.0])


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases(FILE, "circuit_load"))
def test_amps_on_a_circuit(given, expected, rel_tol):
    loads = tuple(Load(watts=each["watts"], power_factor=each["power_factor"]) for each in given["loads"])
    amps = current_a(loads, given["volts"])
    assert amps == pytest.approx(expected["amps_arithmetic"], rel=rel_tol)
    circuit = a_circuit(voltage_v=given["volts"], breaker_a=given["breaker_A"])
    assert circuit.limit_a == pytest.approx(expected["continuous_limit_A"], rel=rel_tol)
    assert (amps <= circuit.limit_a) is expected["within_80_percent"]


def test_what_a_battery_cannot_deliver_burns_no_time():
    np.testing.assert_allclose(a_supply().burn_time_h(np.array([144.0, 145.0])), [98 / 144, 0.0])
    assert a_supply(count=2).burn_time_h(145.0) == pytest.approx(196 / 145)


test_what_is_refused = refusals(__file__)
