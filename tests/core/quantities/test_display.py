from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from tests.tables import tabled

IMPERIAL = UnitSystem.IMPERIAL


@tabled
def test_figures_as_the_crew_reads_them(said, expected):
    assert str(said) == expected


def test_a_battery_never_lasts_longer_than_computed():
    assert str(display.hours(1.999)) == "1 h 59"
