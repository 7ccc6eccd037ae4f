"""Boards that throw the sun: mirror law by hand, energy kept, and how long an aim lasts."""

from datetime import datetime, timedelta

import numpy as np
import pytest

from iron_bucket.core.days.reflector import Reflector, aim_times, aimed, lasts, off_deg, reaches
from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.bearing import along_bearing

NOON = datetime(2026, 6, 21, 12, 0)


def a_board(**changes) -> Reflector:
    """Four metres before a mark, throwing up the plan."""
    made = {
        "at_m": np.array([0.0, 0.0, 1.5]),
        "mark_m": np.array([0.0, 4.0, 1.5]),
        "width_m": 1.0,
        "height_m": 1.2,
        "reflectance": 0.88,
    }
    return Reflector(**(made | changes))


def moving(when: datetime) -> np.ndarray:
    """A quarter of a degree a minute, at forty degrees."""
    return along_bearing(0.25 * (when - NOON).total_seconds() / 60.0, 40.0)


def test_the_front_halves_the_angle_between_sun_and_mark():
    found = aimed(a_board(), along_bearing(0.0, 40.0), 80_000.0)
    assert (found.bearing_deg % 360.0, found.tilt_deg) == (pytest.approx(0.0), pytest.approx(20.0))
    side = aimed(a_board(), along_bearing(90.0, 0.001), 80_000.0)
    assert (side.bearing_deg, side.tilt_deg) == (pytest.approx(45.0), pytest.approx(0.0, abs=0.01))
    for sun in (along_bearing(180.0, 3.0), along_bearing(0.0, -1.0)):
        assert aimed(a_board(), sun, 80_000.0) is None  # in its back, and under the horizon


def test_it_throws_as_long_as_it_shows_a_sixth_of_its_face():
    # At 79 degrees to its front the cosine is 0.19, at 81 it is 0.156.
    for half_deg, throws in ((75.0, True), (79.0, True), (81.0, False)):
        found = aimed(a_board(), along_bearing(2.0 * half_deg, 0.01), 80_000.0)
        assert (found is not None) == throws
        assert not throws or found.cosine == pytest.approx(np.cos(np.radians(half_deg)), abs=1e-3)


def test_it_is_aimed_again_before_it_has_drifted():
    times = aim_times(a_board(), NOON, NOON + timedelta(minutes=40), moving, 2.0)
    step = lasts(a_board(), NOON, moving, 2.0)
    assert times == tuple(NOON + at * step for at in range(len(times)))
    assert times[-1] < NOON + timedelta(minutes=40) <= times[-1] + step
    assert aim_times(a_board(), NOON, NOON, moving, 2.0) == ()
    assert aim_times(a_board(), NOON, NOON + step, lambda _: along_bearing(0.0, -1.0), 2.0) == ()
    fast = aim_times(a_board(), NOON, NOON + timedelta(minutes=2), lambda at: moving(NOON + 60 * (at - NOON)), 0.1)
    assert fast == tuple(NOON + timedelta(seconds=30 * at) for at in range(4))


@pytest.mark.parametrize("spread_deg", [0.0, 1.0, 12.0])
@pytest.mark.parametrize("sun", [(20.0, 30.0), (-70.0, 55.0)])
def test_no_light_is_made_and_all_that_is_sent_on_arrives(spread_deg, sun):
    board, towards = a_board(spread_deg=spread_deg), along_bearing(*sun)
    found = aimed(board, towards, 80_000.0)
    cosine = along_bearing(found.bearing_deg, found.tilt_deg) @ towards
    arrives = found.illuminance_lx * found.patch_m[0] * found.patch_m[1]
    assert arrives == pytest.approx(0.88 * 80_000.0 * 1.0 * 1.2 * cosine)
    assert found.illuminance_lx < 0.88 * 80_000.0
    grown = 2.0 * 4.0 * np.tan(np.radians(spread_deg + 0.265))
    assert found.patch_m == (pytest.approx(cosine + grown), pytest.approx(1.2 + grown))
    near = aimed(a_board(spread_deg=spread_deg, mark_m=np.array([0.0, 2.0, 1.5])), towards, 80_000.0)
    assert near.illuminance_lx > found.illuminance_lx


def test_what_it_throws_drifts_as_the_sun_does():
    board, at = a_board(), along_bearing(30.0, 40.0)
    assert off_deg(board, at, at) == pytest.approx(0.0, abs=1e-5)
    higher = along_bearing(30.0, 43.0)
    assert off_deg(board, at, higher) == pytest.approx(3.0)  # a fixed mirror turns what it throws by as much
    # Seen from the board the sun moves by cos 40 of what its bearing does: 0.1915 degrees a minute.
    assert lasts(board, NOON, moving, 2.0) / timedelta(minutes=1) == pytest.approx(
        2.0 / (0.25 * np.cos(np.radians(40.0))), abs=0.51
    )
    assert lasts(board, NOON, lambda _: at, 2.0) == timedelta(hours=2)
    for wrong in (0.05, 45.5):
        with pytest.raises(BadValue, match=f"drift is {wrong}"):
            lasts(board, NOON, moving, wrong)


def test_when_it_reaches_at_all():
    times = [NOON + timedelta(minutes=10 * step) for step in range(100)]

    def turning(when: datetime) -> np.ndarray:
        return along_bearing((when - NOON).total_seconds() / 180.0, 20.0)  # once round in eighteen hours

    ((begins, ends),) = reaches(a_board(), times[:50], turning, lambda _: 0.5)
    assert begins == NOON
    last = aimed(a_board(), turning(ends), 1.0)
    assert last is not None
    assert aimed(a_board(), turning(ends + timedelta(minutes=10)), 1.0) is None or ends == times[49]
    assert reaches(a_board(), times, lambda _: along_bearing(0.0, -5.0), lambda _: 1.0) == ()
    shade = reaches(a_board(), times[:4], lambda _: along_bearing(0.0, 30.0), lambda when: float(when > times[1]))
    assert shade == ((times[2], times[3]),)
    for wrong in ({"reflectance": 1.1}, {"spread_deg": 61.0}):
        with pytest.raises(BadValue):
            a_board(**wrong)
