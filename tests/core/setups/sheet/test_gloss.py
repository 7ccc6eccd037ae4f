"""Lamps that show in what is glossy or wet, by the mirror's law and Fresnel's."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.places.place import Gloss
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.plan.setup import Camera, Spot
from iron_bucket.core.setups.sheet.clearance import clearance
from iron_bucket.core.setups.sheet.gloss import glare_lines
from tests.core.setups.made import RULES, a_lamp, a_place, lit_setup
from tests.tables import tabled

#: The camera looks down at the floor, a lamp four metres before it looks back.
CAMERA = Camera(x_m=3.0, y_m=0.5, z_m=1.5, bearing_deg=0.0, tilt_deg=-35.0, focal_mm=25.0)
LAMP = a_lamp(x_m=3.0, y_m=4.5, z_m=1.5, aims_at="", bearing_deg=180.0, tilt_deg=-30.0, level=1.0)


def a_room(**gloss) -> Surroundings:
    (room,) = a_place().rooms
    return Surroundings(a_place(rooms=(replace(room, **gloss),)))


def seen(gear, surroundings=None, **changes) -> list:
    given = {"camera": CAMERA, "lamps": (LAMP,), "people": (), "spots": ()} | changes
    return list(glare_lines(lit_setup(gear, surroundings=surroundings or a_room(floor_gloss=Gloss.WET), **given)))


def test_where_a_lamp_shows_in_a_wet_floor(gear):
    (line,) = seen(gear)
    assert (line.lamp, line.surface) == ("Key", "the floor of Room")
    at_m = line.place_m - (LAMP.y_m - 0.5) * 0.0
    assert at_m == pytest.approx([3.0, 2.5, 0.0], abs=0.1)  # half way, but for how far the source lies behind its lens
    assert line.away_m == pytest.approx(2.5, abs=0.08)  # the diagonal of 1.5 and 2
    assert line.off_deg == pytest.approx(53.1, abs=1.0)
    assert line.returned == pytest.approx(0.039, abs=0.001)  # at water's own angle all of one kind, half of 0.0776
    found = lit_setup(
        gear, camera=CAMERA, lamps=(LAMP,), people=(), spots=(), surroundings=a_room(floor_gloss=Gloss.WET)
    )
    told = next(each for each in clearance(found, gear, RULES) if each.code == "gloss")
    assert told.title == "Key glares on the floor of Room"
    assert "53° from square to it, where 3.9 % of its brightness comes back" in told.trigger


def test_a_floor_shines_up_to_its_walls_and_not_beyond_them(gear):
    """A floor from (10, 20) to (16, 25): half a metre off its first corner, and outside by as much."""
    (room,) = a_place().rooms
    corners = ((10, 20), (16, 20), (16, 25), (10, 25))
    there = a_place(
        rooms=(replace(room, corners=corners, floor_gloss=Gloss.WET, openings=()),), sockets=(), circuits=()
    )
    for x_m, count in ((10.4, 1), (15.6, 1), (17.5, 0)):
        camera = replace(CAMERA, x_m=x_m, y_m=20.3, tilt_deg=-65.0)
        lamp = replace(LAMP, x_m=x_m, y_m=21.3, tilt_deg=-60.0)
        lines = seen(gear, Surroundings(there), camera=camera, lamps=(lamp,))
        assert len(lines) == count
        assert all(each.place_m == pytest.approx([x_m, 20.8, 0.0], abs=0.1) for each in lines)


@pytest.mark.parametrize(("share", "shows"), [(0.01, False), (0.03, True)])
def test_what_is_a_fiftieth_of_the_brightest_shows(gear, share, shows):
    """The lamp turned upwards until it sends so much of its peak at the place half way."""
    bench = {each.slug: each for each in gear.configurations}
    angles = np.arange(0.0, 90.0, 0.01)
    candela = bench[LAMP.configuration].distribution.intensity_cd(angles)
    off_deg = float(angles[np.argmax(candela < share * candela[0])])
    assert bool(seen(gear, lamps=(replace(LAMP, tilt_deg=-36.87 + off_deg),))) is shows


@tabled
def test_nothing_glares_dull_dark_turned_away_unseen_or_flagged(gear, changes):
    assert seen(gear, **changes) == []


def test_walls_and_tables_shine_too(gear):
    level = replace(CAMERA, tilt_deg=0.0)
    lamp = replace(LAMP, x_m=4.5, y_m=2.5, bearing_deg=0.0, tilt_deg=0.0)
    names = {each.surface for each in seen(gear, a_room(wall_gloss=Gloss.GLOSSY), camera=level, lamps=(lamp,))}
    assert names == {"wall 3 of Room"}
    table = Spot(
        piece_id="t", name="Table", x_m=3.0, y_m=2.5, z_m=0.0, bearing_deg=0.0, tilt_deg=90.0, gloss=Gloss.GLOSSY
    )
    assert [each.surface for each in seen(gear, a_room(), spots=(table,))] == ["Table"]
    for beside in ({"y_m": 3.3}, {"x_m": 3.8}):
        assert seen(gear, a_room(), spots=(replace(table, **beside),)) == []
