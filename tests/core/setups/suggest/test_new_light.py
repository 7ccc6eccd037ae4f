"""A light that is not there yet: where its head would stand, what pick offers for it, what that gives in the end."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.flag import FlagKind
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.places.bearing import bearing_of, tilt_of
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.rigging.headroom import highest_head_m
from iron_bucket.core.scene.blocking import passing
from iron_bucket.core.selection.fit import fit_of
from iron_bucket.core.selection.front_wish import FrontWish
from iron_bucket.core.selection.fronts import FrontKind
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.selection.pick import pick, spread
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import fresh_response
from iron_bucket.core.setups.plan.camera_view import in_view
from iron_bucket.core.setups.plan.changes import changed
from iron_bucket.core.setups.plan.setup import Camera, PlacedFlag, Spot
from iron_bucket.core.setups.suggest.fix import Fetch
from iron_bucket.core.setups.suggest.head_place import stance_for
from iron_bucket.core.setups.suggest.new_light import LightWish, likeliest_mark, new_light
from iron_bucket.core.setups.suggest.placed_fit import Work, placed_fit
from iron_bucket.core.setups.suggest.pointed import pointed_at
from iron_bucket.core.setups.suggest.shortfall import Shortfall
from tests.core.setups.made import ANNA, BOX, NOON, OPEN_AIR, RULES, WALL, a_lamp, a_place, a_setup, a_target, lit_setup
from tests.tables import tabled

AT = Spot(piece_id="at", name="At", x_m=0.0, y_m=0.0, z_m=1.6, bearing_deg=0.0)


@pytest.fixture(scope="module")
def bench(gear):
    """Of each kind of thing before a head some, so that a pick is quick."""
    small = tuple(each for each in gear.frames if each.width_m <= 1.3)
    return pack(replace(gear, frames=small[:2], sheets=gear.sheets[::3]))


@pytest.mark.parametrize("side", [1.0, -1.0])
@pytest.mark.parametrize("kind", list(FrontKind))
def test_a_pick_put_in_its_place_gives_what_it_promised(gear, bench, kind, side):
    """Two roads to one figure: the level that Pick computes, and the set-up that is built of its answer."""
    setup = a_setup(lamps=(), people=(), spots=(AT,), camera=Camera(x_m=9.0, y_m=9.0))
    need = Need(illuminance_lx=150.0, throw_m=3.0, front=FrontWish(kinds=(kind,)))
    picked = pick(bench, need)
    fits = spread(picked, picked.fits, per_head=1)
    work = Work(from_m=np.array([0.0, 3.0, 1.61]), subject_m=np.array([0.0, 0.0, 1.6]), aims_at="at", feed="socket")
    assert len(fits) >= 3
    for at in range(3):
        fit = fit_of(picked, fits.candidate(at))
        changes = placed_fit(fit, work, setup, side=side)
        lamp = changes[-1].piece
        assert (lamp.aims_at, lamp.feed, len(changes)) == (
            changes[0].piece.piece_id if fit.front.board else "at",
            "socket",
            1 + len(fit.front.flats),
        )
        assert len({each.piece.group for each in changes}) == 1
        assert len({each.piece_id for each in changes}) == len(changes)
        found = lit_setup(gear, changed(setup, changes), OPEN_AIR)
        assert found.total_lx[0] == pytest.approx(150.0, rel=0.12), fit.key
        assert lamp.x_m * side < 0.0 or not fit.front.board  # clockwise of the board's way, seen from above
        if not fit.front.board:  # turned by itself, with nothing to follow
            turned = placed_fit(fit, replace(work, aims_at=""), setup, side=side)
            by_itself = lit_setup(gear, changed(setup, turned), OPEN_AIR)
            assert by_itself.total_lx[0] == pytest.approx(found.total_lx[0], rel=0.02)


def test_a_head_stands_in_the_room_under_the_ceiling_out_of_the_picture_with_nothing_before_it(gear):
    found = lit_setup(gear)
    built = found.built
    for mark in (each.mark for each in built.marks if not each.mark_id.endswith("nose")):
        for given in ({}, {"away_m": 1.4 if mark.is_dome else 2.2}, {"height_m": 1.9}):
            stance = stance_for(built, mark, **given)
            x_m, y_m, z_m = stance.head_m
            assert 0.3 <= x_m <= 5.7
            assert 0.3 <= y_m <= 4.7
            assert 0.4 <= z_m <= highest_head_m(3.0)
            assert stance.ceiling_m == 3.0
            assert not in_view(built.setup.camera, built.setup.look, stance.head_m[None])[0]
            assert passing(mark.position_m[None], stance.head_m[None], built.scene.blockers)[0, 0] > 0.5
            stands = [(each.x_m, each.y_m) for each in (*built.setup.people, *built.setup.lamps, built.setup.camera)]
            assert min(np.hypot(x_m - x, y_m - y) for x, y in stands) >= 0.6
            assert stance.throw_m(mark) == pytest.approx(given.get("away_m", stance.throw_m(mark)))
            assert z_m == pytest.approx(given.get("height_m", z_m))


def test_where_everything_is_free_a_key_stands_two_metres_off_and_a_little_up(gear):
    away = Camera(x_m=30.0, y_m=30.0)
    open_air = lit_setup(gear, lamps=(), people=(), spots=(AT,), camera=away, surroundings=OPEN_AIR).built
    stance = stance_for(open_air, open_air.marks[0].mark)
    up_m, along_m = 2.0 * np.sin(np.radians(25.0)), 2.0 * np.cos(np.radians(25.0))
    assert stance.head_m == pytest.approx([0.0, 0.01 + along_m, 1.6 + up_m], abs=1e-6)
    assert stance.ceiling_m is None
    # With a lamp there, and a little to the right, it stands to the left.
    taken = a_lamp(x_m=0.3, y_m=1.85)
    lit = lit_setup(gear, lamps=(taken,), people=(), spots=(AT,), camera=away, surroundings=OPEN_AIR).built
    aside = np.radians(-12.0)
    there = np.array([along_m * np.sin(aside), 0.01 + along_m * np.cos(aside), 1.6 + up_m])
    assert stance_for(lit, lit.marks[0].mark).head_m == pytest.approx(there, abs=1e-6)
    # What lies flat is lit from the camera's side, and more from above.
    table = replace(AT, tilt_deg=90.0)
    flat = lit_setup(gear, lamps=(), people=(), spots=(table,), camera=away, surroundings=OPEN_AIR).built
    head = stance_for(flat, flat.marks[0].mark).head_m
    assert head == pytest.approx([0.0, -2.0 * np.cos(np.radians(70.0)), 1.61 + 2.0 * np.sin(np.radians(70.0))])
    low = Surroundings(replace(a_place(), rooms=(replace(a_place().rooms[0], height_m=1.8, openings=()),)))
    crouching = lit_setup(gear, people=(replace(ANNA, z_m=0.9),), spots=(), surroundings=low).built
    with pytest.raises(NoAnswer, match="No place for a head is free"):
        stance_for(crouching, crouching.marks[0].mark, height_m=2.0)


def test_a_head_keeps_off_each_wall_under_the_ceiling_of_its_own_room(gear):
    low, high = replace(a_place().rooms[0], openings=()), replace(a_place().rooms[0], room_id="h", openings=())
    low = replace(low, corners=((0, 0), (9, 0), (9, 4), (0, 4)))
    high = replace(high, height_m=4.5, corners=((9, 0), (19, 0), (19, 4), (9, 4)))
    halls = Surroundings(a_place(rooms=(low, high), sockets=()))
    # Two metres before her there is no room for a stand; nor is there beside a wall that is higher than wide.
    for x_m, y_m, bearing_deg in ((16.8, 2.0, 90.0), (14.0, 1.8, 0.0), (14.0, 2.2, 180.0), (11.2, 2.0, 270.0)):
        looking = replace(ANNA, x_m=x_m, y_m=y_m, bearing_deg=bearing_deg)
        away = Camera(x_m=1.0, y_m=0.5)
        built = lit_setup(gear, people=(looking,), spots=(), lamps=(), camera=away, surroundings=halls).built
        stance = stance_for(built, built.marks[built.mark_index("anna.nose")].mark, away_m=2.0)
        assert 9.3 <= stance.head_m[0] <= 18.7
        assert 0.3 <= stance.head_m[1] <= 3.7
        assert stance.ceiling_m == 4.5
    low_down = stance_for(built, built.marks[built.mark_index("anna.nose")].mark, height_m=0.5)
    assert low_down.head_m[2] == pytest.approx(0.5)


def asked(gear, bench, mark="anna.key", *, bucket=None, surroundings=BOX, wish=None, **changes):
    found = lit_setup(gear, surroundings=surroundings, **changes)
    rung = ladder_of(found, RULES.receptor).rung(mark)
    miss = Shortfall(lit=found, rung=rung, gear=gear, rules=RULES, response_for=fresh_response, bucket=bucket or {})
    return found, new_light(miss, LightWish(**({"mark_id": mark} | (wish or {}))), bench)


def test_each_offer_lands_where_it_is_wanted_and_says_what_else_it_does(gear, bench):
    ring = Circuit(voltage_v=230.0, breaker_a=13.0, used_a=2.0)
    wish = {"feed": ring, "feed_id": "socket", "least_apparent_deg": 3.0}
    ours = {"day-led-60", "day-led-60.lens-15", "day-led-120", "day-led-120.reflector"}
    found, new = asked(gear, bench, targets=(a_target(stops=3.5),), bucket=dict.fromkeys(ours, 1), wish=wish)
    assert {each.fetch for each in new.offers} >= {Fetch.OURS, Fetch.HIRE}
    fetched = [list(Fetch).index(each.fetch) for each in new.offers]
    assert fetched == sorted(fetched)
    assert new.need.throw_m == pytest.approx(new.stance.throw_m(found.built.marks[new.miss.place].mark))
    assert (new.need.feed, new.need.ceiling_m, new.need.width_m) == (ring, 3.0, 0.5)
    assert new.need.cct_k == found.built.setup.look.white_balance_k
    for offer in new.offers:
        setup = changed(found.built.setup, offer.changes)
        lamp = setup.lamps[-1]
        assert (lamp.aims_at, lamp.feed, lamp.purpose) == ("anna", "socket", "Anna key side")
        rung = ladder_of(lit_setup(gear, setup), RULES.receptor).rung("anna.key")
        assert (rung.stops, offer.stops) == (pytest.approx(3.5, abs=1 / 3), pytest.approx(rung.stops, abs=1e-6))
    mark = found.built.marks[new.miss.place].mark
    ray = new.stance.head_m - mark.position_m
    dome = (1.0 + ray @ mark.normal / np.linalg.norm(ray)) / 2.0
    missing_lx = found.built.setup.look.wanted_lx(RULES.receptor) * 2.0**3.5 - found.total_lx[new.miss.place]
    assert new.need.illuminance_lx == pytest.approx(missing_lx / dome)
    # Behind a net it has to give more by what that takes.
    away = new.stance.head_m - mark.position_m
    half = mark.position_m + 0.5 * away
    bearing, tilt = bearing_of(away), tilt_of(away)
    net = {"x_m": half[0], "y_m": half[1], "z_m": half[2], "bearing_deg": bearing, "tilt_deg": tilt}
    flag = PlacedFlag(piece_id="f", name="F", kind=FlagKind.SINGLE_NET, width_m=0.5, height_m=0.5, **net)
    netted, behind = asked(gear, bench, targets=(a_target(stops=3.5),), flags=(flag,))
    (passes,) = {each.transmittance for each in netted.built.scene.solids if each.solid_id == "f"}
    still = found.built.setup.look.wanted_lx(RULES.receptor) * 2.0**3.5 - netted.total_lx[behind.miss.place]
    assert behind.stance.head_m == pytest.approx(new.stance.head_m)
    assert behind.need.illuminance_lx == pytest.approx(still / dome / passes)
    assert 0.5 < passes < 0.9
    counts = [sum(offer.fetch is fetch for offer in new.offers) for fetch in (Fetch.OURS, Fetch.HIRE)]
    assert max(counts) >= 4
    heads = [(offer.fetch, offer.text.split(",")[0]) for offer in new.offers]
    assert len(set(heads)) == len(heads)


def test_what_is_on_the_list_already_comes_first(gear, bench):
    _, bare = asked(gear, bench, targets=(a_target(),), lamps=())
    ours = next(each for each in bare.offers if each.fetch is Fetch.OURS)
    lamp = ours.changes[-1].piece
    slugs = [lamp.configuration, lamp.configuration.split(".")[0], *lamp.sheets, lamp.face, lamp.grid]
    slugs += [slug for each in ours.changes[:-1] for slug in (each.piece.frame, each.piece.cloth)]
    _, new = asked(gear, bench, targets=(a_target(),), lamps=(), bucket=dict.fromkeys(slugs, 1))
    assert (new.offers[0].fetch, new.offers[0].text) == (Fetch.BUCKET, ours.text)
    # Even what would not be among the first few: the last head of ours that can do it; not where none of it is left.
    heads = {offer.text.split(",")[0] for offer in bare.offers}
    fits = [fit_of(picked, picked.fits.candidate(at)) for picked in [pick(bench, bare.need)] for at in range(200)]
    last = next(fit for fit in reversed(fits) if fit.head.owned and fit.head.name not in heads and not fit.front.names)
    parts = [last.head.slug, last.configuration.slug, *(each.slug for each in last.sheets)]
    for count, fetches in ((1, [Fetch.BUCKET]), (0, [])):
        _, new = asked(gear, bench, targets=(a_target(),), lamps=(), bucket=dict.fromkeys(parts, count))
        named = [offer.fetch for offer in new.offers if offer.text.startswith(last.head.name)]
        assert named == fetches


def test_nothing_is_offered_where_nothing_is_missing_or_the_sides_would_change(gear, bench):
    with pytest.raises(NoAnswer, match=r"Nothing is missing there: Anna key side lies at"):
        asked(gear, bench, wish={"stops": -6.0})
    with pytest.raises(NoAnswer, match=r"it would be the key side, which lies at"):
        asked(gear, bench, "anna.shadow", wish={"stops": 3.0})
    _, new = asked(gear, bench, "anna.shadow", wish={"stops": -2.5})
    assert new.offers[0].stops == pytest.approx(-2.5, abs=1 / 3)


def test_a_days_light_comes_from_outside_its_window(gear, bench):
    """At night, as it is at noon: the level of the day by a computation of its own, from behind the pane."""
    faces_window = replace(ANNA, bearing_deg=0.0)
    pale = Surroundings(a_place("white paint"))
    noon = lit_setup(gear, people=(faces_window,), lamps=(), when=NOON, surroundings=pale)
    wanted = ladder_of(noon, RULES.receptor).rung("anna.key").stops
    changes = {"people": (faces_window,), "lamps": (), "surroundings": pale}
    found, new = asked(gear, bench, wish={"like_day": NOON}, **changes)
    assert new.stance.head_m[1] > 5.0
    assert new.stance.ceiling_m is None
    ray, pane = new.stance.head_m - found.built.marks[new.miss.place].mark.position_m, np.array([3.0, 5.0, 1.6])
    through = found.built.marks[new.miss.place].mark.position_m + ray * (
        (5.0 - found.built.marks[new.miss.place].mark.position_m[1]) / ray[1]
    )
    assert through == pytest.approx(pane, abs=0.01)
    assert new.miss.rung.target.stops == pytest.approx(wanted, abs=0.01)
    assert all(each.stops == pytest.approx(wanted, abs=1 / 3) for each in new.offers)


@tabled
def test_a_press_on_the_plan_means_a_side_a_point_a_wall_or_a_table(gear, at, mark, stands, name):
    found = lit_setup(gear)
    said, spot = pointed_at(found, *at)
    assert said == (spot.piece_id if mark is None else mark)
    assert (None if spot is None else [spot.x_m, spot.y_m, spot.z_m, spot.bearing_deg, spot.tilt_deg]) == stands
    ben = replace(ANNA, piece_id="ben", name="Ben", x_m=0.9, y_m=4.2)
    two = lit_setup(gear, people=(ben, ANNA))
    assert pointed_at(two, 0.9, 3.9)[0].startswith("ben.")
    if spot is not None:
        assert (spot.name, spot.reflectance) == (name, 0.03 if name.startswith("Wall") else 0.3)
        assert spot.piece_id not in {each.piece_id for each in found.built.setup.spots}


def test_a_light_is_likeliest_missing_on_what_is_chosen_then_at_the_worst(gear):
    targets = (a_target(mark="anna.shadow", stops=3.0), a_target(piece_id="u", mark="wall", stops=12.0))
    over = a_target(piece_id="v", mark="anna.key", stops=-9.0)
    ladder = ladder_of(lit_setup(gear, targets=(*targets, over), spots=(WALL,)), RULES.receptor)
    assert [likeliest_mark(ladder, chosen) for chosen in ("", "anna", "lamp")] == ["wall", "anna.key", "wall"]
    bare = ladder_of(lit_setup(gear, lamps=(a_lamp(),)), RULES.receptor)
    assert likeliest_mark(bare) == bare.rungs[0].mark_id
    now = bare.rung("anna.shadow").stops
    for stops in (now - 0.7, now + 0.2):  # over, or hardly under: no light is missing there
        aimed = lit_setup(gear, lamps=(a_lamp(),), targets=(a_target(mark="anna.shadow", stops=stops),))
        assert likeliest_mark(ladder_of(aimed, RULES.receptor)) == bare.rungs[0].mark_id
    assert likeliest_mark(ladder_of(lit_setup(gear, people=(), spots=()), RULES.receptor)) == ""
