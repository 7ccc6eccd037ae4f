"""What is said of each piece, and that it stays so wherever all of them stand."""

from dataclasses import asdict, replace

import pytest

from iron_bucket.core.places.place import Gloss
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.evaluation import Evaluation, piece_names
from iron_bucket.core.setups.plan.setup import PLACED, Camera, PlacedFlag, Spot, WindowFilm
from tests.core.setups.made import RULES, a_frame, a_lamp, a_place, a_setup, a_target, lit_setup


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


def test_a_set_up_that_is_carried_and_turned_as_a_whole_reads_as_before(gear):
    """A quarter round by the clock, and some metres away, where there is no house."""

    def carried(piece):
        return replace(piece, x_m=piece.y_m + 7.0, y_m=-4.0 - piece.x_m, bearing_deg=(piece.bearing_deg + 90.0) % 360.0)

    lamps = (
        a_lamp(level=0.4, sheets=("nd-0.3",)),
        a_lamp(piece_id="two", name="Two", x_m=4.2, y_m=3.6, z_m=2.4, aims_at="", bearing_deg=228.0, tilt_deg=-20.0),
        a_lamp(piece_id="panel", name="Panel", configuration="panel-100.own-face", x_m=3.4, y_m=0.75, z_m=1.8),
    )
    frames = (
        a_frame(cloth="cloth-light-frost"),
        a_frame(
            piece_id="board",
            name="Board",
            frame="",
            cloth="",
            board="board-mirror",
            x_m=3.2,
            y_m=3.6,
            bearing_deg=180.0,
        ),
    )
    flag = PlacedFlag(piece_id="flag", name="Flag", x_m=2.6, y_m=3.4, z_m=1.4, bearing_deg=140.0)
    table = Spot(
        piece_id="table", name="Table", x_m=3.36, y_m=1.3, z_m=0.8, bearing_deg=0.0, tilt_deg=90.0, gloss=Gloss.GLOSSY
    )
    camera = Camera(x_m=3.0, y_m=0.3, z_m=1.5, bearing_deg=0.0, tilt_deg=-17.0, focal_mm=18.0)
    here = a_setup(camera=camera, lamps=lamps, frames=frames, flags=(flag,), spots=(table,), targets=(a_target(),))
    moved = {kind: tuple(carried(each) for each in getattr(here, kind)) for kind in PLACED}
    there = replace(here, camera=carried(here.camera), **moved)
    field = Surroundings(a_place(rooms=(), circuits=(), sockets=()))
    before, after = (Evaluation(lit=lit_setup(gear, each, field), gear=gear, rules=RULES) for each in (here, there))
    assert after.lit.response.whole_lx == pytest.approx(before.lit.response.whole_lx, rel=1e-3, abs=1e-3)
    assert [str(each) for each in after.cautions] == [str(each) for each in before.cautions]
    assert (after.throws, sorted({each.code for each in before.cautions})) == (
        pytest.approx(before.throws),
        ["gloss", "in-picture", "mirrored"],
    )
    (one,), (other,) = ([dict(asdict(face), person="", ratio=0.0) for face in each.faces] for each in (after, before))
    assert one.pop("bearing_deg") == pytest.approx((other.pop("bearing_deg") + 90.0) % 360.0, abs=0.1)
    assert one == pytest.approx(other, rel=1e-2, abs=1e-3)
