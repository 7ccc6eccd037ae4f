"""Single changes as they are proposed, each against what the bench and the geometry say by themselves."""

import re
from dataclasses import replace
from datetime import datetime

import numpy as np
import pytest

from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import lit
from iron_bucket.core.setups.plan.changes import changed
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.plan.setup import Camera
from iron_bucket.core.setups.suggest.by_camera import by_camera_and_day, other_hours
from iron_bucket.core.setups.suggest.by_lamps import _where, by_lamps
from iron_bucket.core.setups.suggest.shortfall import Shortfall
from tests.core.setups.made import NIGHT, NOON, RULES, a_frame, a_lamp, a_place, a_target, lit_setup
from tests.tables import tabled


def missing(gear, **changes) -> Shortfall:
    """At ISO 200 a face wants 640 lx, which the key at 7 % gives alone."""
    found = lit_setup(gear, **{"targets": (a_target(),), "look": Look(iso=200.0)} | changes)
    rung = ladder_of(found, RULES.receptor).rung("anna.key")
    return Shortfall(lit=found, rung=rung, gear=gear, rules=RULES, response_for=lambda built: lit(built).response)


def proposed(miss: Shortfall) -> dict:
    return {each.text: each.changes for each in by_lamps(miss)}


def retired(gear, kind: str, slug: str):
    """The bench with one thing put away."""
    every = tuple(replace(each, is_retired=each.slug == slug) for each in getattr(gear, kind))
    return replace(gear, **{kind: every})


@tabled
def test_a_light_is_looked_for_where_its_falling_level_is_as_needed(needed, near, far, found):
    assert _where(lambda metres: metres**-2.0, needed, near, far) == (found and pytest.approx(found, rel=1e-3))


def test_what_is_looked_at_first_and_taken_off_one_by_one(gear):
    assert missing(gear, targets=()).factor == 1.0
    # The two strongest lamps are looked at first.
    lamps = tuple(a_lamp(piece_id=name, name=name, level=level) for name, level in (("a", 0.1), ("b", 0.3), ("c", 0.2)))
    assert [light.name for light, _ in missing(gear, lamps=lamps).strongest()] == ["b", "c"]
    faint = (lamps[1], replace(lamps[0], level=0.02))
    assert [light.name for light, _ in missing(gear, lamps=faint).strongest()] == ["b"]
    # Nothing is put before a lamp that is too weak.
    miss = missing(gear, lamps=(a_lamp(level=0.05),))
    assert 1.2 < miss.factor < 2.0
    assert not [text for text in proposed(miss) if text.endswith(" on Key")]
    # One sheet is taken off at a time.
    fitted = ("nd-0.3", "half-blue", "net-single")
    off = {text: changes[0].to for text, changes in proposed(missing(gear, lamps=(a_lamp(sheets=fitted),))).items()}
    left = {to["sheets"] for text, to in off.items() if text.endswith(" off Key")}
    assert left == {("half-blue", "net-single"), ("nd-0.3", "half-blue")}  # a colour gel is no dimmer


def names_for(texts, before: str, after: str) -> set[str]:
    return {text.removeprefix(before).removesuffix(after) for text in texts if text.endswith(after)}


def test_the_day_has_its_half_hours_nearest_first():
    now = datetime(2026, 5, 1, 12, 20)
    hours = other_hours(now)
    assert (hours[0], hours[1], min(hours), max(hours)) == (
        now.replace(minute=30),
        now.replace(minute=0),
        now.replace(hour=5, minute=0),
        now.replace(hour=22, minute=0),
    )
    assert len(other_hours(now.replace(minute=30))) == len(hours) - 1 == 34


def test_the_dimmer_gives_what_is_missing_within_its_travel(gear):
    miss = missing(gear, lamps=(a_lamp(level=0.02),))
    needed = 0.02 * miss.factor  # the key is all the light there is
    (change,) = next(changes for text, changes in proposed(miss).items() if text.startswith("Raise Key"))
    assert change.to["level"] == pytest.approx(needed, abs=1e-4)
    bright = missing(gear, lamps=(a_lamp(level=0.3),))
    (change,) = next(changes for text, changes in proposed(bright).items() if text.startswith("Dim Key"))
    assert change.to["level"] == pytest.approx(0.3 * bright.factor, abs=1e-4)
    for level, iso in ((0.02, 6.0), (0.011, 25_600.0)):  # beyond full, and below the lowest
        texts = proposed(missing(gear, lamps=(a_lamp(level=level),), look=Look(iso=iso)))
        assert not any(text.startswith(("Raise", "Dim")) for text in texts)


