import pytest

from iron_bucket.core.quantities import spoken
from iron_bucket.core.quantities.units import UnitSystem

IMPERIAL = UnitSystem.IMPERIAL


@pytest.mark.parametrize(
    ("said", "expected"),
    [
        (spoken.illuminance(640.0), "640 lx"), (spoken.illuminance(27412.0), "27\u202f400 lx"), (spoken.illuminance(9.996), "10 lx"),
        (spoken.illuminance(0.0), "0 lx"), (spoken.illuminance(0.01234), "0.012 lx"), (spoken.illuminance(12.34), "12.3 lx"),
        (spoken.illuminance(640.0, IMPERIAL), "59.5 fc"), (spoken.illuminance(1234.0), "1\u202f230 lx"), (spoken.illuminance(99.96), "100 lx"),
        (spoken.length(3.0), "3.0 m"), (spoken.length(2.84), "2.84 m"), (spoken.length(12.34), "12.3 m"), (spoken.length(3.81, IMPERIAL), "12'6\""),
        (spoken.length(0.1524, IMPERIAL), '6"'), (spoken.length(3.65, IMPERIAL), "12'0\""), (spoken.mass(7.42), "7.4 kg"), (spoken.mass(118.4), "118 kg"),
        (spoken.mass(0.04), "0.04 kg"), (spoken.mass(0.1), "0.1 kg"), (spoken.mass(4.5359237, IMPERIAL), "10.0 lb"), (spoken.stops(0.44), "+0.4 stop"),
        (spoken.stops(-1.56), "\u22121.6 stops"), (spoken.stops(-0.04), "0.0 stop"), (spoken.stops(1.0), "+1.0 stop"), (spoken.stops(1.1), "+1.1 stops"),
        (spoken.stops(0.7, signed=False), "0.7 stop"), (spoken.hours(1.18), "1 h 10"), (spoken.hours(0.5), "30 min"), (spoken.hours(2.0), "2 h 00"),
        (spoken.fine_stops(-0.004), "0.00"), (spoken.fine_stops(-0.126), "\u22120.13"), (spoken.fine_stops(0.5), "+0.50"), (spoken.mired_shift(-25.6), "\u221226 mired"), (spoken.mired_shift(-0.3), "0 mired"), (spoken.mired_shift(8.0), "+8 mired"), (spoken.share(0.74), "74 %"), (spoken.share(0.014), "1.4 %"), (spoken.plain(352.0, "W"), "352 W"), (spoken.plain(0.5, ""), "0.5"),
    ],
)  # fmt: skip
def test_figures_as_the_crew_reads_them(said, expected):
    assert str(said) == expected


def test_a_battery_never_lasts_longer_than_computed():
    assert str(spoken.hours(1.999)) == "1 h 59"
