from dataclasses import replace
from datetime import datetime

import numpy as np
import pytest

from iron_bucket.core.colour.bands import sent_on
from iron_bucket.core.colour.light_colour import mixed
from iron_bucket.core.colour.tinting import Tinting
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin
from iron_bucket.core.places.bearing import along_bearing, bearing_of, tilt_of
from iron_bucket.core.places.daylight_readings import Carried, ReadingFactor, carried, disagreeing, hours_apart
from iron_bucket.core.places.place import (
    AmbientReading,
    Cover,
    HouseCircuit,
    HouseLamp,
    OpeningKind,
    Place,
    Room,
    WallOpening,
)
from iron_bucket.core.places.surfaces import TYPICAL_SURFACES, Surface
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.polygon_room import CEILING
from iron_bucket.core.scene.scene import Mark, Scene
from iron_bucket.core.scene.skylight import OpenSky, Window
from iron_bucket.core.scene.sunlight import SUN_AT_M
from tests.tables import factory, refusals, table, tabled

NOON, MIDNIGHT = datetime(2026, 6, 21, 12, 0), datetime(2026, 1, 1)
WHITE = ("white paint",) * 4


an_opening = factory(__file__, "an_opening", WallOpening)


a_room = factory(__file__, "a_room", Room)


def a_place(**changes) -> Place:
    return Place(**({"name": "Place", "latitude_deg": 51.5, "rooms": (a_room(openings=(an_opening(),)),)} | changes))


@tabled
def test_bearings_run_clockwise_from_up_the_plan(bearing, tilt, vector):
    assert along_bearing(bearing, tilt) == pytest.approx(vector, abs=1e-4)
    assert tilt_of(np.array(vector)) == pytest.approx(tilt, abs=0.01)
    if abs(tilt) < 90:
        assert bearing_of(np.array(vector)) == pytest.approx(bearing, abs=0.01)


@tabled
def test_what_a_window_passes(changes, passes):
    assert an_opening(**changes).passes == pytest.approx(passes)


def test_the_typical_surfaces_and_equal_places_count_as_one():
    # docs/craft.md, section 3, for paint, plaster of the same family, concrete, brick, wood and cloth; the rest are
    # the house's.
    told = {each.name: (each.reflectance, each.shift_mired, each.duv) for each in TYPICAL_SURFACES}
    wanted = table(__file__, "test_the_typical_surfaces")
    assert told == {name: (*row, *(0.0,) * (3 - len(row))) for name, row in wanted.items()}
    assert Surface(name="s", reflectance=0.5).shift_mired == 0.0
    one, other = (
        Place(name="P", latitude_deg=50.0, surfaces=(Surface(name="own", reflectance=0.4),)) for _ in range(2)
    )
    assert len({one, other}) == 1


def test_a_place_knows_its_own_surfaces_beside_the_typical():
    place = a_place(surfaces=(Surface(name="pink tile", reflectance=0.4, shift_mired=60.0),))
    assert place.surface("pink tile").shift_mired == 60.0
    assert place.surface("concrete").reflectance == 0.3  # docs/craft.md, section 3
    assert place.surface_names()[: len(TYPICAL_SURFACES)] == tuple(each.name for each in TYPICAL_SURFACES)
    rings = tuple(HouseCircuit(name=name, voltage_v=230.0, breaker_a=13.0) for name in ("Up", "Down"))
    assert [replace(place, circuits=rings).circuit(name) for name in ("Down", "none")] == [rings[1], None]
    slip = a_room(openings=(an_opening(along_m=0.598), an_opening(opening_id="v", sill_m=1.204, wall=0)))
    assert slip.wall_length_m(1) == 4.0


# ---- a place as surroundings


