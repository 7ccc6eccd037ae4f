"""Ways out of a missed target: each one change that meets it."""

import re
from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest

from iron_bucket.core.places.bearing import bearing_of
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import lit
from iron_bucket.core.setups.plan.camera_view import in_view
from iron_bucket.core.setups.plan.changes import Operation, changed
from iron_bucket.core.setups.plan.setup import WindowFilm
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.sheet.clearance import flat_points_m
from iron_bucket.core.setups.suggest.fix import Fetch
from iron_bucket.core.setups.suggest.fixes import fixes_for
from iron_bucket.core.setups.suggest.shortfall import Hand
from tests.core.setups.made import ANNA, BOX, NOON, RULES, a_lamp, a_place, a_target, lit_setup, load_of

METRIC = UnitSystem.METRIC


def ways_of(gear, mark: str = "anna.key", surroundings=BOX, **changes) -> tuple:
    found = lit_setup(gear, surroundings=surroundings, **changes)
    return found, fixes_for(found, ladder_of(found, RULES.receptor).rung(mark), gear, RULES)


def after(gear, found, way):
    """A way carried out and computed anew."""
    return lit(build_scene(changed(found.built.setup, way.changes), found.built.surroundings, gear, RULES))


@pytest.mark.parametrize("level", [0.012, 0.06], ids=["too dim", "too bright"])
def test_every_way_that_is_offered_meets_the_target(gear, level):
    found, ways = ways_of(
        gear, lamps=(a_lamp(level=level, sheets=("nd-0.3",) if level < 0.05 else ()),), targets=(a_target(),)
    )
    texts, before = [way.text for way in ways], ladder_of(found, RULES.receptor)
    assert len(ways) >= 5
    for way in ways:
        ladder = ladder_of(after(gear, found, way), RULES.receptor)
        rung = ladder.rung("anna.key")
        assert not rung.is_missed, way.text
        moved = {each.name: each.stops - before.rung(each.mark_id).stops for each in ladder.rungs if each is not rung}
        assert {name for name, by in moved.items() if abs(by) >= 0.1} == {each.name for each in way.others}
        assert way.miss_stops == pytest.approx(rung.miss_stops, abs=1e-6)
        assert way.stops == pytest.approx(rung.stops, abs=1e-6)
    wanted = (
        ("Raise Key", "closer", "second head", "Open to T", "ISO", " in place of ")
        if level < 0.05
        else ("Dim Key", "Close to T", "ISO", "of ND at the lens", " in place of ")
    )
    for part in wanted:
        assert any(part in text for text in texts), (part, texts)
    order = [(list(Fetch).index(way.fetch), way.hand, sum(abs(each.stops) for each in way.others)) for way in ways]
    assert order == sorted(order)
    for owned, fetch in ((1, Fetch.OURS), (0, Fetch.HIRE)):
        bench = replace(
            gear, heads=tuple(replace(h, owned=1 if h.slug == "day-led-300" else owned) for h in gear.heads)
        )
        found_so = fixes_for(found, before.rung("anna.key"), bench, RULES)
        assert {way.fetch for way in found_so if " in place of day LED 300" in way.text} == {fetch}
        assert {way.fetch for way in found_so if way.text.startswith(("Raise Key", "Dim Key"))} == {Fetch.NOTHING}
    assert ways[0].hand is Hand.DIMMER


def test_ways_tell_what_else_they_do(gear):
    hired = a_lamp(piece_id="hired", name="Hired", configuration="hmi-1200.flood", is_on=False)
    found, ways = ways_of(gear, lamps=(a_lamp(level=0.006, feed="socket"), hired), targets=(a_target(),))
    assert load_of(found.built.setup, gear).day_price > 0.0
    before = load_of(found.built.setup, gear)
    for way in ways:
        after_it = load_of(changed(found.built.setup, way.changes), gear)
        told = (way.amps, way.weight_kg, way.day_price)
        assert told == pytest.approx(
            tuple(getattr(after_it, each) - getattr(before, each) for each in ("amps", "weight_kg", "day_price"))
        )
    dim = next(way for way in ways if way.text.startswith("Raise Key"))
    gain = -ladder_of(found, RULES.receptor).rung("anna.key").miss_stops
    assert {each.name for each in dim.others} == {"Anna shadow side", "Anna back edge", "Anna top", "Wall"}
    assert all(each.stops == pytest.approx(gain, abs=0.01) for each in dim.others)
    assert dim.amps > 0.0
    assert dim.weight_kg == dim.day_price == dim.softness_deg == 0.0
    second = next(way for way in ways if "second head" in way.text)
    head = gear.head("day-led-300")
    assert second.weight_kg > head.total_kg
    closer = next(way for way in ways if way.text.endswith("closer"))
    assert closer.softness_deg > 0.0
    stop = next(way for way in ways if way.text.startswith("Open to"))
    assert [each.stops for each in stop.others] == pytest.approx([gain] * len(stop.others), abs=0.2)  # half a step


