"""Colours at the marks: mixtures, tinted bounces, glass and films, targets, contrasts, and the day."""

from dataclasses import replace
from datetime import datetime

import numpy as np
import pytest

from iron_bucket.core.colour.gel_stacks import off_mired
from iron_bucket.core.colour.light_colour import LightColour, mixed
from iron_bucket.core.colour.seen import Seen, seen_against
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.surfaces import Surface
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.colour.agree import Scene
from iron_bucket.core.setups.colour.colour_targets import colour_misses
from iron_bucket.core.setups.colour.disagree import (
    Contrast,
    after_a_practical,
    contrasts,
    disagreeing,
    lost_bands,
    warnings_of,
)
from iron_bucket.core.setups.colour.match import by_hue, by_meter, by_xy, matching
from iron_bucket.core.setups.colour.through_time import through_the_day, times_of
from iron_bucket.core.setups.colour.ways import GelStock
from iron_bucket.core.setups.evaluate.lit_scene import fresh_response
from iron_bucket.core.setups.evaluate.mark_colours import estimated_ra, mark_colours, xyz_at_marks
from iron_bucket.core.setups.plan.setup import ColourTarget, WindowFilm
from tests.core.setups.made import NIGHT, NOON, RULES, a_lamp, a_place, a_setup, lit_setup
from tests.tables import table, tabled

WARM = table(__file__, "WARM")
WHITE = LightColour.of_cct(5600.0)


def a_scene(gear, lit) -> Scene:
    return Scene(lit=lit, gear=gear, rules=RULES, response_for=fresh_response, stock=GelStock(gear=gear))


def place_with(**changes) -> Surroundings:
    """The box with its walls, or its window, otherwise."""
    room = a_place().rooms[0]
    window = replace(
        room.openings[0], **{key: changes.pop(key) for key in ("glass_mired", "glass_duv") if key in changes}
    )
    made = {"walls": changes.pop("walls", room.walls), "openings": (window,)}
    return Surroundings(a_place(rooms=(replace(room, **made),), **changes))


def of(marks, mark_id):
    return next(each for each in marks if each.mark_id == mark_id)


def test_a_mark_has_the_mixture_of_what_lights_it(gear):
    lit = lit_setup(gear, lamps=(a_lamp(), a_lamp(**WARM)))
    marks = mark_colours(lit)
    for mark in marks:
        lux = lit.by_light_lx[:, mark.place]
        assert mark.illuminance_lx == pytest.approx(lit.total_lx[mark.place])
        wanted = mixed([each.colour for each in lit.built.lights], lux)
        assert mark.colour.uv == pytest.approx(wanted.uv, abs=1e-9)
        shares = [each.share for each in mark.lights]
        assert shares == sorted(shares, reverse=True)
        assert min(shares) > 0.005
    assert {each.light.light_id for mark in marks for each in mark.lights} == {"key", "warm"}
    warm, cool = (of(marks, f"anna.{side}").colour.cct_k for side in ("left", "right"))
    assert 3150.0 < warm < cool < 5650.0
    dark = mark_colours(lit_setup(gear, lamps=()))
    assert all(mark.colour is None and not mark.lights for mark in dark)


def test_a_pink_wall_lifts_the_shadow_side_pink(gear):
    tiles = Surface(name="pink", reflectance=0.6, shift_mired=30.0, duv=-0.02)
    pink = lit_setup(gear, surroundings=place_with(walls=("pink",) * 4, surfaces=(tiles,)))
    plain = Surface(name="pink", reflectance=0.6)
    white = lit_setup(gear, surroundings=place_with(walls=("pink",) * 4, surfaces=(plain,)))
    side = pink.key_and_shadow("anna")[1]
    shadow, straight = (of(mark_colours(lit), f"anna.{side}") for lit in (pink, white))
    seen = seen_against(shadow.colour, straight.colour)
    assert seen.mired > 8.0
    assert seen.duv < -0.004
    lit_side = pink.key_and_shadow("anna")[0]
    key = seen_against(*(of(mark_colours(lit), f"anna.{lit_side}").colour for lit in (pink, white)))
    assert abs(key.duv) < abs(seen.duv) / 4.0
    assert shadow.illuminance_lx == pytest.approx(straight.illuminance_lx, rel=0.05)
    assert (xyz_at_marks(pink)[:, :, 1] - pink.by_light_lx) == pytest.approx(0.0, abs=1e-6)


