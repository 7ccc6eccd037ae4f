"""The points of one stack, by hand."""

from dataclasses import fields

import pytest

from iron_bucket.core.modifiers.kinds import SheetKind
from iron_bucket.core.selection.fit import fit_of
from iron_bucket.core.selection.pick import Candidate
from iron_bucket.core.selection.ranking import Weights
from tests.core.selection.made import answer
from tests.made_up import a_face, a_need, a_sheet

#: What is weighed, in the order of the points.
WEIGHED = tuple(each.name for each in fields(Weights))


@pytest.mark.parametrize("wanted_lx", [2.0, 30.0, 80.0])
def test_points_by_hand(wanted_lx):
    """A box and a gel on the head: 5 + 0.5 + 1.5 + 0.1 kg, 40 and 6 and 3 to pay; claimed, and not ours."""
    weights = Weights(**dict(zip(WEIGHED, range(1, 11), strict=True)))
    gel = a_sheet("gel", SheetKind.COLOUR, 0.8, shift_mired=10.0, tint=-0.25, day_price=3.0)
    picked = answer(a_need(illuminance_lx=wanted_lx, cct_k=5500.0), faces=(a_face(),), sheets=(gel,))
    fit = fit_of(picked, Candidate(row=0, front=1, sheets=1), weights=weights)
    mireds_off = 1e6 / 5600.0 + 10.0 - 1e6 / 5500.0
    assert fit.points == pytest.approx(
        {
            "reserve": max(0.5 - fit.headroom_stops, 0.0),
            "waste": 2.0 * max(fit.headroom_stops - 3.0, 0.0),
            "pieces": 3.0 * 2,
            "weight": 4.0 * 7.1,
            "draw": 5.0 * fit.watts / 100.0,
            "price": 6.0 * 49.0,
            "hire": 7.0,
            "colour": 8.0 * mireds_off / 25.0,
            "tint": 9.0 * 0.25,
            "trust": 10.0,
        },
        rel=1e-3,
    )
    best = fit_of(picked, picked.fits.candidate(0))
    assert picked.fits.points[0] == pytest.approx(sum(best.points.values()), rel=1e-5)
