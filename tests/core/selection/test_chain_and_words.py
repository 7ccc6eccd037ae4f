"""The steps of an answer, and what is said of what does not fit."""

from dataclasses import replace

import pytest

from iron_bucket.core.modifiers.kinds import SheetKind
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.selection.chain import chain_of
from iron_bucket.core.selection.pick import Candidate
from tests.core.selection.made import ONLY, answer
from tests.made_up import a_head, a_need, a_sheet
from tests.tables import table, tabled


def test_a_chain_runs_from_the_bare_head_to_the_need():
    gear = table(__file__, "gear")
    picked = answer(a_need(illuminance_lx=20.0), **gear)
    chain = chain_of(picked.bench, picked.need, Candidate(row=0, front=1, sheets=1), picked.found)
    labels = [step.label for step in chain.steps]
    assert labels[:4] == ["own beam at 1 m", "to the subject", "nd", "dome"]
    assert chain.steps[0].illuminance_lx == pytest.approx(9000.0 / 1.1**2, rel=1e-3)
    assert chain.steps[2].stops == pytest.approx(-1.0)
    total = chain.steps[0].illuminance_lx * 2 ** sum(step.stops for step in chain.steps)
    assert chain.steps[-1].illuminance_lx == pytest.approx(20.0, rel=1e-3)
    assert total == pytest.approx(20.0, rel=1e-3)
    assert chain.level == pytest.approx(2**-chain.headroom_stops, rel=1e-3)
    assert float(labels[-1].removeprefix("dim ").removesuffix(" %")) == pytest.approx(100.0 * chain.level, rel=0.01)
    assert "0.5 × " in chain.steps[3].formula
    assert "(3 m + 0.1 m)²" in chain.steps[1].formula
    feet = chain_of(picked.bench, picked.need, Candidate(row=0, front=1, sheets=1), picked.found, UnitSystem.IMPERIAL)
    assert (feet.steps[0].label, "(9.84 ft + 0.328 ft)²" in feet.steps[1].formula) == ("own beam at 3.28 ft", True)


def test_a_chain_that_falls_short_ends_below():
    picked = answer(a_need(illuminance_lx=2000.0))
    chain = chain_of(picked.bench, picked.need, ONLY)
    assert chain.steps[-1].label == "full"
    assert chain.steps[-1].illuminance_lx == pytest.approx(1000.0, rel=1e-3)
    assert chain.headroom_stops == pytest.approx(-1.0, abs=1e-3)


@tabled
def test_a_dimmer_step_says_what_to_set(head, said):
    """Half of full: 0.5^(1/3.4) of a filament's voltage, 0.5^(1/2) of a square dimmer's travel."""
    picked = answer(a_need(illuminance_lx=500.0), heads=(a_head(**head),))
    assert chain_of(picked.bench, picked.need, ONLY).steps[-1].formula == said


def test_a_spread_is_told_by_the_sheet_that_is_on():
    frost, white = (
        a_sheet(name, SheetKind.DIFFUSION, 0.5, straight_share=share, lobe_deg=lobe)
        for name, share, lobe in (("frost", 0.4, 10.0), ("white", 0.0, 60.0))
    )
    picked = answer(a_need(illuminance_lx=5.0), sheets=(frost, white))
    for at, sheet_set in enumerate(picked.bench.sheet_sets):
        if len(sheet_set.sheets) == 1:
            steps = chain_of(picked.bench, picked.need, replace(ONLY, sheets=at), picked.found).steps
            (spread,) = [step for step in steps if step.label == f"{sheet_set.sheets[0].slug}, spread"]
            assert ("40 %" in spread.formula) is (sheet_set.sheets[0] is frost)


@tabled
def test_a_chain_says_how_a_loss_comes_about(gear, front, label, formula, ends):
    picked = answer(a_need(illuminance_lx=5.0), **gear)
    step = chain_of(picked.bench, picked.need, Candidate(row=0, front=front, sheets=0), picked.found).steps[2]
    assert step.label == label
    assert (step.formula.startswith(formula), step.formula.endswith(ends)) == (True, True)
    caught = f"catches {100 * picked.found.share_caught[0, front]:.0f} % of the light"
    assert (caught in step.formula) == formula.endswith("catches")
    assert step.origin.value == "typical"
