"""Patches of sun by hand: a window, its sill, its bearing and the latitude; and against rays to the sun."""

from datetime import UTC, datetime

import numpy as np
import pytest
import shapely

from iron_bucket.core.daylight.sun import SunPosition
from iron_bucket.core.days.sun_patches import sun_patches, wall_patches
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.places.place import Room, WallOpening
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.scene.blocking import passing
from iron_bucket.core.scene.polygon_room import CEILING
from tests.core.daylight import published
from tests.core.setups.made import a_place
from tests.tables import tabled

#: 6 by 5 metres; the window in the far wall at y = 5 from x = 2.2 to 3.8, 0.9 to 2.3 high. The far wall looks south.
SOUTH = Surroundings(a_place("white paint", north_deg=180.0))


@pytest.mark.parametrize("height_m", [0.0, 0.75, 1.5])
def test_a_patch_by_hand(height_m):
    """Noon of the 21st of December at 51.5 degrees north: altitude and azimuth by the almanac's formulas."""
    when = datetime(2026, 12, 21, 12, 0, tzinfo=UTC)
    altitude, azimuth = published.sun(when, 51.5, 0.0)
    assert altitude == pytest.approx(90.0 - 51.5 - 23.44, abs=0.1)
    (patch,) = sun_patches(SOUTH, SOUTH.sun(when.replace(tzinfo=None)), height_m)
    reach = {z: (z - height_m) / np.tan(np.radians(altitude)) for z in (max(0.9, height_m), 2.3)}
    aside = np.radians(azimuth - 180.0)  # west of south; the plan's right is west when its top is south
    near_y, far_y = (5.0 - run * np.cos(aside) for run in reach.values())
    assert (patch.outline_m[:, 1].max(), patch.outline_m[:, 1].min()) == (
        pytest.approx(near_y, abs=0.02),
        pytest.approx(max(far_y, 0.0), abs=0.02),
    )
    drift = -reach[max(0.9, height_m)] * np.sin(aside)
    nearest = patch.outline_m[np.abs(patch.outline_m[:, 1] - near_y) < 0.02]
    assert np.sort(nearest[:, 0]) == pytest.approx([2.2 - drift, 3.8 - drift], abs=0.02) or height_m == 0.0
    assert patch.height_m == height_m
    assert patch.area_m2 == pytest.approx(1.6 * (near_y - max(far_y, 0.0)), rel=0.03)


@pytest.mark.parametrize("seed", range(8))
def test_a_place_in_a_patch_sees_the_sun_and_one_beside_it_does_not(seed):
    chance = np.random.default_rng(seed)
    sun = SunPosition(altitude_deg=float(chance.uniform(5.0, 60.0)), azimuth_deg=float(chance.uniform(110.0, 250.0)))
    towards = along_bearing(SOUTH.sun_bearing_deg(sun), sun.altitude_deg)
    height_m = float(chance.uniform(0.0, 1.2))
    patches = sun_patches(SOUTH, sun, height_m)
    spots = np.column_stack([chance.uniform(0.05, 5.95, 400), chance.uniform(0.05, 4.95, 400), np.full(400, height_m)])
    seen = passing(np.array([20_000.0 * towards]), spots, SOUTH.laid_walls)[0] > 0.0
    inside = np.array([any(patch.holds(x, y) for patch in patches) for x, y, _ in spots.tolist()])
    assert (seen != inside).mean() < 0.005
    walls = wall_patches(SOUTH, sun)
    for number in {each.wall for each in walls}:  # down to the corners: what is covered of a wall, ray by ray
        wall, there = SOUTH.rooms[0].wall(number), [each for each in walls if each.wall == number]
        spots = np.column_stack([chance.uniform(0.02, wall.width_m - 0.02, 300), chance.uniform(0.02, 2.98, 300)])
        first = np.append(SOUTH.rooms[0].corners_m[number], 0.0) + 0.001 * wall.normal
        places = first - spots[:, :1] * wall.side_x + spots[:, 1:] * np.array([0.0, 0.0, 1.0])
        lit = passing(np.array([20_000.0 * towards]), places, SOUTH.laid_walls)[0] > 0.0
        covered = [
            any(shapely.contains_xy(shapely.Polygon(p.outline_m), *spot) for p in there) for spot in spots.tolist()
        ]
        assert (lit != np.array(covered)).mean() < 0.01
    assert all(each.outline_m.min() >= 0.0 for each in walls)
    assert {each.wall for each in walls} <= {0, 1, 3}
    for each in walls:
        along, up = each.outline_m.mean(axis=0)
        wall = SOUTH.rooms[0].wall(each.wall)
        place = np.append(SOUTH.rooms[0].corners_m[each.wall], 0.0) - along * wall.side_x + np.array([0.0, 0.0, up])
        seen = passing(np.array([20_000.0 * towards]), (place + 0.01 * wall.normal)[None], SOUTH.laid_walls)
        assert seen[0, 0] > 0.0
        assert each.ends_m == pytest.approx(
            np.append(SOUTH.rooms[0].corners_m[each.wall], 0.0)[:2]
            - np.array([each.outline_m[:, 0].min(), each.outline_m[:, 0].max()])[:, None] * wall.side_x[:2]
        )


