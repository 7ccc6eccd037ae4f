"""What is said of each piece."""

from iron_bucket.core.setups.evaluation import Evaluation, piece_names
from iron_bucket.core.setups.plan.setup import WindowFilm
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