def test_a_window_of_the_place_stands_in_its_wall_and_looks_inside():
    surroundings = Surroundings(a_place())
    opening = surroundings.rooms[0].openings[0]
    # Wall 3 runs from (5, 4) to (0, 4): two metres along it is x = 3; sill 0.9, 1.4 high.
    assert opening.panel.centre_m == pytest.approx((3.0, 4.0, 1.6))
    assert opening.panel.normal == pytest.approx((0.0, -1.0, 0.0))
    assert (opening.passes, opening.reflectance) == (0.8, 0.1)
    assert [surroundings.room_at(*spot) for spot in ((1, 1), (6, 1))] == [0, None]
    filmed = surroundings.walls_with_film({"w": Tinting(stops=1.0, shift_mired=90.0, duv=0.004)})
    tints = [(hole.passes, hole.tint) for wall in filmed for hole in wall.holes]
    assert tints == [(0.4, sent_on(90.0, 0.004))]
    bare = surroundings.walls_with_film({"another": Tinting(stops=1.0, shift_mired=90.0)})
    assert [(hole.passes, hole.tint) for wall in bare for hole in wall.holes] == [(0.8, (1.0, 1.0, 1.0))]
    green = Surroundings(a_place(rooms=(a_room(openings=(an_opening(glass_mired=-10.0, glass_duv=0.01),)),)))
    on_green = {"w": Tinting(shift_mired=90.0, duv=0.004)}
    for walls, tint in ((green.walls, (-10.0, 0.01)), (green.walls_with_film(on_green), (80.0, 0.014))):
        assert [hole.tint for wall in walls for hole in wall.holes] == [sent_on(*tint)]
    roof = Surroundings(a_place(rooms=(a_room(openings=(an_opening(wall=CEILING, along_m=2.0, sill_m=1.5),)),)))
    assert roof.rooms[0].openings[0].panel.centre_m == pytest.approx((2.0, 1.5, 2.6))
    pane = roof.rooms[0].openings[0].panel
    assert (pane.side_x.tolist(), pane.side_y.tolist()) == ([1.0, 0.0, 0.0], [0.0, -1.0, 0.0])


def test_what_rises_round_a_place_takes_its_sun_and_leaves_its_sky():
    bare = Surroundings(a_place())
    sun = bare.sun(NOON)
    hidden, seen = (Surroundings(a_place(horizon=((sun.azimuth_deg, sun.altitude_deg + off),))) for off in (0.5, -0.5))
    for around, has_sun in ((hidden, False), (seen, True), (bare, True)):
        light = {each.light.lamp_id: each.light for each in around.available_light(NOON, Weather.CLEAR)}
        assert ("sun" in light) is has_sun
        assert light["sky"].sky.horizontal_lx > 1000.0
    assert hidden.is_hidden(sun)
    assert not seen.is_hidden(sun)


def test_neighbours_share_the_door_between_them():
    door = an_opening(
        opening_id="d", name="Door", kind=OpeningKind.DOORWAY, wall=1, along_m=3.2, sill_m=0.0, height_m=2.0
    )
    beside = Room(room_id="b", name="Beside", corners=((5, 0), (6, 0), (6, 4), (5, 4)), height_m=2.6, walls=WHITE)
    surroundings = Surroundings(a_place(rooms=(a_room(openings=(door,)), beside)))
    shared = surroundings.rooms[1].openings
    assert [each.surface for each in shared] == [3]
    assert shared[0].panel.normal == pytest.approx((1.0, 0.0, 0.0))
    assert (shared[0].passes, shared[0].reflectance, shared[0].is_glass) == (1.0, 0.0, False)
    # No sky comes through a door that leads inside.
    assert [each.light.lamp_id for each in surroundings.available_light(NOON, Weather.OVERCAST)] == ["sky"]
    for corners in (((5.5, 0), (8, 0), (8, 4), (5.5, 4)), ((5, 5), (8, 5), (8, 9), (5, 9))):  # apart, and past its end
        apart = Surroundings(a_place(rooms=(a_room(openings=(door,)), replace(beside, corners=corners))))
        assert apart.rooms[1].openings == ()
    outside = {each.light.lamp_id: each.light for each in apart.available_light(NOON, Weather.OVERCAST)}
    assert not outside["d"].is_glass
    # Drawn a centimetre apart, each has the door in its own wall.
    slip = replace(beside, corners=((5.01, 0), (6, 0), (6, 4), (5.01, 4)))
    shared = Surroundings(a_place(rooms=(a_room(openings=(door,)), slip))).rooms[1].openings
    assert shared[0].panel.centre_m == pytest.approx((5.01, 3.2, 1.0))
    # What stands in a wall, passes light and leads outside is a pane; a roof light is none, nor this door.
    kinds = (an_opening(), an_opening(opening_id="roof", wall=CEILING, along_m=2.0, sill_m=1.5), door)
    lit = Surroundings(a_place(rooms=(a_room(openings=kinds), beside)))
    assert [each.surface for each in lit.panes_of(0)] == [2]
    assert Surroundings(a_place(rooms=(a_room(openings=(an_opening(glass=0.0),)),))).panes_of(0) == ()