SIZED = re.compile(r"^(Raise|Dim|A second head)|(closer|farther)$| in place of ")
DRESSED = {"configuration": "day-led-300.bare", "face": "octagon-0.9", "x_m": 1.9, "y_m": 1.2}


@tabled
def test_what_is_sized_to_the_need_meets_it(gear, lamp, iso, walls):
    place = Surroundings(a_place(walls))
    miss = missing(gear, lamps=(a_lamp(**lamp),), look=Look(iso=iso), surroundings=place)
    sized = {text: changes for text, changes in proposed(miss).items() if SIZED.search(text)}
    assert len(sized) >= 4
    for text, changes in sized.items():
        after = ladder_of(lit_setup(gear, changed(miss.setup, changes), place), RULES.receptor).rung("anna.key")
        assert after.miss_stops == pytest.approx(0.0, abs=0.15), text  # walls and other beams move it a little


@pytest.mark.parametrize(("level", "iso", "when"), [(0.1, 200.0, NIGHT), (0.9, 1600.0, NIGHT), (0.9, 1600.0, NOON)])
def test_what_is_roughly_known_is_about_what_comes_of_it(gear, level, iso, when):
    """Of a lamp that looks past the face, behind an ND gel."""
    lamp = a_lamp(aims_at="", bearing_deg=57.0, sheets=("nd-0.3", "net-single"), level=level)
    miss = missing(gear, lamps=(lamp,), look=Look(iso=iso), when=when)
    known = [each for each in by_lamps(miss) if each.roughly is not None]
    assert len(known) >= 5
    for each in known:
        after = lit_setup(gear, changed(miss.setup, each.changes)).total_lx[miss.place]
        times = after / miss.lit.total_lx[miss.place]
        assert np.log2(times) == pytest.approx(np.log2(each.roughly), abs=0.35), each.text


def test_optics_boxes_cloths_and_frames_are_those_of_the_bench_that_fit(gear):
    key = {"lamps": (a_lamp(level=0.02),)}
    own = [each for each in gear.configurations if each.head_slug == "day-led-300"]
    put_away = next(each for each in own if each.slug != "day-led-300.reflector")
    for bench, gone in ((gear, set()), (retired(gear, "configurations", put_away.slug), {put_away.name})):
        texts = [text for text in proposed(missing(bench, **key)) if text.startswith("Key: ")]
        expected = {each.name for each in own if each.slug != "day-led-300.reflector"} - gone
        assert names_for(texts, "Key: ", " for reflector 55°") == expected
    boxed = {"lamps": (a_lamp(configuration="day-led-300.bare", face="octagon-0.9", level=0.02),)}
    fitted = next(each for each in gear.faces if each.slug == "octagon-0.9")
    alike = {each.slug: each.name for each in gear.faces if each.fitting == fitted.fitting and each != fitted}
    slug, name = next(iter(alike.items()))
    for bench, gone in ((gear, set()), (retired(gear, "faces", slug), {name})):
        texts = proposed(missing(bench, **boxed))
        assert names_for(texts, "", f" for {fitted.name} on Key") == set(alike.values()) - gone
        assert not any(text.startswith("Key: ") for text in texts)  # a box takes no other optic
    framed = {"lamps": (a_lamp(level=0.05),), "frames": (a_frame(),)}
    holder = next(each for each in gear.frames if each.slug == "frame-1.2")
    cloth = next(each for each in gear.cloths if each.slug == "cloth-full-white")
    cloths = {each.slug: each.name for each in gear.cloths if each.slug != cloth.slug and each.fits(holder)}
    frames = {each.name for each in gear.frames if each.slug != holder.slug and cloth.fits(each)}
    slug, name = next(iter(cloths.items()))
    for bench, gone in ((gear, set()), (retired(gear, "cloths", slug), {name})):
        texts = proposed(missing(bench, **framed))
        assert names_for(texts, "", f" for {cloth.name} on Frame") == set(cloths.values()) - gone
        assert names_for(texts, "", f" for {holder.name}") == frames
    for frame in (a_frame(is_locked=True), a_frame(x_m=5.5, y_m=4.5)):  # locked, or of no account there
        texts = proposed(missing(gear, lamps=(a_lamp(level=0.05),), frames=(frame,)))
        assert not any(" on Frame" in text for text in texts)
    board = a_frame(frame="", cloth="", board="board-poly-1.2", x_m=1.6, y_m=3.2, bearing_deg=120.0)
    lamp = a_lamp(x_m=3.6, y_m=4.4, aims_at="", bearing_deg=239.0, level=0.9)
    miss = missing(gear, lamps=(lamp,), frames=(board,))
    assert miss.lit.response.via_lx[0, 0, miss.place] > 0.15 * miss.lit.response.whole_lx[0, miss.place]
    boards = {each.name for each in gear.boards if each.slug != "board-poly-1.2"}
    white = next(each.name for each in gear.boards if each.slug == "board-poly-1.2")
    assert names_for(proposed(miss), "", f" for {white}") == boards


