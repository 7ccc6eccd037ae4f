"""Lamps, frames and flags by letter: the same on plan, height strip, table and sheet."""

from string import ascii_uppercase

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.scene.book import books


def letter(at: int) -> str:
    """A to Z, then AA, AB … for the piece at a place that counts from 0."""
    first, last = divmod(at, len(ascii_uppercase))
    return (letter(first - 1) if first else "") + ascii_uppercase[last]


def letters_of(setup: Setup, gear: Gear) -> dict[str, str]:
    """By piece id: lamps in their order, then frames, then flags; the pages of a book light have their lamp's."""
    pages = {page: each.lamp_id for each in books(setup, gear) for page in (each.board_id, each.cloth_id)}
    pieces = [each.piece_id for each in (*setup.lamps, *setup.frames, *setup.flags)]
    found = {piece: letter(at) for at, piece in enumerate(piece for piece in pieces if piece not in pages)}
    return found | {page: found[lamp] for page, lamp in pages.items()}
