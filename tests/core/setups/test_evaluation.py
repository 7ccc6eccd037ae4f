"""What is said of each piece, and that it stays so wherever all of them stand."""

from dataclasses import replace
from operator import attrgetter

import numpy as np
import pytest

from iron_bucket.core.setups.evaluation import Evaluation, piece_names
from iron_bucket.core.setups.plan.setup import PLACED, WindowFilm
from tests.core.setups.made import OPEN_AIR, RULES, a_frame, a_lamp, a_place, a_setup, a_target, lit_setup
from tests.tables import tabled


def test_every_piece_is_named_by_what_it_is_made_of_and_fed_from(gear):
    board = a_frame(piece_id="board", name="Board", frame="", cloth="", board="board-poly-1.2")
    lamps = (a_lamp(feed="socket"), a_lamp(piece_id="two", name="Two", feed="battery-v-150"))
    film = WindowFilm(piece_id="film", opening_id="window", stops=1.0)
    setup = a_setup(lamps=lamps, frames=(a_frame(), board), targets=(a_target(),), films=(film,))
    found = Evaluation(lit=lit_setup(gear, setup), gear=gear, rules=RULES)
    words = {each.slug: each.name for each in gear.items()}
    made_of = f"{words['frame-1.2']}, {words['cloth-full-white']}"
    assert found.frame_words == {"frame": made_of, "board": words["board-poly-1.2"]}
    assert found.feeds == {"key": "Corner, Ring", "two": words["battery-v-150"]}
    names = piece_names(setup, a_place())
    assert (names["t"], names["film"]) == (f"target on {found.mark_names['anna.key']}", "film on Window")
    assert (names["two"], names["anna"]) == ("Two", "Anna")


def test_what_each_lamp_gives_on_the_key_side(gear):
    lamps = (a_lamp(), a_lamp(piece_id="two", name="Two", level=0.05), a_lamp(piece_id="c", name="C", is_on=False))
    found = Evaluation(lit=lit_setup(gear, lamps=lamps), gear=gear, rules=RULES)
    assert set(found.key_stops) == {"key", "two"}
    assert found.key_mark == "anna.right"  # the cheek towards the lamps
    assert found.key_stops["two"] == pytest.approx(found.key_stops["key"] - 1.0)  # at half the level
    both = 2.0 ** found.key_stops["key"] + 2.0 ** found.key_stops["two"]
    assert found.ladder.rung("anna.key").stops == pytest.approx(np.log2(both))
    assert set(found.lamp_amps) == set(found.key_stops) | {"c"}
    nobody = Evaluation(lit=lit_setup(gear, people=()), gear=gear, rules=RULES)
    assert (nobody.key_stops, nobody.key_mark) == ({}, None)


@tabled
def test_a_plan_that_is_carried_and_turned_as_a_whole_reads_as_before(gear, plan, codes):
    """A quarter round by the clock, and some metres away, where there is no house."""

    def carried(piece):
        return replace(piece, x_m=piece.y_m + 7.0, y_m=-4.0 - piece.x_m, bearing_deg=(piece.bearing_deg + 90.0) % 360.0)

    here = a_setup(**plan)
    moved = {kind: tuple(carried(each) for each in getattr(here, kind)) for kind in PLACED}
    there = replace(here, camera=carried(here.camera), **moved)
    before, after = (Evaluation(lit=lit_setup(gear, each, OPEN_AIR), gear=gear, rules=RULES) for each in (here, there))
    assert after.lit.response.whole_lx == pytest.approx(before.lit.response.whole_lx, rel=1e-3, abs=1e-3)
    assert [str(each) for each in after.cautions] == [str(each) for each in before.cautions]
    assert ({each.code for each in before.cautions}, after.throws) == (set(codes), pytest.approx(before.throws))
    (one,), (other,) = (each.faces for each in (after, before))
    figures = attrgetter("angle_deg", "height_deg", "throw_m", "apparent_deg", "edge_m", "nose_lx", "hot_centre")
    assert figures(one) == pytest.approx(figures(other), rel=1e-2, abs=1e-3)
    assert one.bearing_deg == pytest.approx((other.bearing_deg + 90.0) % 360.0, abs=0.1)