@pytest.mark.parametrize("level", [0.02, 0.4])
def test_the_longest_name_leaves_room_for_what_is_proposed(gear, level):
    miss = missing(gear, lamps=(a_lamp(name="x" * 80, level=level),))
    pieces = [changes[0].piece for changes in proposed(miss).values() if changes[0].piece]
    assert {len(each.name) for each in pieces} == {80}


def test_a_second_head_stands_beside_and_nets_before_the_lamp(gear):
    high = a_lamp(x_m=1.0, y_m=1.5, z_m=2.4, level=0.05)
    miss = missing(gear, lamps=(high,), look=Look(iso=100.0))
    (change,) = next(changes for text, changes in proposed(miss).items() if text.startswith("A second head"))
    key, second = miss.setup.lamps[0], change.piece
    beside = np.array([second.x_m - key.x_m, second.y_m - key.y_m])
    towards = np.array([2.0, 1.0]) / 5.0**0.5
    assert np.linalg.norm(beside) == pytest.approx(0.45 * np.cos(np.arctan(0.9 / 5.0**0.5)), abs=0.03)
    assert beside @ towards == pytest.approx(0.0, abs=0.01)
    assert second.level == pytest.approx(0.05 * (miss.factor - 1.0), abs=1e-4)
    assert (second.piece_id, second.name) == ("lamp-1", "Key 2")
    hot = missing(gear, lamps=(replace(high, level=0.9),), look=Look(iso=1600.0))
    flags = [changes[0].piece for text, changes in proposed(hot).items() if " before Key" in text]
    assert [str(flag.kind) for flag in flags] == ["single net", "double net", "solid"]
    mark = hot.lit.built.marks[hot.place].mark.position_m
    for flag in flags:
        spot = np.array([flag.x_m, flag.y_m, flag.z_m])
        lamp = np.array([key.x_m, key.y_m, key.z_m])
        assert np.linalg.norm(spot - lamp) == pytest.approx(0.6, abs=0.002)
        assert np.cross(spot - lamp, mark - lamp) == pytest.approx(np.zeros(3), abs=0.005)
        assert (spot - lamp) @ (mark - lamp) > 0.0
        away = lamp - mark
        assert flag.bearing_deg == pytest.approx(np.degrees(np.arctan2(away[0], away[1])) % 360.0, abs=0.1)
        assert flag.tilt_deg == pytest.approx(np.degrees(np.arcsin(away[2] / np.linalg.norm(away))), abs=0.1)
    ring = next(head.scrim_ring_mm for head in gear.heads if head.slug == "day-led-300")
    dims = [each for each in gear.sheets if each.kind.only_dims and (not each.ring_mm or each.ring_mm == ring)]
    assert names_for(proposed(hot), "", " on Key") == {each.name for each in dims}
    assert len(dims) < sum(each.kind.only_dims for each in gear.sheets)  # some are for other rings
    assert not any(" before Key" in text for text in proposed(miss))  # nothing is cut where light is wanting
    near = missing(gear, lamps=(a_lamp(x_m=2.3, y_m=1.8, level=0.3),))
    assert not any(" before Key" in text for text in proposed(near))  # no room between


