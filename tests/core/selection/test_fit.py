"""The figures of one stack."""

from dataclasses import replace

import pytest

from iron_bucket.core.modifiers.kinds import SheetKind
from iron_bucket.core.power.load import DrawCurve
from iron_bucket.core.selection.fit import fit_of
from iron_bucket.core.selection.pick import Candidate
from tests.core.selection.made import FOUR, SOCKET, answer, only_fit
from tests.made_up import a_cloth, a_configuration, a_draw, a_face, a_frame, a_head, a_need, a_sheet


def test_dimmed_to_the_need():
    fit = only_fit()
    assert fit.headroom_stops == pytest.approx(1.0, abs=1e-3)  # 1000 lx there, 500 wanted
    assert fit.level == pytest.approx(0.5, rel=1e-3)
    assert fit.watts == pytest.approx(110.0, rel=1e-3)  # 20 + 180 / 2
    assert fit.weight_kg == pytest.approx(5.5)
    assert fit.day_price == 40.0
    assert (fit.amps, fit.burn_h, fit.colour_error_mired) == (None, None, None)
    assert fit.lux_per_watt == pytest.approx(500 / 110, rel=1e-3)


def test_amps_on_the_circuit_and_batteries_on_the_plates():
    assert only_fit(a_need(feed=SOCKET)).amps == pytest.approx(110.0 / 0.8 / 230.0, rel=1e-3)
    assert only_fit(a_need(illuminance_lx=250.0, feed=replace(FOUR, count=2, burn_h=0.5))).batteries_at_once == 2


def test_batteries_limit_the_level_and_run_down():
    fit = only_fit(a_need(illuminance_lx=250.0, feed=FOUR))
    assert fit.headroom_stops == pytest.approx(1.0, abs=1e-3)  # half of 1000 lx on batteries
    assert fit.level == pytest.approx(0.25, rel=1e-3)
    assert fit.burn_h == pytest.approx(4 * 90.0 / 65.0, rel=1e-3)
    assert fit.batteries_at_once == 2
    # At freezing a fifth of the capacity is gone.
    assert only_fit(a_need(illuminance_lx=250.0, feed=replace(FOUR, temperature_c=0.0))).burn_h == pytest.approx(
        0.8 * fit.burn_h, rel=1e-6
    )


def test_what_the_configuration_costs_is_paid_too():
    assert only_fit(configurations=(a_configuration(day_price=7.0),)).day_price == 47.0
    # Head 40 and 5 kg, optic 0.5 kg, frame 6 and 3 kg, 1.44 m2 of cloth at 2 and 0.5 kg.
    gear = {"frames": (a_frame(day_price=6.0),), "cloths": (a_cloth(),)}
    picked = answer(a_need(illuminance_lx=20.0), **gear)
    stacks = [fit_of(picked, picked.fits.candidate(at)) for at in range(len(picked.fits))]
    whole = next(fit for fit in stacks if fit.front.frame)
    assert whole.day_price == pytest.approx(40.0 + 6.0 + 1.44 * 2.0)
    assert whole.weight_kg == pytest.approx(5.5 + 3.0 + 1.44 * 0.5)
    assert not whole.covers_more or whole.coverage_m == pytest.approx(picked.found.widest_m, rel=0.001)


def test_a_lamp_stands_amid_its_mireds_a_filament_warms_and_a_gel_past_kelvins_is_bluest():
    """By hand: 10 000 K and 2500 K are 100 and 400 mired; 250 mired between them are 4000 K."""
    assert only_fit(heads=(a_head(lowest_cct_k=2500.0, highest_cct_k=10_000.0),)).light_k == pytest.approx(4000.0)
    lamp = a_head(
        lowest_cct_k=3200.0, highest_cct_k=3200.0, draw=a_draw(curve=DrawCurve.FILAMENT, idle_w=0.0, power_factor=1.0)
    )
    fit = only_fit(a_need(cct_k=3200.0, tolerance_mired=30.0), heads=(lamp,))
    assert fit.light_k == pytest.approx(2937.0, abs=2)  # docs/craft.md, section 5, at half output
    assert fit.colour_error_mired == pytest.approx(28.0, abs=0.5)
    gel = a_sheet("blue", SheetKind.COLOUR, 0.5, shift_mired=-400.0)
    need = a_need(illuminance_lx=20.0, cct_k=40_000.0, tolerance_mired=500.0)
    picked = answer(need, heads=(a_head(lowest_cct_k=3200.0, highest_cct_k=3200.0),), sheets=(gel,))
    kelvins = [fit_of(picked, picked.fits.candidate(at)).light_k for at in range(len(picked.fits))]
    assert max(kelvins) == pytest.approx(100_000.0)


def test_a_stack_is_ours_where_all_of_it_is():
    ours = {"heads": (a_head(owned=1),), "configurations": (a_configuration(owned=1),)}
    picked = answer(a_need(illuminance_lx=20.0), **ours, faces=(a_face(),), sheets=(a_sheet("nd"),))
    for front, sheets in ((0, 0), (0, 1), (1, 0), (1, 1)):
        fit = fit_of(picked, Candidate(row=0, front=front, sheets=sheets))
        assert (fit.is_owned, fit.ways) == (front + sheets == 0, 1)
    assert not only_fit(heads=ours["heads"]).is_owned  # the configuration is hired
