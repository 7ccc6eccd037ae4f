import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.exposure import incident
from iron_bucket.core.exposure.incident import Camera, Receptor
from iron_bucket.core.exposure.ratio import ContrastRatio, RatioSchool
from iron_bucket.core.exposure.shutter import exposure_time_s, shutter_angle_deg
from iron_bucket.core.quantities.units import fc_from_lx
from tests.conftest import golden_cases
from tests.tables import table

FILE = "exposure_power.json"


def a_camera(**changes) -> Camera:
    return Camera(**({"t_stop": 2.8, "iso": 800.0, "time_s": 1 / 48} | changes))


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases(FILE, "incident_illuminance"))
def test_lux_from_camera(given, expected, rel_tol):
    time_s = exposure_time_s(angle_deg=given["shutter_deg"], fps=given["fps"])
    receptor = Receptor(given["receptor"])
    assert receptor.constant == given["C"]
    assert time_s == pytest.approx(expected["exposure_time_s"], rel=rel_tol)
    level_lx = incident.illuminance_lx(a_camera(t_stop=given["f_number"], iso=given["iso"], time_s=time_s), receptor)
    assert level_lx == pytest.approx(expected["lux"], rel=rel_tol)
    assert fc_from_lx(level_lx) == pytest.approx(expected["footcandles"], rel=rel_tol)
    assert incident.exposure_value(t_stop=given["f_number"], time_s=time_s) == pytest.approx(
        expected["EV"], rel=rel_tol
    )


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases(FILE, "f_number_from_lux"))
def test_stop_from_lux(given, expected, rel_tol):
    time_s = exposure_time_s(angle_deg=given["shutter_deg"], fps=given["fps"])
    found = incident.t_stop_for(given["lux"], iso=given["iso"], time_s=time_s, filter_stops=0.0, receptor=Receptor.FLAT)
    assert found == pytest.approx(expected["f_number"], rel=rel_tol)


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases(FILE, "iso_from_lux"))
def test_iso_from_lux(given, expected, rel_tol):
    time_s = exposure_time_s(angle_deg=given["shutter_deg"], fps=given["fps"])
    found = incident.iso_for(
        given["lux"], t_stop=given["f_number"], time_s=time_s, filter_stops=0.0, receptor=Receptor.FLAT
    )
    assert found == pytest.approx(expected["iso"], rel=rel_tol)


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases(FILE, "shutter_time"))
def test_shutter(given, expected, rel_tol):
    time_s = exposure_time_s(angle_deg=given["shutter_deg"], fps=given["fps"])
    assert 1 / time_s == pytest.approx(expected["one_over"], rel=rel_tol)
    assert shutter_angle_deg(time_s=time_s, fps=given["fps"]) == pytest.approx(given["shutter_deg"])


def test_every_way_back_gives_the_same_level():
    level_lx = incident.illuminance_lx(a_camera(filter_stops=1.5), Receptor.DOME)
    filters = {"filter_stops": 1.5, "receptor": Receptor.DOME}
    assert incident.t_stop_for(level_lx, iso=800.0, time_s=1 / 48, **filters) == pytest.approx(2.8)
    assert incident.iso_for(level_lx, t_stop=2.8, time_s=1 / 48, **filters) == pytest.approx(800.0)
    assert incident.time_s_for(level_lx, t_stop=2.8, iso=800.0, **filters) == pytest.approx(1 / 48)
    assert incident.filter_stops_for(
        level_lx, t_stop=2.8, iso=800.0, time_s=1 / 48, receptor=Receptor.DOME
    ) == pytest.approx(1.5)


def test_a_stop_of_filter_wants_twice_the_light():
    one, two = (incident.illuminance_lx(a_camera(filter_stops=stops), Receptor.FLAT) for stops in (1.0, 2.0))
    assert two / one == pytest.approx(2.0)


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases(FILE, "contrast_ratio"))
def test_both_schools_of_ratio(given, expected, rel_tol):
    pair = ContrastRatio(key_lx=given["key_lux"], fill_lx=given["fill_lux"])
    assert pair.ratio(RatioSchool.KEY_TO_FILL) == pytest.approx(expected["key_to_fill"], rel=rel_tol)
    assert pair.stops(RatioSchool.KEY_TO_FILL) == pytest.approx(expected["key_to_fill_stops"], rel=rel_tol)
    assert pair.ratio(RatioSchool.SUM_TO_FILL) == pytest.approx(expected["key_plus_fill_to_fill"], rel=rel_tol)
    assert pair.stops(RatioSchool.SUM_TO_FILL) == pytest.approx(expected["key_plus_fill_to_fill_stops"], rel=rel_tol)


SOLVERS = table(__file__, "SOLVERS")


@pytest.mark.parametrize("solver", SOLVERS)
def test_darkness_sets_no_camera(solver):
    with pytest.raises(BadValue, match="illuminance_lx is 0.0; accepted: above 0 lx"):
        getattr(incident, solver)(0.0, receptor=Receptor.DOME, **SOLVERS[solver])
