"""Light through a day against the set-up computed at that hour, and how long it holds."""

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest

from iron_bucket.core.colour.gel_stacks import off_mired
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import seen_against
from iron_bucket.core.colour.white import uv_from_xyz
from iron_bucket.core.daylight.sun import SunPosition
from iron_bucket.core.days import sun_out as sun_out_module
from iron_bucket.core.days.continuity import match_sheet
from iron_bucket.core.days.day_for_night import day_for_night
from iron_bucket.core.days.holding import Condition, Holding, _clip, _level, holding_of, with_condition
from iron_bucket.core.days.hours_of_light import STEP, _knots, _of_sun, hours_of_light, times_of_day
from iron_bucket.core.days.insurance import insurance
from iron_bucket.core.days.sun_out import sun_out, sun_share
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.figure import Origin
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.setups.evaluate.faces import lit_faces
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import fresh_response
from iron_bucket.core.setups.evaluate.mark_colours import xyz_at_marks
from iron_bucket.core.setups.plan.camera_view import in_view
from iron_bucket.core.setups.plan.changes import changed
from iron_bucket.core.setups.plan.setup import Camera, ColourTarget, Spot, Target, WindowFilm
from iron_bucket.core.setups.sheet.clearance import flat_points_m
from iron_bucket.core.setups.suggest.fix import tried
from tests.core.setups.made import NOON, RULES, a_lamp, a_place, a_setup, lit_setup

SIX = NOON.replace(hour=6, minute=0)
TIMES = times_of_day(SIX, 14.0)


def a_day(gear, around=None, times=TIMES, **changes):
    around = around or Surroundings(a_place("white paint"))
    setup = a_setup(**({"when": NOON, "lamps": (a_lamp(level=0.05),)} | changes))
    lit = lit_setup(gear, setup, surroundings=around)
    return lit, hours_of_light(lit, gear, times)


@pytest.mark.parametrize("weather", ["clear", "overcast"])
@pytest.mark.parametrize("north_deg", [0.0, 180.0])
def test_every_hour_is_what_the_set_up_is_at_that_hour(gear, weather, north_deg):
    """At the knots, but for the edges of the sun's patches; in between within an eighth of a stop by day."""
    edges = 0.08 if (weather, north_deg) == ("clear", 180.0) else 0.0
    around = Surroundings(a_place("white paint", north_deg=north_deg))
    kind = type(a_setup().weather)(weather)
    lit, hours = a_day(gear, around, weather=kind)
    assert hours.lux.shape == (len(TIMES), len(lit.built.marks))
    for when, close in ((NOON, 0.01), (NOON.replace(hour=9), 0.01), (NOON.replace(hour=14, minute=30), 0.12)):
        near = close + edges
        there = lit_setup(gear, replace(lit.built.setup, when=when), surroundings=around)
        at = TIMES.index(when)
        assert np.log2(hours.lux[at] / there.total_lx) == pytest.approx(0.0, abs=near)
        assert hours.xyz[at] == pytest.approx(xyz_at_marks(there).sum(axis=0), rel=near * 1.5, abs=1e-3)


def test_at_night_there_are_the_lamps_alone_and_a_film_darkens_its_pane(gear):
    night = tuple(NOON.replace(hour=1) + at * STEP for at in range(3))
    lit, hours = a_day(gear, times=night)
    lamps = [at for at, light in enumerate(lit.built.lights) if light.placed]
    assert hours.xyz == pytest.approx(np.array([xyz_at_marks(lit)[lamps].sum(axis=0)] * 3))
    panes = [
        a_day(gear, times=(NOON, NOON + STEP), lamps=(), **films)[1].windows_cd_m2["window"]
        for films in ({}, {"films": (WindowFilm(piece_id="f", opening_id="window", stops=1.0),)})
    ]
    assert panes[1] == pytest.approx(panes[0] / 2.0)
    open_air, clear = Surroundings(replace(a_place(), rooms=())), type(a_setup().weather)("clear")
    lit = lit_setup(gear, a_setup(when=NOON, weather=clear, lamps=()), surroundings=open_air)
    (sun,), beam = hours_of_light(lit, gear, (NOON,)).xyz, open_air.sun_light(NOON, clear)
    off = _of_sun(lit, (NOON,), lambda _: clear)[0]
    for each in off[off[:, 1] > 0.0]:
        assert uv_from_xyz(each) == pytest.approx(beam.colour.uv, abs=1e-6)
    assert (sun[:, 1] > off[:, 1]).all()  # the sky comes on top