def test_black_comes_first_where_the_room_fills_the_shadow(gear):
    pale = Surroundings(a_place("white paint"))
    now = ladder_of(lit_setup(gear, surroundings=pale), RULES.receptor).rung("anna.shadow").stops
    target = a_target(mark="anna.shadow", stops=now - 0.7, tolerance=0.3)
    found, ways = ways_of(gear, mark="anna.shadow", surroundings=pale, targets=(target,))
    assert ways[0].hand is Hand.BLACK
    assert ways[0].text.startswith("A black of ")
    assert ways[0].text.endswith(" beside Anna, left")
    black = ways[0].changes[0].piece
    shown = in_view(found.built.setup.camera, found.built.setup.look, flat_points_m(black, gear))
    assert not shown.any()
    back = bearing_of(np.array([ANNA.x_m - black.x_m, ANNA.y_m - black.y_m, 0.0]))
    assert black.bearing_deg == pytest.approx(back, abs=20.0)  # at the cheek
    assert not ladder_of(after(gear, found, ways[0]), RULES.receptor).rung("anna.shadow").is_missed
    for by in (0.5, 0.9, 1.5):  # whichever sizes do it are offered, by trying each
        target = a_target(mark="anna.shadow", stops=now - by, tolerance=0.25)
        found, ways = ways_of(gear, mark="anna.shadow", surroundings=pale, targets=(target,))
        blacks = [way.changes[0].piece for way in ways if way.hand is Hand.BLACK]
        assert blacks
        tried = ((blacks[0], size) for size in ((0.6, 0.9), (1.2, 1.2), (1.2, 1.8), (2.4, 2.4)))
        flags = [replace(flag, width_m=width_m, height_m=height_m) for flag, (width_m, height_m) in tried]
        lit_so = [lit_setup(gear, replace(found.built.setup, flags=(flag,)), surroundings=pale) for flag in flags]
        missed = [ladder_of(each, RULES.receptor).rung("anna.shadow").is_missed for each in lit_so]
        doing = [flag.width_m * flag.height_m for flag, is_missed in zip(flags, missed, strict=True) if not is_missed]
        assert sorted(each.width_m * each.height_m for each in blacks) == doing
    for mark, walls in (("anna.key", "white paint"), ("anna.shadow", "black cloth")):  # by a lamp, or by nothing
        there = Surroundings(a_place(walls))
        _, none = ways_of(gear, mark=mark, surroundings=there, targets=(a_target(mark=mark, stops=-9.0),))
        assert not any(way.hand is Hand.BLACK for way in none)


def test_a_window_that_clips(gear):
    found, ways = ways_of(gear, mark="window", when=NOON, targets=(a_target(mark="window", stops=4.7),))
    texts = [way.text for way in ways]
    assert any("of film on Window" in text for text in texts)
    assert any("leaves the picture" in text for text in texts)
    assert not any("Key" in text for text in texts)  # our lamps do not light the sky
    assert "At 19:30, the sun 6° high in place of 62°" in texts
    film = next(way for way in ways if "of film" in way.text)
    gone = next(way for way in ways if "leaves the picture" in way.text)
    assert (gone.stops, gone.miss_stops, gone.softness_deg, gone.amps, gone.weight_kg, gone.day_price) == (
        4.7,
        *[0.0] * 5,
    )
    assert film.miss_stops == pytest.approx(0.0, abs=0.01)
    filmed, more = ways_of(
        gear,
        mark="window",
        when=NOON,
        films=(WindowFilm(piece_id="f", opening_id="window", stops=0.5),),
        targets=(a_target(mark="window", stops=4.7),),
    )
    again = next(way for way in more if "of film" in way.text)
    assert again.changes[0].operation is Operation.SET
    assert re.fullmatch(r"[\d.½⅓⅔ ]+ stops? of film on Window", again.text)
    # Where the window lies too low, less film is a way, and leaving it out of the picture is none.
    low = ladder_of(filmed, RULES.receptor).rung("window").stops + 0.4
    thin = WindowFilm(piece_id="f", opening_id="window", stops=2.0)
    _, brighter = ways_of(
        gear, mark="window", when=NOON, films=(thin,), targets=(a_target(mark="window", stops=low, tolerance=0.1),)
    )
    lifts = [way for way in brighter if "of film on Window" in way.text]
    assert [way.changes[0].to["stops"] < 2.0 for way in lifts] == [True]
    assert not any("leaves the picture" in way.text for way in brighter)
    assert again.changes[0].to["stops"] == pytest.approx(film.changes[0].piece.stops, abs=0.02)
    # Film for what the window gives to something else: Anna's back a stop and a half down, in black cloth.
    back = {"mark": "anna.back", "when": NOON, "lamps": ()}
    now = ladder_of(lit_setup(gear, when=NOON, lamps=(), targets=(a_target(mark="anna.back"),)), RULES.receptor)
    wanted = now.rung("anna.back").stops - 1.5
    _, darker = ways_of(gear, **back, targets=(a_target(mark="anna.back", stops=wanted),))
    film = next(way for way in darker if "of film on Window" in way.text)
    assert film.changes[0].piece.stops == pytest.approx(1.5, abs=0.05)
    assert re.fullmatch(r"[\d.½⅓⅔ ]+ stops? of film on Window", film.text)
    # Anna's back is lit by the window: less film is no way, another hour is.
    _, hours = ways_of(gear, mark="anna.back", when=NOON, lamps=(), targets=(a_target(mark="anna.back", stops=0.0),))
    hour = next(way for way in hours if way.text.startswith("At "))
    assert "in place of" in hour.text
    assert hour.changes[0].to["when"] - NOON != timedelta(0)
    assert found.built.setup.when == NOON
    assert filmed.built.setup.films