def test_glass_and_film_tint_the_sun_as_well_as_the_sky(gear):
    south = {"north_deg": 180.0}
    clear, green = place_with(**south), place_with(glass_mired=-10.0, glass_duv=0.012, **south)
    setup = a_setup(lamps=(), when=NOON, weather="clear")
    film = replace(setup, films=(WindowFilm(piece_id="f", opening_id="window", sheets=("full-orange",)),))
    lits = [
        lit_setup(gear, replace(each, weather=type(setup.weather)("clear")), surroundings=around)
        for each, around in ((setup, clear), (setup, green), (film, clear))
    ]
    suns = [next(at for at, each in enumerate(lit.built.lights) if each.light_id == "sun") for lit in lits]
    windows = [next(each for each in lit.built.lights if each.light_id == "window").colour for lit in lits]
    assert windows[1].duv - windows[0].duv == pytest.approx(0.012, abs=1e-6)
    assert windows[1].mired - windows[0].mired == pytest.approx(-10.0, abs=1e-6)
    assert windows[2].mired - windows[0].mired == pytest.approx(159.0, abs=1e-6)
    marks = [mark_colours(lit) for lit in lits]
    arriving = []
    for lit, sun, several in zip(lits, suns, marks, strict=True):
        mark = max(several, key=lambda each, at=sun, lit=lit: lit.by_light_lx[at, each.place])
        arriving.append(next(e.colour for e in mark.lights if e.light is lit.built.lights[sun]))
    assert seen_against(arriving[1], arriving[0]).duv == pytest.approx(0.012, abs=0.002)
    assert seen_against(arriving[2], arriving[0]).mired == pytest.approx(159.0, rel=0.1)


def test_spectra_are_told_and_rendering_is_estimated_without_them(gear):
    nm = np.arange(380.0, 781.0, 5.0)
    daylight = Spectrum(wavelength_nm=nm, power=np.exp(-(((nm - 540.0) / 110.0) ** 2)))
    known = replace(gear, spectra={"day-led-300.bare": (daylight,)})
    own = LightColour.of_spectrum(daylight)
    head = replace(known.head("day-led-300"), lowest_cct_k=round(own.cct_k), highest_cct_k=round(own.cct_k))
    known = replace(known, heads=tuple(head if each.slug == head.slug else each for each in known.heads))
    lit = lit_setup(known, lamps=(a_lamp(configuration="day-led-300.reflector"),))
    mark = of(mark_colours(lit), "anna.left")
    assert (mark.is_rendering_known, mark.spectrum_share) == (True, pytest.approx(1.0))
    assert mark.colour.uv == pytest.approx(own.uv, abs=1e-9)
    gelled = lit_setup(known, lamps=(a_lamp(configuration="day-led-300.reflector", sheets=("half-orange",)),))
    shifted = of(mark_colours(gelled), "anna.left")
    assert (shifted.is_rendering_known, shifted.colour.spectrum) == (False, None)
    assert shifted.colour.mired - own.mired == pytest.approx(109.0, abs=0.1)
    assert estimated_ra(shifted) == 95.0  # typical of LEDs


