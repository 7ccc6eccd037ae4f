"""Lambert's contour integral against a plain sum over many small pieces, at any tilt and cut by the horizon."""

import numpy as np
import pytest

from iron_bucket.core.photometry.contour import form_factors

PIECES = 400


def a_parallelogram(seed: int):
    """Corners (4, 3) of a random flat piece some metres off, and a receiver at the origin that looks anywhere."""
    chance = np.random.default_rng(seed)
    corner, one, other, normal = chance.normal(size=(4, 3))
    corner = corner / np.linalg.norm(corner) * 2.5
    return np.array([corner, corner + one, corner + one + other, corner + other]), normal / np.linalg.norm(normal)


def summed(corners, normal, *, is_dome: bool = False) -> float:
    """E = sum L cos(theta) cos(epsilon) dA / r2 with L = M / pi, over squares of the piece; a dome counts half of
    1 + cos(epsilon).
    """
    steps = (np.arange(PIECES) + 0.5) / PIECES
    one, other = corners[1] - corners[0], corners[3] - corners[0]
    places = (corners[0] + steps[:, None, None] * one + steps[None, :, None] * other).reshape(-1, 3)
    area = np.cross(one, other)
    leaving = np.maximum(-(places @ area), 0.0) / PIECES**2  # cos(theta) dA times the distance
    far = np.linalg.norm(places, axis=1)
    counted = (far + places @ normal) / 2.0 if is_dome else np.maximum(places @ normal, 0.0)
    return float(np.sum(leaving * counted / far**4) / np.pi)


def test_many_pieces_at_once_are_each_one_alone():
    pieces = [a_parallelogram(seed) for seed in range(9)]
    corners, normals = (np.array(each) for each in zip(*pieces, strict=True))
    together = form_factors(corners, np.zeros((9, 3)), normals)
    alone = [form_factors(each[None], np.zeros((9, 3)), normals)[:, 0] for each in corners]
    assert (together.shape, together) == ((9, 9), pytest.approx(np.array(alone).T))


@pytest.mark.parametrize("seed", range(24))
def test_any_piece_gives_what_its_parts_give(seed):
    corners, normal = a_parallelogram(seed)
    for way in (corners, corners[::-1]):  # from its front, and from behind, where it is dark
        found = form_factors(np.array([way, way + 50.0 * normal]), np.zeros((2, 3)), np.array([normal, -normal]))
        same = way if way is corners else np.roll(way, 1, axis=0)
        assert found[0, 0] == pytest.approx(summed(same, normal), rel=2e-3, abs=2e-6)
        assert found[1, 0] == pytest.approx(summed(same, -normal), rel=2e-3, abs=2e-6)
        assert found[1, 1] == 0.0  # far above the horizon of one that looks down
        by_dome = form_factors(way[None], np.zeros((1, 3)), normal[None], np.array([True]))
        assert by_dome[0, 0] == pytest.approx(summed(same, normal, is_dome=True), rel=2e-3, abs=2e-6)