def test_other_heads_wear_the_same_and_the_lightest_of_ours_come_first(gear):
    miss = missing(gear, lamps=(a_lamp(level=0.05),))
    found = [(text, changes[0].to) for text, changes in proposed(miss).items() if " in place of day LED 300" in text]
    assert 1 <= len(found) <= 3
    by_slug = {each.slug: each for each in gear.configurations}
    heads = {head.slug: head for head in gear.heads}
    now_cd = float(by_slug["day-led-300.reflector"].distribution.intensity_cd(0.0))
    ranks = []
    for _, to in found:
        other = by_slug[to["configuration"]]
        assert other.name == "reflector 55°"
        level = 0.05 * miss.factor * now_cd / float(other.distribution.intensity_cd(0.0))
        assert to["level"] == pytest.approx(level, abs=1e-4)
        ranks.append((not heads[other.head_slug].is_owned, heads[other.head_slug].total_kg))
    assert ranks == sorted(ranks)
    dark = missing(gear, lamps=(a_lamp(level=0.6),), look=Look(iso=50.0))
    others = [changes[0].to for text, changes in proposed(dark).items() if " in place of day LED 300" in text]
    assert max(to["level"] for to in others) <= 1.0
    first = heads[by_slug[found[0][1]["configuration"]].head_slug]
    hired = replace(gear, heads=tuple(replace(each, owned=0 if each == first else 1) for each in gear.heads))
    texts = [text for text in proposed(missing(hired, lamps=(a_lamp(level=0.05),))) if " in place of day" in text]
    assert not texts[0].startswith(first.name)


@pytest.mark.parametrize("bearing", [352.0, 0.0, 12.0, 25.0, 335.0])
def test_the_camera_turns_no_further_than_the_window_asks(gear, bearing):
    """Five degrees at a time, right before left, until the ladder has no window."""
    camera = Camera(x_m=3.0, y_m=0.3, z_m=1.5, bearing_deg=bearing, focal_mm=35.0)
    target = a_target(mark="window", stops=-2.0)
    found = lit_setup(gear, when=NOON, camera=camera, targets=(target,))
    rung = ladder_of(found, RULES.receptor).rung("window")
    miss = Shortfall(lit=found, rung=rung, gear=gear, rules=RULES, response_for=lambda built: lit(built).response)

    def shows(turned_deg: float) -> bool:
        turned = replace(camera, bearing_deg=(bearing + turned_deg) % 360.0)
        ladder = ladder_of(lit_setup(gear, when=NOON, camera=turned, targets=(target,)), RULES.receptor)
        return ladder.rung("window") is not None

    turns = [way * turn for turn in range(5, 35, 5) for way in (1, -1)]
    expected = next((turn for turn in turns if not shows(turn)), None)
    said = [each.text for each in by_camera_and_day(miss) if each.text.startswith("Turn the camera")]
    word = "right" if (expected or 0) > 0 else "left"
    dark = replace(miss, rung=replace(rung, miss_stops=-1.0))
    assert not [each for each in by_camera_and_day(dark) if each.text.startswith("Turn")]  # there it does not help
    assert said == ([] if expected is None else [f"Turn the camera {abs(expected)}° {word}: Window leaves the picture"])


@tabled
def test_the_camera_goes_as_far_as_it_can(gear, name, missed, limit):
    """One stop to give or to take; a limit below 0 is one from below."""
    for share, is_offered in ((0.99, limit > 0.0), (1.01, limit < 0.0)):
        miss = missing(gear, look=Look(**{name: abs(limit) * share}))
        proposals = by_camera_and_day(replace(miss, rung=replace(miss.rung, miss_stops=missed)))
        assert any(name in (each.changes[0].to or {}) for each in proposals) is is_offered


@tabled
def test_the_camera_moves_in_the_steps_it_has(gear, stops, expected):
    """From T2.8, ISO 1600 and three stops of ND; ND in whole stops, the others in thirds; a step is no step of none."""
    miss = missing(gear, look=Look(t_stop=2.8, iso=1600.0, nd_stops=3.0))
    proposals = list(by_camera_and_day(replace(miss, rung=replace(miss.rung, miss_stops=stops))))
    to = [each.changes[0].to for each in proposals if each.changes[0].where == "look"]
    if stops > 1.0:
        assert [each.text for each in proposals][:3] == ["Close to T4", "ISO 800", "4.0 stops of ND at the lens"]
    names = ("t_stop", "iso", "nd_stops")
    assert to == [{name: value} for name, value in zip(names, expected, strict=True) if value is not None]
