"""Lobes by their laws: half at the half width, all of the light in the half space, and the quick kernel beside them."""

import numpy as np
import pytest

from iron_bucket.core.daylight.sky_luminance import dome_directions
from iron_bucket.core.modifiers.lobe import is_matt, lobe_exponent, lobe_middle, lobe_peak, lobes_lx

WIDTHS = [3.0, 12.0, 35.0, 59.9]
UP = np.array([0.0, 0.0, 1.0])


@pytest.mark.parametrize("lobe_deg", WIDTHS)
def test_a_lobe_has_half_its_peak_at_its_half_width(lobe_deg):
    assert np.cos(np.radians(lobe_deg)) ** lobe_exponent(lobe_deg) == pytest.approx(0.5, rel=1e-12)
    assert not is_matt(lobe_deg)


@pytest.mark.parametrize("off_deg", [0.0, 30.0, 60.0, 85.0])
@pytest.mark.parametrize("lobe_deg", [12.0, 35.0, 60.0, 90.0])
def test_a_lobe_sends_every_lumen_into_the_half_space_however_it_came(lobe_deg, off_deg):
    turn = np.radians(off_deg)
    middle = lobe_middle(np.array([np.sin(turn), 0.0, np.cos(turn)]), UP, np.array(lobe_deg))
    exponent = float(lobe_exponent(lobe_deg))
    ways = dome_directions(12)
    ways = ways[ways[:, 2] > 0.0]
    candela = lobe_peak(middle @ UP, exponent) * np.maximum(ways @ middle, 0.0) ** exponent
    assert candela.mean() * 2.0 * np.pi == pytest.approx(1.0, rel=0.005)


def test_the_wider_a_lobe_the_nearer_it_keeps_to_the_normal_until_it_is_lamberts():
    """At sixty degrees cos / pi about the normal, and no step on the way there."""
    came = np.array([0.8, 0.0, 0.6])
    tilts = [float(lobe_middle(came, UP, np.array(deg)) @ UP) for deg in (3.0, 20.0, 40.0, 59.99, 60.0, 90.0)]
    assert tilts == sorted(tilts)
    assert tilts[0] == pytest.approx(0.6, abs=0.005)
    assert tilts[-3:] == pytest.approx([1.0, 1.0, 1.0], abs=1e-4)
    # By hand: a third of the width of sixty is a ninth of the normal's part: (0.711, 0.644), of length 0.959.
    assert lobe_middle(came, UP, np.array(20.0)) == pytest.approx(np.array([0.7111, 0.0, 0.6444]) / 0.95969, abs=1e-4)
    assert is_matt([59.99, 60.0, 90.0]).tolist() == [False, True, True]
    assert lobe_exponent(90.0) == lobe_exponent(60.0) == pytest.approx(1.0)
    assert lobe_peak(1.0, 1.0) == pytest.approx(1.0 / np.pi, rel=1e-6)


@pytest.mark.parametrize("lobe_deg", [12.0, 35.0])
def test_the_quick_kernel_keeps_to_the_law(lobe_deg):
    exponent = float(lobe_exponent(lobe_deg))
    ways = np.array([[[0.6, 0.0, 0.8]], [[0.0, 0.0, -1.0]]])
    start = np.array([[0.2, -0.1, 0.3]])
    offsets = np.array([[0.9, 0.3, 2.0], [0.0, 0.0, 3.0], [5.0, 0.0, 0.1], [1.0, 1.0, 1.0], [1.2, 0.0, 1.6]])
    ends = start + offsets  # the last lies right along the way
    for_a_candela = np.array([[0.3, 0.0, 0.5, 0.2, 0.4]])
    peaks = np.array([[0.7], [100.0]])
    # Four points in one place, each a quarter of it.
    every = ((peaks, 1), (ways, 1), (start, 0), (for_a_candela / 4.0, 0))
    four = [np.repeat(each, 4, axis=axis) for each, axis in every]
    found = lobes_lx(four[0], four[1], four[2], ends, four[3], exponent)
    cosine = np.maximum((offsets @ ways[0, 0]) / np.linalg.norm(offsets, axis=1), 0.0)
    assert found[0] == pytest.approx(0.7 * for_a_candela[0] * cosine**exponent, rel=2e-4)
    assert not found[1].any()  # that one looks away
