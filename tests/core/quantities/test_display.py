import pytest

from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem

IMPERIAL = UnitSystem.IMPERIAL


@pytest.mark.parametrize(
    ("said", "expected"),
    [
        (display.illuminance(640.0), "640 lx"),
        (display.illuminance(27412.0), "27\u202f400 lx"),
        (display.illuminance(9.996), "10 lx"),
        (display.illuminance(0.0), "0 lx"),
        (display.illuminance(0.01234), "0.012 lx"),
        (display.illuminance(12.34), "12.3 lx"),
        (display.illuminance(640.0, IMPERIAL), "59.5 fc"),
        (display.illuminance(1234.0), "1\u202f230 lx"),
        (display.illuminance(99.96), "100 lx"),
        (display.length(3.0), "3.0 m"),
        (display.length(2.84), "2.84 m"),
        (display.length(12.34), "12.3 m"),
        (display.length(3.81, IMPERIAL), "12'6\""),
        (display.length(0.1524, IMPERIAL), '6"'),
        (display.length(3.65, IMPERIAL), "12'0\""),
        (display.mass(7.42), "7.4 kg"),
        (display.mass(118.4), "118 kg"),
        (display.mass(0.04), "0.04 kg"),
        (display.mass(0.1), "0.1 kg"),
        (display.mass(4.5359237, IMPERIAL), "10.0 lb"),
        (display.stops(0.44), "+0.4 stop"),
        (display.stops(-1.56), "\u22121.6 stops"),
        (display.stops(-0.04), "0.0 stop"),
        (display.stops(1.0), "+1.0 stop"),
        (display.stops(1.1), "+1.1 stops"),
        (display.stops(0.7, signed=False), "0.7 stop"),
        (display.hours(1.18), "1 h 10"),
        (display.hours(0.5), "30 min"),
        (display.hours(2.0), "2 h 00"),
        (display.fine_stops(-0.004), "0.00"),
        (display.fine_stops(-0.126), "\u22120.13"),
        (display.fine_stops(0.5), "+0.50"),
        (display.mired_shift(-25.6), "\u221226 mired"),
        (display.mired_shift(-0.3), "0 mired"),
        (display.mired_shift(8.0), "+8 mired"),
        (display.mired_shift(1.0), "+1 mired"),
        (display.share(0.74), "74 %"),
        (display.share(0.014), "1.4 %"),
        (display.plain(352.0, "W"), "352 W"),
        (display.plain(0.5, ""), "0.5"),
        (display.plain(float("inf"), "m"), "inf m"),
        (display.plain(1000.0, ""), "1\u202f000"),
        (display.plain(999.6, ""), "1\u202f000"),
        (display.plain(123456.0, ""), "123\u202f000"),
        (display.stops(-0.0), "0.0 stop"),
    ],
)
def test_figures_as_the_crew_reads_them(said, expected):
    assert str(said) == expected


def test_a_battery_never_lasts_longer_than_computed():
    assert str(display.hours(1.999)) == "1 h 59"
