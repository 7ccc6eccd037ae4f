import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.exposure import incident
from iron_bucket.core.exposure.incident import Camera, Receptor
from tests.tables import table


def a_camera(**changes) -> Camera:
    return Camera(**({"t_stop": 2.8, "iso": 800.0, "time_s": 1 / 48} | changes))


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


SOLVERS = table(__file__, "SOLVERS")


@pytest.mark.parametrize("solver", SOLVERS)
def test_darkness_sets_no_camera(solver):
    with pytest.raises(BadValue, match="illuminance_lx is 0.0; accepted: above 0 lx"):
        getattr(incident, solver)(0.0, receptor=Receptor.DOME, **SOLVERS[solver])