def test_the_sun_stands_by_place_and_compass():
    surroundings = Surroundings(a_place())
    sun = surroundings.sun(NOON)
    assert sun.altitude_deg == pytest.approx(61.9, abs=0.3)
    assert surroundings.sun_bearing_deg(sun) == pytest.approx(180.0, abs=1.5)
    turned = Surroundings(a_place(north_deg=30.0))
    assert turned.sun_bearing_deg(sun) == pytest.approx(surroundings.sun_bearing_deg(sun) + 30.0)
    assert Surroundings(a_place(north_deg=300.0)).sun_bearing_deg(sun) == pytest.approx(120.0, abs=1.5)
    later = Surroundings(a_place(time_zone="Etc/GMT-2"))  # two hours ahead of Greenwich
    assert later.sun(NOON.replace(hour=14)) == sun


def test_what_light_is_there():
    lamp = HouseLamp(lamp_id="l", name="Globe", x_m=2, y_m=2, z_m=2.4, lumens=1000.0, is_bare=True)
    matt, off = replace(lamp, lamp_id="m", is_bare=False), replace(lamp, lamp_id="o", is_on=False)
    surroundings = Surroundings(a_place(house_lamps=(lamp, matt, off)))
    found = {each.light.lamp_id: each for each in surroundings.available_light(NOON, Weather.CLEAR)}
    assert set(found) == {"sky", "w", "sun", "l", "m"}
    assert isinstance(found["w"].light, Window)
    assert found["w"].light.is_glass
    assert (round(found["w"].colour.cct_k, -1), found["w"].origin, found["w"].is_daylight) == (
        9000.0,
        Origin.TYPICAL,
        True,
    )
    assert found["l"].light.intensity.intensity_cd(77.0) == pytest.approx(1000 / (4 * np.pi))
    assert found["m"].light.intensity.intensity_cd(0.0) == pytest.approx(1000 / np.pi)
    assert not found["l"].is_daylight
    # The sun's level square to its beam: IES RP-21 by hand; so high 1 / sin and the mass of air are one.
    sun = found["sun"].light
    expected = 127500 * np.exp(-0.21 / np.sin(np.radians(surroundings.sun(NOON).altitude_deg)))
    assert sun.intensity.candela / SUN_AT_M**2 == pytest.approx(expected, rel=1e-3)
    assert sun.aim[2] < -0.8
    assert sun.position_m == pytest.approx(-SUN_AT_M * sun.aim)
    night = surroundings.available_light(NOON.replace(hour=0), Weather.CLEAR)
    assert {each.light.lamp_id for each in night} == {"l", "m"}
    open_ground = Surroundings(a_place(rooms=()))
    assert isinstance(open_ground.available_light(NOON, Weather.OVERCAST)[0].light, OpenSky)
    scattering = Surroundings(a_place(rooms=(a_room(openings=(an_opening(cover=Cover.SHEER),)),)))
    sheer = scattering.available_light(NOON, Weather.CLEAR)[1].light
    # Of the six tenths that a sheer passes four go straight; all light on its outer side glows with the rest.
    assert (found["w"].light.glow_cd_m2, sheer.passes / found["w"].light.passes) == (0.0, pytest.approx(0.24))
    outside_lx = sheer.sky.on_plane_lx(-sheer.panel.normal)
    assert sheer.glow_cd_m2 == pytest.approx(1.5 * sheer.passes * outside_lx / np.pi)
    # Its colour is that of the sky and of six tenths of the sun on it, both of which come through; bare, the sky's.
    for cover, share in ((Cover.SHEER, 0.6), (Cover.OPEN, 0.0)):
        facing = Surroundings(a_place(north_deg=180.0, rooms=(a_room(openings=(an_opening(cover=cover),)),)))
        sky, pane, sun = facing.available_light(NOON, Weather.CLEAR)
        by_sky, whole = (
            of(-pane.light.panel.normal) for of in (pane.light.sky.on_plane_lx_without_sun, pane.light.sky.on_plane_lx)
        )
        assert whole > 2.0 * by_sky
        expected = mixed((sky.colour, sun.colour), (by_sky, (whole - by_sky) * share))
        assert pane.colour.mired == pytest.approx(expected.mired)
    dark = Surroundings(a_place(rooms=(a_room(openings=(an_opening(glass=0.0),)),)))
    shut = dark.available_light(NOON, Weather.OVERCAST)
    assert shut[1].colour.mired == shut[0].colour.mired


