"""Vectors, against the library's."""

import numpy as np
import pytest

from iron_bucket.core.arrays import cross, lengths, units


@pytest.mark.parametrize("seed", range(4))
def test_a_cross_product_is_the_library_s(seed):
    one, other = np.random.default_rng(seed).normal(size=(2, 3))
    assert cross(one, other) == pytest.approx(np.cross(one, other))


def test_no_vector_is_too_short_to_be_divided_by():
    vectors = np.array([[[3.0, 0.0, -4.0], [0.0, 0.0, 0.0]]])
    assert lengths(vectors) == pytest.approx(np.array([[5.0, 1e-12]]))
    assert units(vectors) == pytest.approx(np.array([[[0.6, 0.0, -0.8], [0.0, 0.0, 0.0]]]))
