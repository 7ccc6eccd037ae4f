import numpy as np
import pytest

from iron_bucket.core.bench.dimming import Dimming, DimmingCurve
from tests.tables import tabled

POINTS = ((0.1, 0.02), (0.5, 0.4), (1.0, 1.0))
MEASURED = Dimming(curve=DimmingCurve.MEASURED, points=POINTS)


@tabled
def test_output_at_a_setting(dimming, setting, output):
    assert dimming.output(setting) == pytest.approx(output)


@pytest.mark.parametrize(
    "dimming", [Dimming(), Dimming(curve=DimmingCurve.SQUARE), Dimming(curve=DimmingCurve.S_SHAPED), MEASURED]
)
def test_setting_undoes_output(dimming):
    settings = np.linspace(0.0, 1.0, 41)
    assert dimming.setting(dimming.output(settings)) == pytest.approx(settings, abs=1e-9)


def test_a_curve_with_a_dead_zone_has_its_zero_at_the_end_of_it():
    dead = Dimming(curve=DimmingCurve.MEASURED, points=((0.2, 0.0), (1.0, 1.0)))
    assert dead.output(0.1) == 0.0
    assert dead.setting(0.0) == pytest.approx(0.2)