a_reading = factory(__file__, "a_reading", AmbientReading)


def level_at(surroundings: Surroundings, reading: AmbientReading, when: datetime, weather=Weather.OVERCAST) -> float:
    mark = Mark(
        mark_id="m",
        position_m=np.array([reading.x_m, reading.y_m, reading.z_m]),
        normal=along_bearing(reading.bearing_deg, reading.tilt_deg),
    )
    lights = surroundings.available_light(when, weather)
    scene = Scene(
        lamps=tuple(each.light for each in lights), rooms=surroundings.rooms, walls=surroundings.walls, marks=(mark,)
    )
    return float(unit_response(scene, surroundings.grids, fineness=SET).whole_lx.sum())


def test_a_reading_is_a_ratio_at_its_own_time():
    """At its hour the level is the reading; later the typical day times that ratio, faded by exp(-hours / 2)."""
    lamp = HouseLamp(lamp_id="l", name="Globe", x_m=2, y_m=2, z_m=2.4, lumens=300.0, is_bare=True)
    place = a_place(house_lamps=(lamp,), readings=(a_reading(),))
    there, typical = Surroundings(place), Surroundings(replace(place, readings=()))
    assert level_at(there, a_reading(), NOON) == pytest.approx(500.0, rel=1e-6)
    alone = level_at(typical, a_reading(), MIDNIGHT)
    ratio = (500.0 - alone) / (level_at(typical, a_reading(), NOON) - alone)
    assert there.reading_factors[0].factor == pytest.approx(ratio, rel=1e-6)
    for hour, minute, weather in ((9, 0, Weather.OVERCAST), (13, 30, Weather.OVERCAST), (17, 0, Weather.PARTLY)):
        when = NOON.replace(hour=hour, minute=minute)
        faded = ratio ** np.exp(-abs(hour + minute / 60.0 - 12.0) / 2.0)
        expected = alone + faded * (level_at(typical, a_reading(), when, weather) - alone)
        assert level_at(there, a_reading(), when, weather) == pytest.approx(expected, rel=1e-6), hour
    origins = [there.available_light(NOON.replace(hour=13, minute=at), Weather.OVERCAST)[0].origin for at in (30, 31)]
    assert origins == [Origin.MEASURED, Origin.TYPICAL]
    # Less than the house lamp alone gives says nothing of the sky; half a lux more, and half a lux of sky, does.
    assert Surroundings(replace(place, readings=(a_reading(illuminance_lx=0.5),))).reading_factors == ()
    black = a_room(openings=(an_opening(glass=1e-3),))
    for little in (replace(place, readings=(a_reading(illuminance_lx=alone + 0.5),)), replace(place, rooms=(black,))):
        level = level_at(Surroundings(little), a_reading(), NOON)
        assert level == pytest.approx(little.readings[0].illuminance_lx, rel=1e-6)
    clear = a_reading(illuminance_lx=20_000.0, tilt_deg=90.0, weather=Weather.CLEAR)
    outside = Surroundings(a_place(rooms=(), readings=(clear,)))
    assert level_at(outside, clear, NOON, Weather.CLEAR) == pytest.approx(20_000.0, rel=1e-6)