def test_closer_is_reckoned_with_what_comes_off_the_walls(gear):
    """In a white room the walls give a share of it, wherever the lamp stands."""
    white = Surroundings(a_place("white paint"))
    found, ways = ways_of(gear, surroundings=white, lamps=(a_lamp(level=0.012),), targets=(a_target(),))
    nearer = next(way for way in ways if way.text.endswith(" closer"))
    assert abs(ladder_of(after(gear, found, nearer), RULES.receptor).rung("anna.key").miss_stops) < 0.06
    dim = ladder_of(lit_setup(gear, lamps=(a_lamp(level=0.03),)), RULES.receptor).rung("anna.key").stops
    for level, stops, word in ((0.012, 0.0, "closer"), (0.03, dim - 0.6, "farther")):  # on its line, by what is said
        found, ways = ways_of(gear, lamps=(a_lamp(level=level),), targets=(a_target(stops=stops),))
        way = next(way for way in ways if way.text.endswith(word))
        cheek = found.built.marks[found.place_of("anna.key")].mark.position_m[:2]
        before = np.array([a_lamp().x_m, a_lamp().y_m]) - cheek
        there = np.array([way.changes[0].to["x_m"], way.changes[0].to["y_m"]]) - cheek
        assert before[0] * there[1] - before[1] * there[0] == pytest.approx(0.0, abs=0.005)
        by_m = abs(np.linalg.norm(before) - np.linalg.norm(there))
        assert way.text == f"Key {display.length(float(by_m))} {word}"
        closed = [each.changes[0].to["t_stop"] for each in ways if each.text.startswith("Close to T")]
        assert (bool(closed), all(each > 2.8 for each in closed)) == (word == "farther", True)


def test_no_ways_where_nothing_is_missed_or_nothing_helps(gear):
    found = lit_setup(gear)
    assert fixes_for(found, ladder_of(found, RULES.receptor).rung("anna.key"), gear, RULES) == ()
    locked = lit_setup(gear, lamps=(a_lamp(is_locked=True),), targets=(a_target(stops=-3.0),))
    texts = [way.text for way in fixes_for(locked, ladder_of(locked, RULES.receptor).rung("anna.key"), gear, RULES)]
    assert texts
    assert not any("Key" in text for text in texts)


def test_the_hour_is_changed_only_where_the_day_decides(gear):
    """By noon a lamp gives all but a thousandth of the light on her shadowed cheek: no other hour is offered."""
    lamps = (a_lamp(level=0.5),)
    found, ways = ways_of(gear, when=NOON, lamps=lamps, targets=(a_target(stops=-0.5),))
    place = found.place_of("anna.key")
    by_day = sum(found.by_light_lx[at, place] for at, each in enumerate(found.built.lights) if each.kind == "day")
    assert 0.0 < by_day < 0.15 * found.total_lx[place]
    assert not any(way.text.startswith("At ") for way in ways)
    assert any(way.text.startswith("Dim Key") for way in ways)
    # Nor where a night would just do, with a seventh of the light; and before a bright hour may lie a dark one.
    day = {"when": NOON.replace(month=1), "lamps": (a_lamp(level=0.0015),)}
    found = lit_setup(gear, **day)
    of_day = -float(np.log2(1.0 - found.by_light_lx[1, place] / found.total_lx[place]))
    stops = ladder_of(found, RULES.receptor).rung("anna.key").stops - 0.3 - of_day / 2.0
    _, ways = ways_of(gear, targets=(a_target(stops=stops, tolerance=0.3),), **day)
    assert (bool(ways), 0.1 < of_day < 0.23) == (True, True)
    assert not any(way.text.startswith("At ") for way in ways)
    early = {"mark": "anna.back", "lamps": (), "when": NOON.replace(month=1, hour=8)}
    bright = ladder_of(lit_setup(gear, lamps=(), when=early["when"].replace(hour=10)), RULES.receptor)
    target = a_target(mark="anna.back", stops=bright.rung("anna.back").stops, tolerance=0.1)
    _, ways = ways_of(gear, targets=(target,), **early)
    assert [way.text[:8] for way in ways if way.text.startswith("At ")] == ["At 10:00"]
