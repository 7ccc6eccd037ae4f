"""Two heads side by side in colour."""

from dataclasses import replace

import pytest

from iron_bucket.core.colour.gel_stacks import Gel
from iron_bucket.core.setups.colour.heads_match import heads_match


def aged(gear, slug, **changes):
    return replace(gear, heads=tuple(replace(head, **changes) if head.slug == slug else head for head in gear.heads))


def test_a_head_matches_itself_at_every_setting(gear):
    found = heads_match(gear, "bi-lens-60.flood", "bi-lens-60.flood")
    assert [each.asked_k for each in found] == [3200.0, 4300.0, 5600.0]
    assert [each.first.cct_k for each in found] == pytest.approx([3200.0, 4300.0, 5600.0], abs=2.0)
    assert all((each.seen.words, each.stack, each.set_k) == ("neutral", None, each.asked_k) for each in found)


def test_what_is_set_follows_and_what_is_not_takes_gel(gear):
    """Tungsten at 3200 K is 312.5 mired, daylight at 5600 K 178.6: 133.9 apart."""
    tungsten = heads_match(gear, "bi-lens-60.flood", "tung-650.flood")
    assert [each.seen.mired for each in tungsten] == pytest.approx([0.0, 79.9, 133.9], abs=0.2)
    assert [each.set_k for each in tungsten] == [None, None, None]
    assert tungsten[0].stack is None
    assert tungsten[2].stack.shift_mired == pytest.approx(-133.9, abs=10.0)
    back = heads_match(gear, "tung-650.flood", "bi-lens-60.flood")
    assert [each.set_k for each in back] == [3200.0, 3200.0, 3200.0]
    alone = heads_match(gear, "tung-650.flood", "day-led-300.bare")
    assert len(alone) == 1  # neither is set
    assert alone[0].set_k is None


def test_of_gels_that_undo_each_other_none_is_named_and_age_counts(gear):
    old = aged(gear, "tung-650", drift_mired=30.0)
    gels = [Gel(name="a", transmittance=0.9, shift_mired=-60.0), Gel(name="b", transmittance=0.9, shift_mired=30.0)]
    found = heads_match(old, "bi-lens-60.flood", "tung-650.flood", gels)[0]
    assert found.seen.mired == pytest.approx(30.0, abs=0.1)
    # a + b would leave nothing, yet b takes half of a back; alone a leaves -30, as far off as no gel at all.
    assert found.stack is None
    assert found.seen.duv == pytest.approx(0.0, abs=1e-6)
