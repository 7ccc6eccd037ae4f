"""The quick cross product against the library's."""

import numpy as np
import pytest

from iron_bucket.core.arrays import cross


@pytest.mark.parametrize("seed", range(4))
def test_a_cross_product_is_the_library_s(seed):
    one, other = np.random.default_rng(seed).normal(size=(2, 3))
    assert cross(one, other) == pytest.approx(np.cross(one, other))
