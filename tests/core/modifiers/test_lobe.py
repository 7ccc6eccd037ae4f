"""Lobes by their laws: half at the half width, all of the light in the half space, and the quick kernel beside them."""

import numpy as np
import pytest

from iron_bucket.core.modifiers.lobe import MATT_DEG, lobe_exponent, lobe_share, lobes_lx

WIDTHS = [3.0, 12.0, 35.0, 60.0]


@pytest.mark.parametrize("lobe_deg", WIDTHS)
def test_a_lobe_has_half_its_peak_at_its_half_width(lobe_deg):
    exponent = lobe_exponent(lobe_deg)
    half = lobe_share(np.cos(np.radians(lobe_deg)), exponent) / lobe_share(1.0, exponent)
    assert half == pytest.approx(0.5, rel=1e-12)
    assert lobe_share(np.array([-0.2]), exponent) == 0.0  # nothing behind


@pytest.mark.parametrize("lobe_deg", [*WIDTHS, MATT_DEG])
def test_a_lobe_sends_every_lumen_into_the_half_space(lobe_deg):
    angle = np.linspace(0.0, np.pi / 2.0, 20_001)
    candela = lobe_share(np.cos(angle), lobe_exponent(lobe_deg))
    assert np.trapezoid(candela * 2.0 * np.pi * np.sin(angle), angle) == pytest.approx(1.0, rel=1e-4)


@pytest.mark.parametrize("lobe_deg", [12.0, 35.0])
def test_the_quick_kernel_keeps_to_the_law(lobe_deg):
    exponent = float(lobe_exponent(lobe_deg))
    ways = np.array([[[0.6, 0.0, 0.8]], [[0.0, 0.0, -1.0]]])
    start = np.array([[0.2, -0.1, 0.3]])
    offsets = np.array([[0.9, 0.3, 2.0], [0.0, 0.0, 3.0], [5.0, 0.0, 0.1], [1.0, 1.0, 1.0], [1.2, 0.0, 1.6]])
    ends = start + offsets  # the last lies right along the way
    for_a_candela = np.array([[0.3, 0.0, 0.5, 0.2, 0.4]])
    lit = np.array([[0.7], [100.0]])
    # Four points in one place, each a quarter of it.
    four = [np.repeat(each, 4, axis=axis) for each, axis in ((lit, 1), (ways, 1), (start, 0), (for_a_candela / 4.0, 0))]
    found = lobes_lx(four[0], four[1], four[2], ends, four[3], exponent)
    cosine = (offsets @ ways[0, 0]) / np.linalg.norm(offsets, axis=1)
    assert found[0] == pytest.approx(0.7 * for_a_candela[0] * lobe_share(cosine, exponent), rel=2e-4)
    assert not found[1].any()  # that one looks away