def test_a_colour_target_that_is_missed_says_why_and_what_would_do(gear):
    targets = (
        ColourTarget(piece_id="a", mark="anna.key", tolerance=10.0),
        ColourTarget(piece_id="b", mark="anna.shadow", mired=300.0, tolerance=20.0),
        ColourTarget(piece_id="c", mark="gone"),
    )
    lit = lit_setup(gear, lamps=(a_lamp(), a_lamp(**WARM)), colour_targets=targets)
    key, shadow = colour_misses(lit, {"anna.key": "Anna key side"})
    white = lit.built.setup.look.white
    colour = mark_colours(lit)[lit.place_of("anna.key")].colour
    assert (key.name, key.seen) == ("Anna key side", seen_against(colour, white))
    assert key.is_missed == (abs(key.left.mired) > 10.0)
    assert shadow.left.mired == pytest.approx(shadow.seen.mired - 300.0)
    assert (shadow.is_missed, shadow.name) == (True, "anna.shadow")
    assert shadow.cause.startswith(("Key arrives", "Warm arrives"))
    assert "mired warm" in shadow.correction
    assert colour_misses(lit_setup(gear), {}) == ()
    met = replace(lit.built.setup, colour_targets=(replace(targets[0], tolerance=200.0),))
    (miss,) = colour_misses(lit_setup(gear, met), {})
    assert (miss.is_missed, miss.cause, miss.correction) == (False, "", "")
    around = place_with(walls=("pink",) * 4, surfaces=(Surface(name="pink", reflectance=0.7, duv=-0.03),))
    bounced = lit_setup(gear, surroundings=around, colour_targets=(replace(targets[0], mark="anna.shadow"),))
    (miss,) = colour_misses(bounced, {})
    assert "off tinted walls, boards or glass" in miss.cause
    assert "green" in miss.correction


def test_two_groups_are_brought_as_far_apart_as_is_asked(gear):
    lit = lit_setup(gear, lamps=(a_lamp(), a_lamp(**WARM)))
    scene = a_scene(gear, lit)
    wanted = Contrast(name="x", cool=Seen(mired=-40.0, duv=0.0), warm=Seen(mired=120.0, duv=0.0))
    found = disagreeing(scene, wanted, {"key": False, "warm": True}, 20.0)
    white = lit.built.setup.look.white
    for source, target in zip(
        found.sources, (-40.0, 120.0) if found.sources[0].light.light_id == "key" else (120.0, -40.0), strict=True
    ):
        assert seen_against(source.taken.colour, white).mired == pytest.approx(target, abs=20.5)
    assert found.reached == pytest.approx(160.0, abs=41.0)
    assert found.changes
    for groups in ({"key": False}, {"warm": True}, {}):
        with pytest.raises(BadValue, match="group is empty; accepted: one light"):
            disagreeing(scene, wanted, groups, 20.0)
    alone = disagreeing(scene, wanted, {"key": True, "warm": False}, 20.0)
    assert {each.light.light_id for each in alone.sources} == {"key", "warm"}
    by = {each.name: each for each in contrasts()}
    assert by["day against tungsten"].mired == 134.0
    practical = after_a_practical(LightColour.of_cct(2700.0), WHITE, Seen(mired=0.0, duv=0.0))
    assert practical.mired == pytest.approx(1e6 / 2700.0 - 1e6 / 5600.0, abs=0.01)
    with pytest.raises(BadValue, match="saturated"):
        after_a_practical(LightColour.of_xy(0.2, 0.7, WHITE.origin), WHITE, Seen(mired=0.0, duv=0.0))


@tabled
def test_what_is_too_much_for_skin(gear, mired, duv, words):
    mark = of(mark_colours(lit_setup(gear)), "anna.left")
    found = warnings_of(replace(mark, colour=WHITE.shifted(mired, duv)), WHITE)
    assert [any(word in each for each in found) for word in words] == [True] * len(words)
    assert len(found) == len(words)
    assert warnings_of(replace(mark, mark_id="wall", colour=WHITE.shifted(-300.0)), WHITE) == ()
    assert warnings_of(replace(mark, colour=None), WHITE) == ()


def test_a_band_without_light_cannot_be_graded_back():
    assert lost_bands(WHITE, WHITE) == ()
    assert [band for band, _ in lost_bands(LightColour.of_cct(1400.0), WHITE)] == ["blue"]
    (lost,) = lost_bands(LightColour.of_cct(1400.0), WHITE)
    assert lost[1] > 3.0
    red = lost_bands(LightColour.of_xy(0.68, 0.31, WHITE.origin), WHITE)
    assert {band for band, _ in red} == {"green", "blue"}


