"""The points of one stack, by hand."""

from dataclasses import fields, replace

import pytest

from iron_bucket.core.bench.bag import Bag
from iron_bucket.core.modifiers.kinds import SheetKind
from iron_bucket.core.power.load import DrawCurve
from iron_bucket.core.selection.fit import fit_of
from iron_bucket.core.selection.pick import Candidate
from iron_bucket.core.selection.ranking import Weights
from tests.core.rigging.test_rigging import a_stand
from tests.core.selection.made import answer
from tests.made_up import a_board, a_cloth, a_draw, a_face, a_frame, a_head, a_need, a_sheet

THING = {"name": "thing", "maker": ""}
#: What is weighed, in the order of the points.
WEIGHED = tuple(each.name for each in fields(Weights))


@pytest.mark.parametrize("wanted_lx", [2.0, 30.0, 80.0])
def test_points_by_hand(wanted_lx):
    """A box and a gel on the head: 5 + 0.5 + 1.5 + 0.1 kg, 40 and 6 and 3 to pay; claimed, and not ours."""
    weights = Weights(**dict(zip(WEIGHED, range(1, 12), strict=True)))
    gel = a_sheet("gel", SheetKind.COLOUR, 0.8, shift_mired=10.0, tint=-0.25, day_price=3.0)
    picked = answer(
        a_need(illuminance_lx=wanted_lx, cct_k=5500.0), heads=(a_head(tint=0.1),), faces=(a_face(),), sheets=(gel,)
    )
    fit = fit_of(picked, Candidate(row=0, front=1, sheets=1), weights=weights)
    assert (fit.weight_kg, fit.day_price) == pytest.approx((7.1, 49.0))
    mireds_off = 1e6 / 5600.0 + 10.0 - 1e6 / 5500.0
    assert fit.points == pytest.approx(
        {
            "reserve": max(0.5 - fit.headroom_stops, 0.0),
            "waste": 2.0 * max(fit.headroom_stops - 3.0, 0.0),
            "dimmed": 0.0,
            "pieces": 4.0 * 2,
            "weight": 5.0 * 7.1,
            "draw": 6.0 * fit.watts / 100.0,
            "price": 7.0 * 49.0,
            "hire": 8.0,
            "colour": 9.0 * (mireds_off / 25.0) ** 2,
            "tint": 10.0 * 0.15,
            "trust": 11.0,
        },
        rel=1e-3,
    )
    best = fit_of(picked, picked.fits.candidate(0))
    assert picked.fits.points[0] == pytest.approx(sum(best.points.values()), rel=1e-5)


def test_stands_and_bags_weigh_and_a_frame_s_two_stands_are_pieces():
    """A head of 5.5 kg on a stand of 3 kg; a frame of 3 kg between two, with 0.7 kg of cloth; bags of 10 kg."""
    stand = a_stand(slug="stand", weight_kg=3.0, day_price=2.0, payload_kg=6.0, spigot_mm=16.0, owned=0)
    light = replace(stand, slug="light", weight_kg=1.0, payload_kg=5.2)  # for flats; the head is too heavy
    large = replace(stand, slug="large", weight_kg=5.0, payload_kg=40.0)  # for a box of 1.5 kg on the head
    grip = {"stands": (light, stand, large), "bags": (Bag(**THING, slug="bag", weight_kg=10.0, day_price=1.0),)}
    flats = {"frames": (a_frame(),), "cloths": (a_cloth(),), "boards": (a_board(),), "faces": (a_face(),)}
    picked = answer(a_need(illuminance_lx=20.0), **grip, **flats)
    found = [fit_of(picked, Candidate(row=0, front=at, sheets=0)) for at in range(len(picked.bench.fronts))]
    for kind, stands, parts, parts_kg in (
        ("open", 1, 0, 0.0),
        ("frame", 3, 2, 3.0 + 1.44 * 0.5),
        ("board", 2, 1, 1.0),
        ("book", 4, 3, 4.72),
    ):
        fit = next(each for each in found if each.front.kind == kind)
        grip_kg = 13.0 + 11.0 * (stands - 1)
        assert (fit.grip_kg, fit.weight_kg) == pytest.approx((grip_kg, 5.5 + parts_kg + grip_kg))
        assert fit.points["weight"] == pytest.approx(0.04 * fit.weight_kg, rel=1e-4)
        assert fit.points["pieces"] == pytest.approx(0.25 * (parts + stands - 1))
        assert fit.day_price == pytest.approx(40.0 + fit.front.day_price + 3.0 * stands)
    assert next(each for each in found if each.front.face).grip_kg == 15.0
    limited = answer(a_need(illuminance_lx=20.0, most_weight_kg=18.6, most_day_price=43.5), **grip, **flats)
    assert [limited.bench.fronts[at].kind for at in limited.fits.front] == ["open"]


def test_a_filament_is_scrimmed_before_it_is_dimmed_and_gelled():
    """A stop and a half too bright: a scrim takes one, what is left to the dimmer is hardly seen."""
    draw = a_draw(curve=DrawCurve.FILAMENT, idle_w=0.0)
    lamp = a_head(lowest_cct_k=3200.0, highest_cct_k=3200.0, scrim_ring_mm=130.0, draw=draw)
    sheets = (
        a_sheet("scrim", SheetKind.SCRIM, None, layers=2, ring_mm=130.0),
        a_sheet("blue", SheetKind.COLOUR, 0.7, shift_mired=-35.0),
    )
    picked = answer(a_need(illuminance_lx=350.0, cct_k=3200.0), heads=(lamp,), sheets=sheets)
    best = fit_of(picked, picked.fits.candidate(0))
    assert [each.slug for each in best.sheets] == ["scrim"]
    bare = fit_of(picked, Candidate(row=0, front=0, sheets=0))
    assert bare.points["dimmed"] == pytest.approx(0.2 * (bare.headroom_stops - 0.5), rel=1e-3)
    assert best.points["pieces"] == pytest.approx(0.125)  # it comes in the head's own bag
