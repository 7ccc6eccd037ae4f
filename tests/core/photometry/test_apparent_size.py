import numpy as np
import pytest

from iron_bucket.core.photometry.apparent_size import apparent_size_deg


def test_as_large_as_it_is_far_twice_the_angle_whose_tangent_is_a_half():
    assert apparent_size_deg(2.0, np.array([1.0, 2.0])) == pytest.approx([90.0, 53.13], abs=0.01)
