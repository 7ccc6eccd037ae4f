"""Which pieces of a plan are one book light, by where they stand."""

import numpy as np
import pytest

from iron_bucket.core.setups.plan.setup import PlacedFrame
from iron_bucket.core.setups.scene.book import books
from tests.core.setups.made import a_frame, a_lamp, a_setup
from tests.tables import tabled

#: Two metres from Anna at (3, 2.5) looks the board at her, a metre before it stands the cloth, turned by 30 degrees.
BOARD = PlacedFrame(piece_id="board", name="Board", x_m=1.0, y_m=2.5, z_m=1.5, bearing_deg=90.0, board="board-poly-1.2")
CLOTH = a_frame(piece_id="cloth", x_m=2.0, y_m=2.5, bearing_deg=60.0)
LAMP = a_lamp(aims_at="board")


def test_a_lamp_a_board_and_the_cloth_before_it_are_a_book(gear):
    between = a_frame(piece_id="second", x_m=2.5, y_m=2.5, bearing_deg=90.0)
    (nearest,) = books(a_setup(lamps=(LAMP,), frames=(between, BOARD, CLOTH)), gear)
    assert nearest.cloth_id == "cloth"  # of two before the board the nearer is its page
    for x_m, y_m in ((2.2, 1.95), (1.85, 3.05)):
        farther = a_frame(piece_id="far", x_m=x_m, y_m=y_m, bearing_deg=90.0)
        (book,) = books(a_setup(lamps=(LAMP,), frames=(farther, BOARD, CLOTH)), gear)
        assert (book.lamp_id, book.board_id, book.cloth_id) == (LAMP.piece_id, "board", "cloth")
    width_m = next(each.width_m for each in gear.boards if each.slug == "board-poly-1.2")
    at, half = (
        np.array([2.0, 2.5]),
        np.array([-0.5, np.sqrt(0.75)]) * next(e.width_m for e in gear.frames if e.slug == CLOTH.frame) / 2.0,
    )
    # Turned so, the cloth comes nearer to the board at its upper end; there is the spine.
    assert book.board_m == pytest.approx(np.array([[1.0, 2.5 - width_m / 2.0], [1.0, 2.5 + width_m / 2.0]]))
    assert book.cloth_m == pytest.approx(np.array([at - half, at + half]))


@tabled
def test_no_book_without_all_three_in_a_row(gear, changes):
    assert books(a_setup(**({"lamps": (LAMP,), "frames": (BOARD, CLOTH)} | changes)), gear) == ()