def test_of_several_readings_the_median_by_nearness_counts_and_contradictions_are_named():
    def factor(hour: int, value: float) -> ReadingFactor:
        return ReadingFactor(reading=a_reading(taken_at=NOON.replace(hour=hour)), factor=value)

    three = (factor(12, 9.0), factor(12, 0.5), factor(12, 1.2))
    assert carried(three, NOON) == Carried(factor=1.2, is_measured=True)
    near, far = factor(12, 2.0), factor(20, 0.1)
    assert carried((near, far), NOON).factor == 2.0
    assert carried((near, far), NOON.replace(hour=20)).factor == 0.1
    assert carried((near,), NOON.replace(hour=14)).factor == pytest.approx(2.0 ** np.exp(-1.0))
    assert carried((near, factor(13, 1.0), factor(13, 1.0)), NOON).factor == 1.0  # 1 against twice exp(-1/2)
    assert carried((), NOON) is None
    assert hours_apart(NOON.replace(hour=23), NOON.replace(hour=1, minute=30)) == 2.5
    told = disagreeing((factor(9, 1.0), factor(12, 1.4), factor(15, 0.5)))
    assert [(low.factor, high.factor) for low, high, _ in told] == [(0.5, 1.0), (0.5, 1.4)]
    assert told[0][2] == pytest.approx(1.0)


def test_a_colour_that_was_read_overrules_and_fades_like_the_level():
    """One window, daylight alone: every light of the day is shifted by what lay between reading and computation."""
    place = a_place(readings=(a_reading(cct_k=5000.0, duv=0.008),))
    there, typical = Surroundings(place), Surroundings(replace(place, readings=(a_reading(),)))
    ((mired, duv),) = (each.shift for each in there.reading_factors)
    window = typical.available_light(NOON, Weather.OVERCAST)[0].colour
    assert (mired, duv) == pytest.approx((200.0 - window.mired, 0.008 - window.duv), abs=1e-3)
    assert [each.shift for each in typical.reading_factors] == [None]
    for hour, origin in ((12, Origin.MEASURED), (14, Origin.TYPICAL)):
        when, faded = NOON.replace(hour=hour), np.exp(-(hour - 12) / 2.0)
        found, before = (each.available_light(when, Weather.OVERCAST)[0].colour for each in (there, typical))
        assert found.mired - before.mired == pytest.approx(faded * mired, abs=1e-3)
        assert found.duv - before.duv == pytest.approx(faded * duv, abs=1e-5)
        assert found.origin is origin
    lamp = HouseLamp(lamp_id="l", name="Globe", x_m=2, y_m=2, z_m=2.4, lumens=2000.0, is_bare=True, cct_k=2700.0)
    lit = replace(place, house_lamps=(lamp,))
    alone = level_at(Surroundings(replace(lit, readings=())), a_reading(), MIDNIGHT)
    _, day, globe = Surroundings(lit).available_light(NOON, Weather.OVERCAST)
    assert 40.0 < alone < 60.0
    there = mixed([day.colour, globe.colour], [500.0 - alone, alone])
    # Both together read what was read.
    assert (there.mired, there.duv) == (pytest.approx(200.0, abs=2.0), pytest.approx(0.008, abs=1e-3))
    dark = a_reading(illuminance_lx=alone * 1.9, cct_k=3000.0)
    only = Surroundings(replace(place, house_lamps=(lamp,), readings=(dark,)))
    assert [each.shift for each in only.reading_factors] == [None]  # most of it is the lamp's
    two = [
        ReadingFactor(reading=a_reading(taken_at=NOON.replace(hour=hour)), factor=1.0, shift=shift)
        for hour, shift in ((12, (30.0, 0.004)), (14, (-30.0, 0.0)), (13, None))
    ]
    both, weight = carried(two, NOON), np.exp(-1.0)
    assert both.shift_mired == pytest.approx(30.0 * (1.0 - weight) / (1.0 + weight))
    assert both.shift_duv == pytest.approx(0.004 / (1.0 + weight))
    assert both.is_colour_measured
    assert carried(two[1:2], NOON).shift_mired == pytest.approx(-30.0 * weight)
    assert not carried(two[1:2], NOON).is_colour_measured


