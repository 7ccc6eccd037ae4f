"""Light through a day against the set-up computed at that hour, and how long it holds."""

from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np
import pytest

from iron_bucket.core.colour.gel_stacks import off_mired
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import seen_against
from iron_bucket.core.colour.white import uv_from_xyz
from iron_bucket.core.days.continuity import match_sheet
from iron_bucket.core.days.holding import Holding, holding_of
from iron_bucket.core.days.hours_of_light import STEP, hours_of_light, times_of_day
from iron_bucket.core.days.insurance import insurance
from iron_bucket.core.figure import Origin
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.setups.evaluate.faces import lit_faces
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import fresh_response
from iron_bucket.core.setups.evaluate.mark_colours import xyz_at_marks
from iron_bucket.core.setups.plan.setup import ColourTarget, Target
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
    night = hours.lux[0] if lit.built.surroundings.sun(SIX).altitude_deg < -12.0 else None
    if night is not None:
        lamps = [at for at, light in enumerate(lit.built.lights) if light.placed]
        assert night == pytest.approx(lit.by_light_lx[lamps].sum(axis=0))


def test_where_the_sun_falls_is_looked_at_in_every_step(gear):
    around = Surroundings(a_place("white paint", north_deg=180.0))
    lit, hours = a_day(gear, around, weather=type(a_setup().weather)("clear"), lamps=())
    at = int(hours.sun_lx.sum(axis=1).argmax())
    there = lit_setup(gear, replace(lit.built.setup, when=TIMES[at]), surroundings=around)
    suns = [each for each, light in enumerate(there.built.lights) if light.light_id == "sun"]
    direct = there.response.direct_lx[suns].sum(axis=0)
    assert hours.sun_lx[at] == pytest.approx(direct, rel=0.02, abs=1.0)
    assert (hours.is_sunlit[at] == (hours.sun_lx[at] > 0.02 * hours.lux[at])).all()
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


def test_two_shots_are_held_against_each_other(gear):
    lit = lit_setup(gear)
    same = match_sheet(lit, lit)
    assert same.seen == ()
    assert {each.what for each in same.differences} >= {"level of the key", "contrast", "softness"}

    def seen(**changes):
        sheet = match_sheet(lit, lit_setup(gear, lamps=(a_lamp(**changes),)))
        return {each.what: each.closes for each in sheet.seen}

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
    assert best.changes[0].to == {"when": night}
    assert "level of the key" not in {each.what for each in best.match.seen}
    same = insurance(lit, NOON, bench, gear, RULES, fresh_response)
    assert same.replacements == ()
    assert same.why.startswith("Nothing is missing there")
    assert datetime.min < same.at
