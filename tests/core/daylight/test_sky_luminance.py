"""Skies by direction, by hand from ISO 15469."""

import numpy as np
import pytest

from iron_bucket.core.daylight.sky_luminance import Looks, SkyLuminance, dome_directions

UP, NORTH = np.array([0.0, 0.0, 1.0]), np.array([0.0, 1.0, 0.0])
SUN = np.array([0.0, 0.5, np.sqrt(0.75)])


def a_sky(kind: str = "clear", **changes) -> SkyLuminance:
    given = {"kind": kind, "horizontal_lx": 10_000.0, "ground_reflectance": 0.2, "sun_towards": SUN}
    return SkyLuminance(**(given | changes))


@pytest.mark.parametrize("kind", ["uniform", "overcast", "partly cloudy", "clear"])
def test_every_sky_lays_what_it_is_said_to_on_open_ground(kind):
    sky = a_sky(kind, sun_normal_lx=50_000.0)
    assert sky.on_plane_lx_without_sun(UP) == pytest.approx(10_000.0, rel=0.005)
    assert sky.on_plane_lx(UP) == pytest.approx(10_000.0 + 50_000.0 * np.sqrt(0.75), rel=0.005)
    assert sky.ground_cd_m2 == pytest.approx(0.2 * (10_000.0 + 50_000.0 * np.sqrt(0.75)) / np.pi)
    # Ground lit alike all round fills a plane that looks down.
    assert sky.on_plane_lx(-UP) == pytest.approx(np.pi * sky.ground_cd_m2, rel=0.005)
    twice = sky.brighter(2.0)
    assert twice.on_plane_lx(NORTH) == pytest.approx(2.0 * sky.on_plane_lx(NORTH))


def test_a_wall_under_an_overcast_sky():
    # docs/craft.md, section 3: 0.396 of the horizontal without ground; of an even sky a half.
    for kind, share in (("overcast", 0.396), ("uniform", 0.5)):
        assert a_sky(kind, ground_reflectance=0.0).on_plane_lx(NORTH) == pytest.approx(share * 10_000.0, rel=0.005)
    assert a_sky("overcast").luminance_cd_m2(Looks.along(UP)) == pytest.approx(
        9.0 * 10_000.0 / (7.0 * np.pi), rel=0.002
    )


def test_a_clear_sky_is_bright_about_the_sun():
    # Type 12 by hand: gradation 1 - exp(-0.32 / sin), indicatrix 1 + 10 (exp(-3 x) - exp(-3 pi / 2)) + 0.45 cos^2 x.
    def relative(sine, x):
        return (1.0 - np.exp(-0.32 / sine)) * (
            1.0 + 10.0 * (np.exp(-3.0 * x) - np.exp(-3.0 * np.pi / 2.0)) + 0.45 * np.cos(x) ** 2
        )

    away = np.array([0.0, -0.8, 0.6])
    found = a_sky().luminance_cd_m2(Looks.along(np.array([UP, 7.0 * SUN, away])))
    off_away = np.arccos(away @ SUN)
    expected = np.array([relative(1.0, np.pi / 6.0), relative(SUN[2], 0.0), relative(0.6, off_away)])
    assert found / found[0] == pytest.approx(
        expected / expected[0], rel=1e-6
    )  # an arc cosine has half its digits at the sun
    assert found[1] > 3.0 * found[2]
    assert a_sky().luminance_cd_m2(Looks.along(UP)) == pytest.approx(found[0])
    square = np.array([[UP, SUN], [away, UP]])
    assert a_sky().luminance_cd_m2(Looks.along(square)) == pytest.approx(found[[[0, 1], [2, 0]]])
    # Where no sun counts, the indicatrix is one all over; neither ground nor walls get any of it.
    alone = a_sky(sun_towards=None, sun_normal_lx=50_000.0)
    high, low = alone.luminance_cd_m2(Looks.along(np.array([UP, away])))
    assert low / high == pytest.approx((1.0 - np.exp(-0.32 / 0.6)) / (1.0 - np.exp(-0.32)))
    assert alone.ground_cd_m2 == pytest.approx(0.2 * 10_000.0 / np.pi)
    assert alone.on_plane_lx(UP) == pytest.approx(10_000.0, rel=0.005)


def test_directions_are_spread_evenly_and_the_horizon_is_part_sky_part_ground():
    sky = a_sky("uniform")
    ways = np.array([[1.0, 0.0, z] for z in (-0.3, -0.1, 0.0, 0.1, 0.3)])
    above, below = 10_000.0 / np.pi, sky.ground_cd_m2
    shares = np.array([0.0, 0.25, 0.5, 0.75, 1.0])
    assert sky.luminance_cd_m2(Looks.along(ways, 0.2)) == pytest.approx(below + shares * (above - below), rel=0.002)
    assert sky.luminance_cd_m2(Looks.along(ways[[1, 3]])) == pytest.approx([below, above], rel=0.002)
    # Sixteen bands an eighth high, the first a sixteenth over its end; every other turned by half of 15 degrees.
    first = dome_directions()
    at = [0, 1, 24, 25, 48, 383]
    assert first[at, 2] == pytest.approx([-15 / 16, -15 / 16, -13 / 16, -13 / 16, -11 / 16, 15 / 16])
    assert np.degrees(np.arctan2(first[at, 1], first[at, 0])) == pytest.approx([0.0, 15.0, 7.5, 22.5, 0.0, -7.5])
    assert len(first) == 384
    ways = dome_directions(2)
    assert np.linalg.norm(ways, axis=1) == pytest.approx(np.ones(4 * 384))
    assert ways.mean(axis=0) == pytest.approx(np.zeros(3), abs=1e-12)
    assert np.square(ways).mean(axis=0) == pytest.approx(np.full(3, 1.0 / 3.0), rel=0.001)