def test_a_meters_reading_becomes_a_colour_to_match(gear):
    assert (by_meter(4300.0, 0.004).cct_k, by_meter(4300.0, 0.004).duv) == (pytest.approx(4300.0), pytest.approx(0.004))
    assert by_xy(0.3127, 0.329).cct_k == pytest.approx(6504.0, abs=3.0)
    assert by_hue(200.0, 0.0, WHITE).uv == pytest.approx(WHITE.uv, abs=3e-4)
    assert by_hue(0.0, 0.5, WHITE).uv == pytest.approx(by_hue(360.0, 0.5, WHITE).uv)
    with pytest.raises(BadValue, match="saturation is 1.2"):
        by_hue(1.0, 1.2, WHITE)
    warm, blue = by_hue(30.0, 0.5, WHITE), by_hue(225.0, 0.4, WHITE)
    assert seen_against(warm, WHITE).mired > 40.0
    assert seen_against(blue, WHITE).mired < -20.0
    for bad in (
        lambda: by_meter(4300.0, 0.2),
        lambda: by_meter(100.0),
        lambda: by_hue(400.0, 0.1, WHITE),
        lambda: by_hue(1.0, 1.2, WHITE),
    ):
        with pytest.raises(BadValue):
            bad()
    lit = lit_setup(gear, lamps=(a_lamp(**WARM),))
    ways = matching(a_scene(gear, lit), "warm", by_meter(4300.0), 10.0)
    assert ways[0].text == "set to 4300 K"
    assert ways[0].off < 1.0
    with pytest.raises(BadValue, match="lamp is 'gone'"):
        matching(a_scene(gear, lit), "gone", WHITE, 10.0)


def test_over_the_day_a_match_by_the_window_fails_at_its_hour(gear):
    setup = a_setup(when=NOON, lamps=(a_lamp(level=0.02),))
    lit = lit_setup(gear, setup, surroundings=Surroundings(a_place("white paint")))
    times = [NOON.replace(hour=hour) for hour in (4, 9, 12, 15, 23)]
    days = through_the_day(a_scene(gear, lit), 20.0, times)
    day = next(each for each in days if each.mark_id == "anna.back")
    assert [each.when for each in day.moments] == times
    assert [each.off for each in day.moments][2] == 0.0
    late = day.moments[-1]  # only the lamp is left
    assert late.colour.cct_k == pytest.approx(5600.0, rel=0.02)
    seen = seen_against(late.colour, day.moments[2].colour)
    assert late.off == pytest.approx(off_mired(seen.mired, seen.duv))
    inside = [each.when for each in day.moments if each.off <= 20.0]
    assert day.until == (max(inside) if late.off > 20.0 else None)
    assert through_the_day(a_scene(gear, lit), 1000.0, times)[0].until is None
    dark = lit_setup(gear, replace(setup, lamps=()), surroundings=Surroundings(a_place()))
    night = through_the_day(a_scene(gear, dark), 20.0, [NOON, NIGHT])[0].moments[-1]
    assert (night.colour, night.seen, night.off) == (None, None, None)
    every = times_of(datetime(2026, 6, 1, 12, 10))
    assert (every[0].hour, every[-1].hour, len(every)) == (5, 22, 36)
    assert datetime(2026, 6, 1, 12, 10) in every
    assert len(times_of(NOON)) == 35


def test_a_contrast_is_made_wider_about_its_own_middle():
    narrow = Contrast(name="n", cool=Seen(mired=-30.0, duv=0.004), warm=Seen(mired=70.0, duv=-0.001))
    wide = narrow.wider(200.0)
    assert (wide.cool, wide.warm) == (Seen(mired=-80.0, duv=0.004), Seen(mired=120.0, duv=-0.001))
    assert (narrow.mired, wide.mired, wide.name) == (100.0, 200.0, "n")