def test_the_light_is_computed_every_hour_and_oftener_under_a_low_sun():
    times = [NOON + at * STEP for at in range(30)]
    low, high = (SunPosition(altitude_deg=deg, azimuth_deg=90.0) for deg in (-11.9, 12.0))
    knots = _knots(times, [low if at > 12 else high for at in range(30)])
    assert [(each - NOON) / STEP for each in knots] == [0, 12, 18, 24, 29]


def test_where_the_sun_falls_is_looked_at_in_every_step(gear):
    around = Surroundings(a_place("white paint", north_deg=180.0))
    lit, hours = a_day(gear, around, weather=type(a_setup().weather)("clear"), lamps=())
    at = int(hours.sun_lx.sum(axis=1).argmax())
    there = lit_setup(gear, replace(lit.built.setup, when=TIMES[at]), surroundings=around)
    suns = [each for each, light in enumerate(there.built.lights) if light.light_id == "sun"]
    direct = there.response.direct_lx[suns].sum(axis=0)
    assert hours.sun_lx[at] == pytest.approx(direct, rel=0.02, abs=1.0)
    assert (hours.is_sunlit[at] == (hours.sun_lx[at] > 0.02 * hours.lux[at])).all()
    dim = replace(hours, sun_lx=0.019 * hours.lux)
    assert not dim.is_sunlit.any()
    assert replace(hours, sun_lx=0.021 * hours.lux).is_sunlit[at].all()
    assert hours.sun_lx[hours.lux.sum(axis=1) < 1.0].sum() == 0.0
    overcast = a_day(gear, around, lamps=())[1]
    assert overcast.sun_lx.max() == 0.0
    assert timedelta(minutes=5) == STEP
    assert (times_of_day(SIX, 1.0)[0], times_of_day(SIX, 1.0)[-1], len(times_of_day(SIX, 1.0))) == (
        SIX,
        SIX.replace(hour=7),
        13,
    )


def held(gear, **changes) -> Holding:
    lit, hours = a_day(gear, **changes)
    return holding_of(hours, ladder_of(lit, RULES.receptor), RULES.receptor)


def test_a_level_holds_while_it_is_within_its_tolerance(gear):
    lit, hours = a_day(gear)
    at = TIMES.index(NOON)
    wanted = lit.built.setup.look.wanted_lx(RULES.receptor)
    key = np.maximum(*(hours.lux[:, lit.built.mark_index(f"anna.{side}")] for side in ("left", "right")))
    stops = np.log2(key / wanted)
    whole = held(gear, targets=(Target(piece_id="t", mark="anna.key", stops=float(stops[at]), tolerance=0.5),))
    (condition,) = [each for each in whole.conditions if each.name.startswith("level")]
    found = Holding(times=whole.times, conditions=(condition,), holds=condition.holds)
    assert (whole.holds <= found.holds).all()
    assert (condition.holds == (np.abs(stops - stops[at]) <= 0.5)).all()
    spans = [(a, b) for a, b in found.spans if a <= NOON < b]
    assert len(spans) == 1
    until = found.until(NOON)
    assert until == spans[0][1]
    late = found.at(until)
    assert not found.holds[late]
    assert found.ends(NOON) == "; ".join(found.misses(late))
    assert f"Anna key side is {abs(stops[late] - stops[at]):.1f} stops under" in found.ends(NOON)
    assert found.left_min(NOON) == (until - NOON).total_seconds() / 60.0
    assert found.until(until) is None
    assert found.left_min(until) == 0.0
    assert found.ends(until) == "; ".join(found.misses(late))
    whole = timedelta(minutes=60)
    assert found.missed_min(until - whole / 2, until + whole / 2) == 30.0
    assert found.missed_spans(until - whole, until + timedelta(minutes=10)) == ((until, until + timedelta(minutes=10)),)
    assert found.missed_min(NOON, NOON) == 0.0
    assert found.missed_min(TIMES[-1] + whole, TIMES[-1] + 2 * whole) == 60.0
    assert [found.at(each) for each in (SIX - whole, SIX, SIX + STEP, SIX + 1.5 * STEP, TIMES[-1] + whole)] == [
        0,
        0,
        1,
        1,
        len(TIMES) - 1,
    ]
    edge = Holding(times=TIMES, conditions=(condition,), holds=np.ones(len(TIMES), dtype=bool))
    assert (edge.until(NOON), edge.ends(NOON)) == (TIMES[-1] + STEP, "")
    assert edge.left_min(TIMES[-1] + 2 * STEP) == 0.0