def test_what_a_circuit_loses_in_its_own_wiring():
    ring = HouseCircuit(name="Ring", voltage_v=230.0, breaker_a=13.0, sag_v=6.0, sag_at_a=10.0)
    assert ring.sag_under_v(5.0) == 3.0
    assert replace(ring, sag_v=0.0, sag_at_a=0.0).sag_under_v(5.0) == 0.0


def test_house_lamps_by_their_lumens():
    """1000 lm two metres over a mark: a matt face that looks down, a globe; and aside, where only its way falls off."""
    matt = HouseLamp(lamp_id="l", name="L", x_m=1.0, y_m=1.0, z_m=3.0, lumens=1000.0)
    up = np.array([0.0, 0.0, 1.0])
    spots = {"under": (1.0, 1.0), "aside": (3.0, 1.0), "beside": (1.0, 3.0)}
    marks = tuple(Mark(mark_id=name, position_m=np.array([*spot, 1.0]), normal=up) for name, spot in spots.items())
    for lamp, under, aside in (
        (matt, 1000.0 / np.pi / 4.0, 1000.0 / np.pi * 0.5 / 8.0),
        (replace(matt, is_bare=True), 1000.0 / (4.0 * np.pi) / 4.0, 1000.0 / (4.0 * np.pi) * 0.5**0.5 / 8.0),
    ):
        night = Surroundings(a_place(rooms=(), house_lamps=(lamp,))).available_light(MIDNIGHT, Weather.CLEAR)
        scene = Scene(lamps=tuple(each.light for each in night), marks=marks)
        assert unit_response(scene, ()).whole_lx[0] == pytest.approx([under, aside, aside], rel=1e-6)


def test_a_room_s_floor_notes_of_several_lines_and_openings_within_their_walls():
    assert a_reading(note="by the door\nat noon").note.count("\n") == 1
    assert a_room(corners=((0, 0), (6, 0), (6, 4), (2, 4)), walls=WHITE).floor_area_m2 == pytest.approx(20.0)
    assert a_place(note="Key with the caretaker.\nLift is small.").note.count("\n") == 1
    assert a_room(openings=(an_opening(along_m=4.4),)).openings[0].along_m == 4.4  # it ends with the wall
    for changes, sentence in table(__file__, "test_an_opening_lies_within_its_wall"):
        with pytest.raises(BadValue, match=sentence):
            a_room(openings=(an_opening(**changes),))


test_what_is_refused = refusals(__file__)


def test_a_doorway_behind_which_nothing_is_recorded_is_named():
    """Between two rooms it leads on; in the far wall of the second it leads to nothing."""
    door = {"wall": 1, "along_m": 2.0, "sill_m": 0.0, "width_m": 0.9, "height_m": 2.0, "kind": OpeningKind.DOORWAY}
    rooms = tuple(
        Room(
            room_id=name,
            name=name,
            corners=((left, 0), (left + 4, 0), (left + 4, 4), (left, 4)),
            height_m=3.0,
            walls=("white paint",) * 4,
            openings=(WallOpening(opening_id=f"{name}-door", name="Door", **door),),
        )
        for name, left in (("Front", 0), ("Back", 4))
    )
    there = Surroundings(Place(name="Two rooms", rooms=rooms))
    assert there.doorways_to_nothing == ("Door of Back",)
    assert there.rooms_at(np.array([[1.0, 1, 0.5], [5, 1, 0.5], [9, 1, 0.5]])).tolist() == [0, 1, -1]
    assert Surroundings(Place(name="Field")).rooms_at(np.array([[1.0, 1, 0.5]])).tolist() == [-1]
