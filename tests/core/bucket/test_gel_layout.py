"""Cuts on offcuts and sheets: laws over random cuts, and small ones by hand."""

import numpy as np
import pytest

from iron_bucket.core.bucket.gel_layout import laid_out
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.modifiers.kinds import GelCondition, Offcut, Sheet, SheetKind


def a_sheet(owned: int = 2, offcuts=()) -> Sheet:
    return Sheet(
        slug="blue",
        name="Blue",
        maker="",
        weight_kg=0.05,
        owned=owned,
        kind=SheetKind.COLOUR,
        transmittance=Figure(value=0.5, origin=Origin.TYPICAL),
        stock_w_m=0.53,
        stock_l_m=0.61,
        offcuts=tuple(Offcut(width_m=w, length_m=h, condition=c) for w, h, c in offcuts),
    )


GOOD, CREASED, FADED = GelCondition.GOOD, GelCondition.CREASED, GelCondition.FADED


def told(layout) -> dict[str, int]:
    return {each.label: len(each.laid) for each in layout.pieces}


def test_offcuts_first_then_sheets_then_what_is_bought():
    sheet = a_sheet(owned=1, offcuts=((0.3, 0.2, GOOD), (0.2, 0.25, CREASED), (0.5, 0.5, FADED)))
    assert told(laid_out([(0.2, 0.2)], sheet)) == {"offcut 1, creased": 1}
    assert told(laid_out([(0.3, 0.2)], sheet)) == {"offcut 2, good": 1}
    assert told(laid_out([(0.4, 0.3)], sheet)) == {"sheet 1": 1}
    four = laid_out([(0.6, 0.26)] * 4, sheet)
    assert (told(four), four.to_buy) == ({"sheet 1": 2, "to buy 1": 2}, 1)
    huge = laid_out([(1.0, 0.4), (0.2, 0.2)], sheet)
    assert (huge.joined, told(huge)) == (((1.0, 0.4),), {"offcut 1, creased": 1})
    assert laid_out([], sheet).waste == 0.0
    half = laid_out([(0.61, 0.265)], a_sheet())
    assert half.waste == pytest.approx(0.5)
    assert half.pieces[0].left_m == (0.61, pytest.approx(0.265))
    turned = laid_out([(0.1, 0.5)], a_sheet(owned=0))
    assert told(turned) == {"to buy 1": 1}


def test_the_smallest_offcut_the_largest_cut_and_what_fits_to_the_hair():
    sheet = a_sheet(offcuts=((0.25, 0.25, GOOD), (0.5, 0.1, GOOD)))
    (strip,) = laid_out([(0.1, 0.1)], sheet).pieces
    assert (strip.label, strip.width_m) == ("offcut 1, good", 0.5)  # 0.05 of a square metre against 0.0625
    for cuts in ([(0.6, 0.1), (0.3, 0.25)], [(0.3, 0.2), (0.6, 0.1)], [(0.25, 0.2), (0.6, 0.1)]):
        first = laid_out(cuts, a_sheet()).pieces[0].laid[0]  # by area, then the longer
        assert first.width_m == (0.3 if (0.3, 0.25) in cuts else 0.6)
    row = laid_out([(0.305, 0.2), (0.305, 0.2)], a_sheet()).pieces[0]
    assert [(each.x_m, each.y_m) for each in row.laid] == [(0.0, 0.0), (0.305, 0.0)]
    assert told(laid_out([(0.61, 0.265), (0.61, 0.265)], a_sheet())) == {"sheet 1": 2}


@pytest.mark.parametrize("seed", range(8))
def test_no_two_cuts_meet_and_each_lies_on_its_stock(seed):
    chance = np.random.default_rng(seed)
    cuts = [tuple(sorted(chance.uniform(0.05, 0.5, 2), reverse=True)) for _ in range(25)]
    layout = laid_out(cuts, a_sheet(owned=3, offcuts=((0.4, 0.3, GOOD), (0.2, 0.6, CREASED))))
    laid = [each for piece in layout.pieces for each in piece.laid]
    assert sorted(tuple(sorted((each.width_m, each.length_m), reverse=True)) for each in laid) == sorted(cuts)
    for piece in layout.pieces:
        for at, one in enumerate(piece.laid):
            assert one.x_m >= 0.0
            assert one.y_m >= 0.0
            assert one.x_m + one.width_m <= piece.width_m + 1e-9
            assert one.y_m + one.length_m <= piece.length_m + 1e-9
            for other in piece.laid[:at]:
                across = min(one.x_m + one.width_m, other.x_m + other.width_m) - max(one.x_m, other.x_m)
                along = min(one.y_m + one.length_m, other.y_m + other.length_m) - max(one.y_m, other.y_m)
                assert across <= 1e-9 or along <= 1e-9
        assert piece.used_m2 <= piece.width_m * piece.length_m + 1e-9
    assert 0.0 <= layout.waste < 1.0