def test_windows_colours_and_the_sun_are_held_too(gear):
    free = Holding(times=TIMES, conditions=(), holds=np.ones(len(TIMES), dtype=bool))
    assert free.is_free
    names = [each.name for each in held(gear, lamps=()).conditions]
    assert names == ["Wall under the clip", "Window under the clip"]
    assert (free.missed_min(SIX, NOON), free.spans) == (0.0, ((TIMES[0], TIMES[-1] + STEP),))
    colour = ColourTarget(piece_id="c", mark="anna.key", mired=0.0, tolerance=5.0)
    found = held(gear, colour_targets=(colour,))
    (condition,) = [each for each in found.conditions if each.name == "colour of anna.key"]
    assert not condition.holds.all()
    assert "mired off" in condition.miss(int(np.flatnonzero(~condition.holds)[0]))
    lit, hours = a_day(gear, colour_targets=(colour,))
    key = lit.place_of("anna.key")
    for at in (TIMES.index(NOON), TIMES.index(NOON.replace(hour=15))):
        left = seen_against(LightColour.of(uv_from_xyz(hours.xyz[at, key]), Origin.TYPICAL), lit.built.setup.look.white)
        assert condition.miss(at) == f"the colour of anna.key is {off_mired(left.mired, left.duv):.0f} mired off"
    ladder = ladder_of(lit, RULES.receptor)
    window = next(each for each in found.conditions if each.name == "Window under the clip")
    over = ladder.rung("window").stops - ladder.above
    assert window.miss(TIMES.index(NOON)) == f"Window clips, {over:.1f} stops over the top"
    south = Surroundings(a_place("white paint", north_deg=180.0))
    clear = type(a_setup().weather)("clear")
    wide = Target(piece_id="t", mark="anna.key", stops=0.0, tolerance=4.0)
    noon = NOON.replace(month=12)  # a low sun, that reaches her
    winter = times_of_day(noon.replace(hour=8), 8.0)
    lit, hours = a_day(gear, south, winter, weather=clear, lamps=(), targets=(wide,), when=noon)
    sunlit = np.flatnonzero((hours.sun_lx > 0.5 * hours.lux).any(axis=1))
    when = winter[int(sunlit[len(sunlit) // 2])]
    lit, hours = a_day(gear, south, winter, weather=clear, lamps=(), targets=(wide,), when=when)
    back = lit.built.mark_index("anna.back")
    assert hours.sun_lx[winter.index(when), back] > 0.5 * hours.lux[winter.index(when), back]
    assert hours.lux[winter.index(when), back] == pytest.approx(lit.total_lx[back], rel=0.08)
    found = holding_of(hours, ladder_of(lit, RULES.receptor), RULES.receptor, 10.0)
    names = {each.name: each for each in found.conditions}
    turn = names["direction of the sun"]
    azimuth = {t: lit.built.surroundings.sun(t).azimuth_deg for t in winter}
    assert [bool(x) for x in turn.holds] == [abs(azimuth[t] - azimuth[when]) <= 10.0 for t in winter]
    assert "over 10°" in turn.miss(0)
    watched = [each for each in found.conditions if each.name.startswith("sun on Anna")]
    assert watched
    assert watched[0].miss(0).startswith("the sun is off Anna")


def test_the_sky_that_was_told_stands_in_place_of_the_set_ups(gear):
    around, kind = Surroundings(a_place("white paint", north_deg=180.0)), type(a_setup().weather)
    lit = lit_setup(gear, a_setup(when=NOON, weather=kind.CLEAR, lamps=()), surroundings=around)
    clouds_over = NOON.replace(hour=13)
    told = hours_of_light(lit, gear, TIMES, sky_at=lambda at: kind.CLEAR if at < clouds_over else kind.OVERCAST)
    clear, overcast = (a_day(gear, around, weather=each, lamps=())[1] for each in (kind.CLEAR, kind.OVERCAST))
    before, after = TIMES.index(NOON.replace(hour=11)), TIMES.index(NOON.replace(hour=14))
    assert told.lux[before] == pytest.approx(clear.lux[before])
    assert told.lux[after] == pytest.approx(overcast.lux[after])
    assert (told.sun_lx[TIMES.index(clouds_over) :] == 0.0).all()


def test_where_no_sun_was_planned_it_stays_away(gear):
    south, clear = Surroundings(a_place("white paint", north_deg=180.0)), type(a_setup().weather)("clear")
    noon = NOON.replace(month=12)
    winter = times_of_day(noon.replace(hour=8), 8.0)
    wide = Target(piece_id="t", mark="anna.key", stops=0.0, tolerance=4.0)
    lit, hours = a_day(gear, south, winter, weather=clear, lamps=(), targets=(wide,), when=winter[0])
    found = holding_of(hours, ladder_of(lit, RULES.receptor), RULES.receptor)
    away = [each for each in found.conditions if each.name.startswith("no sun on Anna")]
    assert away
    assert not any(each.name == "direction of the sun" for each in found.conditions)
    at = lit.built.mark_index("anna.back")
    (back,) = [each for each in away if each.name == "no sun on Anna, back"]
    assert (back.holds == (hours.sun_lx[:, at] <= 0.2 * hours.lux[:, at])).all()
    assert back.miss(0) == "the sun falls on Anna, back"
    for share, counts in ((0.19, False), (0.21, True)):
        planned = replace(hours, sun_lx=share * hours.lux)
        names = [each.name for each in holding_of(planned, ladder_of(lit, RULES.receptor), RULES.receptor).conditions]
        assert ("direction of the sun" in names) == counts
        assert not any(name.startswith("no sun") for name in names)
    both = with_condition(
        found, Condition(name="sound", holds=np.zeros(len(winter), dtype=bool), miss=lambda _: "loud")
    )
    assert (both.spans, both.misses(0)[-1]) == ((), "loud")


def test_a_level_holds_to_the_ends_of_its_tolerance_and_the_clip_to_its_own():
    target = Target(piece_id="t", mark="m", stops=1.0, tolerance=0.5)
    level = _level("Anna", np.array([0.4, 0.5, 1.5, 1.6]), target)
    assert level.holds.tolist() == [False, True, True, False]
    for at, side in ((0, "under"), (3, "over")):
        assert level.miss(at) == f"Anna is 0.6 stops {side} what is wanted"
    clip = _clip("Sky", np.array([2.0, 2.3]), 2.0)
    assert (clip.holds.tolist(), clip.miss(1)) == ([True, False], "Sky clips, 0.3 stops over the top")


def sunny(gear, **changes):
    """A low winter sun through the south window, and the hour at which most of it falls on her back."""
    south, clear = Surroundings(a_place("white paint", north_deg=180.0)), type(a_setup().weather)("clear")
    noon = NOON.replace(month=12)
    winter = times_of_day(noon.replace(hour=8), 8.0)
    lit, hours = a_day(gear, south, winter, weather=clear, lamps=(), when=winter[0], **changes)
    share = hours.sun_lx[:, lit.built.mark_index("anna.back")] / hours.lux[:, lit.built.mark_index("anna.back")]
    return lit, winter[int(share.argmax())]


def test_what_keeps_the_sun_out(gear, monkeypatch):
    target = Target(piece_id="t", mark="anna.back", stops=0.0, tolerance=0.5)
    lit, when = sunny(gear, targets=(target,))
    found = sun_out(lit, when, gear, RULES, fresh_response)
    late = lit_setup(gear, replace(lit.built.setup, when=when), surroundings=lit.built.surroundings)
    back = ladder_of(late, RULES.receptor).rung("anna.back")
    assert (found.name, found.stops) == (back.name, pytest.approx(back.stops))
    share = float(sun_share(late)[late.place_of("anna.back")])
    assert found.sun_stops == pytest.approx(-np.log2(1.0 - share))
    offs = [abs(each.off_stops) for each in found.shades]
    assert offs == sorted(offs)
    assert len(offs) <= 5
    for each in found.shades:
        assert each.changes[0].to == {"when": when, "weather": lit.built.setup.weather}
        assert each.off_stops == pytest.approx(each.fix.stops)  # zero is wanted
        assert each.fix.stops < found.stops
    texts = {each.fix.text: each for each in sun_out(lit, when, gear, RULES, fresh_response).shades}
    films = {text: each.fix.stops for text, each in texts.items() if "film on Window" in text}
    assert films
    # All the daylight comes by that pane: a stop of film is a stop.
    whole = {text.split()[0]: stops for text, stops in films.items()}
    assert whole.keys() >= {"1.0", "2.0", "3.0"}
    for name, stops in whole.items():
        assert stops == pytest.approx(found.stops - float(name), abs=0.06)
    for targets, name in (((), "Anna back edge"), ((Target(piece_id="t", mark="beside", stops=0.0),), "Beside")):
        spot = Spot(piece_id="beside", name="Beside", x_m=3.2, y_m=3.0, z_m=1.4, bearing_deg=0.0)
        both = lit_setup(gear, replace(lit.built.setup, spots=(spot,), targets=targets), lit.built.surroundings)
        assert sun_out(both, when, gear, RULES, fresh_response).name == name
    cloudy = lit_setup(
        gear,
        replace(lit.built.setup, weather=type(lit.built.setup.weather).OVERCAST),
        surroundings=lit.built.surroundings,
    )
    assert sun_out(cloudy, when, gear, RULES, fresh_response).stops == pytest.approx(found.stops)  # the sun comes out
    night = lit.built.setup.when.replace(hour=23)
    assert sun_out(lit, night, gear, RULES, fresh_response) is None
    little = replace(target, stops=round(found.stops - 0.6, 1))
    hung = lit_setup(gear, replace(lit.built.setup, targets=(little,)), lit.built.surroundings)
    over = f"{found.stops - little.stops:.1f} stop"
    shades = sun_out(hung, when, gear, RULES, fresh_response).shades
    assert any(each.fix.text.startswith(over) for each in shades)
    assert all(each.off_stops == pytest.approx(each.fix.stops - little.stops) for each in shades)
    # What cannot be tried, and what keeps next to nothing out, is left out.
    tries = iter([None, 0.04, 0.06])

    def weak(before, proposal):
        less = next(tries, None)
        return less and replace(tried(before, proposal), stops=found.stops - less)

    monkeypatch.setattr(sun_out_module, "tried", weak)
    (one,) = sun_out(lit, when, gear, RULES, fresh_response).shades
    assert one.fix.stops == found.stops - 0.06


def test_a_flag_stands_between_the_sun_and_the_mark(gear):
    aside = Camera(x_m=0.3, y_m=2.5, z_m=1.5, bearing_deg=90.0)
    lit, when = sunny(gear, camera=aside)
    shades = sun_out(lit, when, gear, RULES, fresh_response).shades
    sun, late = lit.built.surroundings.sun(when), replace(lit.built.setup, when=when)
    bare = lit_setup(gear, late, surroundings=lit.built.surroundings)
    place = bare.place_of("anna.back")
    beam_lx = float(sun_share(bare)[place] * bare.total_lx[place])
    left = {}
    for each in shades:
        if each.fix.changes[0].where == "flags":
            flag = each.fix.changes[0].piece
            then = lit_setup(gear, changed(late, each.fix.changes), surroundings=lit.built.surroundings)
            left[flag.kind.value] = float(sun_share(then)[place] * then.total_lx[place]) / beam_lx
            assert flag.tilt_deg == pytest.approx(-sun.altitude_deg, abs=0.2)
            assert not in_view(aside, lit.built.setup.look, flat_points_m(flag, gear)).any()
    # Half a stop a layer of net, by the house's school.
    assert left["solid"] == pytest.approx(0.0, abs=1e-6)
    assert {name: np.log2(share) for name, share in left.items() if share} == pytest.approx(
        {name: -stops for name, stops in (("single net", 0.5), ("double net", 1.0)) if name in left}, abs=0.05
    )


def test_day_for_night_is_under_cool_and_its_lamps_up(gear):
    table = a_lamp(piece_id="table", name="Table practical", level=0.001, aims_at="", bearing_deg=180.0, y_m=0.4)
    lit, _ = a_day(gear, lamps=(table,), house_off=())
    found = day_for_night(lit, NOON, gear, RULES, fresh_response)
    keys = {each.name: each for each in found.rungs}
    assert keys["Anna key side"].now == pytest.approx(-2.0, abs=0.35)
    before = ladder_of(lit, RULES.receptor)
    assert keys["Anna key side"].was == pytest.approx(before.rung("anna.key").stops)
    after = changed(lit.built.setup, found.changes)
    then = lit_setup(gear, after, surroundings=lit.built.surroundings)
    place = then.place_of("anna.key")
    day = lit_setup(gear, lit.built.setup, surroundings=lit.built.surroundings)
    seen = seen_against(
        LightColour.of(uv_from_xyz(xyz_at_marks(day).sum(axis=0)[place]), Origin.TYPICAL), after.look.white
    )
    assert seen.mired == pytest.approx(-60.0, abs=0.6)
    dense = replace(lit.built.setup, look=replace(lit.built.setup.look, nd_stops=3.0))
    again = day_for_night(lit_setup(gear, dense, lit.built.surroundings), NOON, gear, RULES, fresh_response)
    assert {each.name: each.now for each in again.rungs} == pytest.approx(
        {each.name: each.now for each in found.rungs}, abs=0.1
    )
    closed = keys["Anna key side"].was + 2.0
    up = next(each for each in after.lamps if each.piece_id == "table")
    assert up.level == pytest.approx(min(0.001 * 2.0**closed, 1.0), rel=0.01)
    assert any(step.startswith("Table practical up to") for step in found.steps)
    window = keys["Window"].now
    assert any("Window reads" in each for each in found.cautions) == (window > -1.0)
    bright = replace(lit.built.setup, lamps=(replace(table, level=0.9),))
    full = day_for_night(
        lit_setup(gear, bright, surroundings=lit.built.surroundings), NOON, gear, RULES, fresh_response
    )
    assert any("at full is" in each for each in full.cautions)
    empty = a_setup(people=(), spots=(), lamps=(), when=NOON)
    with pytest.raises(NoAnswer):
        day_for_night(lit_setup(gear, empty, surroundings=lit.built.surroundings), NOON, gear, RULES, fresh_response)


def test_two_shots_are_held_against_each_other(gear):
    lit = lit_setup(gear)
    same = match_sheet(lit, lit)
    assert same.seen == ()
    assert {each.what for each in same.differences} >= {"level of the key", "contrast", "softness"}

    def seen(**changes):
        sheet = match_sheet(lit, lit_setup(gear, lamps=(a_lamp(**changes),)))
        return {each.what: each.closes for each in sheet.seen}

    moved = lit_setup(gear, lamps=(a_lamp(x_m=4.6, y_m=3.4, z_m=2.9, sheets=("half-orange",)),))
    (old,), (new,) = lit_faces(lit), lit_faces(moved)
    told = {each.what: each for each in match_sheet(lit, moved).differences}
    way = told["direction of the key"]
    assert (way.was, way.now) == tuple(
        f"{each.bearing_deg % 360:.0f}°, {each.height_deg:.0f}° up" for each in (old, new)
    )
    back = {each.what: each for each in match_sheet(moved, lit).differences}
    assert (back["level of the key"].was, back["softness"].now) == (told["level of the key"].now, told["softness"].was)
    assert back["colour of the key"].closes == "109 mired warmer"
    green = lit_setup(gear, lamps=(a_lamp(sheets=("full-plus-green",)),))
    assert {each.what: each.closes for each in match_sheet(green, lit).seen}["colour of the key"] == "Duv +0.020"
    assert seen(level=a_lamp().level / 4.0) == {"level of the key": "2.0 stops more of Key"}
    assert seen(level=a_lamp().level * 2.0**0.3) == {}  # a third of a stop nobody minds
    (face,) = lit_faces(lit)
    soft = {each.what: each.was for each in same.differences}["softness"]
    assert soft == f"{face.apparent_deg:.0f}°, edge {face.edge_m * 1e3:.0f} mm"
    assert seen(sheets=("full-plus-green",))["colour of the key"] == "Duv -0.020"
    warm = seen(sheets=("half-orange",))
    assert warm["colour of the key"] == "109 mired cooler"
    assert "direction of the key" in seen(x_m=4.6, y_m=3.4)
    assert "around" in seen(x_m=4.6, y_m=3.4)["direction of the key"]
    assert "down" in seen(z_m=2.9)["direction of the key"]
    assert match_sheet(lit, lit_setup(gear, people=())).differences == ()
    near, far = (
        lit_setup(gear, lamps=(a_lamp(configuration="panel-30.own-face", x_m=x_m, y_m=y_m),))
        for x_m, y_m in ((2.0, 1.5), (1.0, 0.5))
    )
    softness = {each.what: each for each in match_sheet(near, far).seen}["softness"]
    assert softness.closes == "a source 2.0 times as large"
    assert {each.what: each for each in match_sheet(far, near).seen}["softness"].closes == "a source 1/2.0 as large"


def test_a_lost_window_is_given_again_from_outside_it(gear):
    facing = replace(a_setup().people[0], bearing_deg=0.0)
    lit, _ = a_day(gear, lamps=(), people=(facing,))
    bench = pack(replace(gear, sheets=gear.sheets[::4], frames=()))
    night = NOON.replace(hour=23)
    found = insurance(lit, night, bench, gear, RULES, fresh_response)
    assert (found.at, found.name, found.why) == (night, "Anna key side", "")
    assert any(each.what == "level of the key" for each in found.bare.seen) or not found.bare.differences
    best = found.replacements[0]
    wanted = ladder_of(lit, RULES.receptor).rung("anna.key").stops
    assert best.fix.stops == pytest.approx(wanted, abs=0.35)
    lamp = best.fix.changes[-1].piece
    assert lamp.y_m > 5.0  # behind the pane
    assert best.changes[0].to == {"when": night, "weather": lit.built.setup.weather}
    assert "level of the key" not in {each.what for each in best.match.seen}
    sunny_day = lit_setup(
        gear, replace(lit.built.setup, weather=type(lit.built.setup.weather).CLEAR), lit.built.surroundings
    )
    told = insurance(sunny_day, NOON, bench, gear, RULES, fresh_response, sky=type(lit.built.setup.weather).OVERCAST)
    assert any(each.what == "level of the key" for each in told.bare.seen)  # clouds have come over at the same hour
    same = insurance(lit, NOON, bench, gear, RULES, fresh_response)
    assert same.replacements == ()
    assert same.why.startswith("Nothing is missing there")