@tabled
def test_a_patch_on_a_wall_by_hand(azimuth_deg, wall, along_y, across, up):
    """A room far from the corner of the plan, the sun ten degrees up."""
    window = WallOpening(opening_id="w", name="W", wall=2, along_m=3.0, sill_m=0.9, width_m=1.6, height_m=1.4)
    corners = ((10, 20), (16, 20), (16, 25), (10, 25))
    room = Room(room_id="r", name="R", corners=corners, height_m=3.0, walls=("white paint",) * 4, openings=(window,))
    around = Surroundings(a_place(north_deg=180.0, rooms=(room,)))
    (patch,) = wall_patches(around, SunPosition(altitude_deg=10.0, azimuth_deg=azimuth_deg))
    ends = np.sort(patch.ends_m, axis=0)
    assert (patch.wall, patch.room_id, patch.opening_id) == (wall, "r", "w")
    assert ends[:, 1 if along_y else 0] == pytest.approx(across, abs=2e-3)
    assert np.ptp(ends[:, 0 if along_y else 1]) == pytest.approx(0.0, abs=1e-9)
    assert (patch.outline_m[:, 1].min(), patch.outline_m[:, 1].max()) == pytest.approx(up, abs=2e-3)


def test_no_patch_without_the_sun_from_behind_or_from_another_room():
    high = SunPosition(altitude_deg=30.0, azimuth_deg=180.0)
    assert len(sun_patches(SOUTH, high)) == 1
    for sun in (SunPosition(altitude_deg=0.2, azimuth_deg=180.0), SunPosition(altitude_deg=30.0, azimuth_deg=0.0)):
        assert (sun_patches(SOUTH, sun), wall_patches(SOUTH, sun)) == ((), ())
    hidden = Surroundings(a_place(north_deg=180.0, horizon=((180.0, 31.0),)))
    assert sun_patches(hidden, high) == ()
    assert sun_patches(SOUTH, high, 2.4) == ()  # above the window
    beyond = Room(
        room_id="b", name="Beyond", corners=((0, 5), (6, 5), (6, 8), (0, 8)), height_m=3.0, walls=("white paint",) * 4
    )
    shut = Surroundings(a_place(north_deg=180.0, rooms=(*a_place().rooms, beyond)))
    assert sun_patches(shut, high) == ()
    light = WallOpening(
        opening_id="roof", name="Roof", wall=CEILING, along_m=3.0, sill_m=3.0, width_m=1.0, height_m=1.0
    )
    roof = Room(
        room_id="r",
        name="R",
        corners=((0, 0), (6, 0), (6, 5), (0, 5)),
        height_m=3.0,
        walls=("white paint",) * 4,
        openings=(light,),
    )
    (patch,) = sun_patches(
        Surroundings(a_place(north_deg=180.0, rooms=(roof,))), SunPosition(altitude_deg=60.0, azimuth_deg=180.0)
    )
    assert patch.area_m2 == pytest.approx(1.0)
    assert patch.outline_m.mean(axis=0) == pytest.approx((3.0, 3.0 - 3.0 / np.tan(np.radians(60.0))), abs=1e-6)


@pytest.mark.parametrize("seed", range(8))
def test_wings_and_inner_corners_shade_it(seed):
    """A room round a corner, with a wing before its window: every place against its ray to the sun."""
    window = WallOpening(opening_id="w", name="W", wall=0, along_m=3.0, sill_m=0.5, width_m=3.0, height_m=2.0)
    bent = Room(
        room_id="l",
        name="L",
        corners=((0, 0), (6, 0), (6, 2), (3, 2), (3, 6), (0, 6)),
        height_m=3.0,
        walls=("white paint",) * 6,
        openings=(window,),
    )
    wing = Room(
        room_id="wing",
        name="Wing",
        corners=((4, -4), (8, -4), (8, -1), (4, -1)),
        height_m=5.0,
        walls=("white paint",) * 4,
    )
    around = Surroundings(a_place(rooms=(bent, wing)))
    chance = np.random.default_rng(seed)
    sun = SunPosition(altitude_deg=float(chance.uniform(12.0, 40.0)), azimuth_deg=float(chance.uniform(130.0, 230.0)))
    towards = along_bearing(around.sun_bearing_deg(sun), sun.altitude_deg)
    spots = np.column_stack([chance.uniform(0.02, 5.98, 900), chance.uniform(0.02, 5.98, 900), np.full(900, 0.3)])
    spots = spots[around.rooms[0].holds(spots)]
    patches = sun_patches(around, sun, 0.3)
    seen = passing(np.array([20_000.0 * towards]), spots, around.laid_walls)[0] > 0.0
    inside = np.array([any(patch.holds(x, y) for patch in patches) for x, y, _ in spots.tolist()])
    assert (seen != inside).mean() < 0.01
    alone = sun_patches(Surroundings(a_place(rooms=(bent,))), sun, 0.3)
    assert sum(each.area_m2 for each in patches) <= sum(each.area_m2 for each in alone) + 1e-9
