"""Mixtures of emitters against every mixture on a net, and what lies beyond them."""

import numpy as np
import pytest

from iron_bucket.core.colour.emitters import (
    Emitter,
    Mixture,
    in_whites,
    mixture_for,
    nearest,
    reachable,
    typical_emitters,
)
from iron_bucket.core.colour.light_colour import LightColour, mixed
from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.figure import Origin

RED, GREEN, BLUE = (
    Emitter(name=name, colour=LightColour.of_xy(x, y, Origin.MEASURED), share=share)
    for name, x, y, share in (("red", 0.69, 0.30, 0.3), ("green", 0.2, 0.7, 0.6), ("blue", 0.14, 0.06, 0.1))
)
THREE = (RED, GREEN, BLUE)


@pytest.mark.parametrize("seed", range(8))
def test_the_brightest_mixture_has_the_colour_and_no_other_is_brighter(seed):
    chance = np.random.default_rng(seed)
    emitters = typical_emitters()
    lumens = np.array([each.share for each in emitters])
    drives = chance.uniform(0.0, 1.0, len(emitters))
    wanted = mixed([each.colour for each in emitters], drives * lumens)
    found = mixture_for(emitters, wanted)
    made = mixed([each.colour for each in emitters], np.array(found.drives) * lumens)
    assert made.uv == pytest.approx(wanted.uv, abs=1e-6)
    assert found.share == pytest.approx(float(np.array(found.drives) @ lumens) / lumens.sum())
    assert max(found.drives) == pytest.approx(1.0)  # else all could be driven harder
    assert found.share >= (drives / drives.max()) @ lumens / lumens.sum() - 1e-9


def test_three_emitters_leave_no_choice():
    white = LightColour.of_cct(5600.0)
    found = mixture_for(THREE, white)
    xyz = np.array([each.colour.xyz * each.share for each in THREE])
    only = np.linalg.solve(xyz.T, white.xyz)
    assert np.array(found.drives) == pytest.approx(only / only.max())
    assert found.share == pytest.approx((only / only.max()) @ np.array([0.3, 0.6, 0.1]))
    assert mixture_for(THREE, RED.colour).drives == pytest.approx((1.0, 0.0, 0.0), abs=1e-6)
    assert mixture_for(THREE, RED.colour).share == pytest.approx(0.3)
    shares = in_whites(THREE, np.array([5600.0, 3200.0]))
    assert shares[0] == pytest.approx(found.share)


def test_what_lies_beyond_is_refused_with_the_nearest():
    deep = LightColour.of_xy(0.08, 0.85, Origin.MEASURED)
    with pytest.raises(NoAnswer, match=r"x 0.080, y 0.850 lies beyond .* nearest is x 0\.(1|2)"):
        mixture_for(THREE, deep)
    near = nearest(THREE, deep)
    assert mixture_for(THREE, near).share > 0.0
    ring = [np.hypot(*(deep.uv - each.colour.uv)) for each in THREE]
    assert np.hypot(*(deep.uv - near.uv)) <= min(ring) + 1e-3
    white = LightColour.of_cct(4300.0)
    assert nearest(THREE, white) is white
    assert reachable(THREE).area > 0.0
    with pytest.raises(BadValue, match="one at least"):
        mixture_for((), white)
    far = mixture_for
    with pytest.raises(NoAnswer, match="mired off"):
        far(THREE[:2], white)


def test_dimmed_so_far_until_the_faintest_emitter_goes_out():
    assert Mixture(drives=(1.0, 0.1, 0.0), share=0.5).lowest_level(0.01) == pytest.approx(0.1)
    assert Mixture(drives=(1.0, 0.001), share=0.5).lowest_level(0.01) == 1.0
    assert Mixture(drives=(0.0,), share=0.0).lowest_level(0.01) == pytest.approx(0.01)


def test_what_a_mixture_gives_is_told_over_all_at_full():
    white = LightColour.of_cct(4000.0)
    two = [Emitter(name=name, colour=white, share=0.3) for name in "ab"]
    assert mixture_for(two, white).share == pytest.approx(1.0)
