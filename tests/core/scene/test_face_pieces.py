"""The pieces of a face."""

import numpy as np
import pytest

from iron_bucket.core.scene.face_pieces import face_pieces
from iron_bucket.core.scene.scene import LitShape
from tests.core.scene.made import a_face, a_lamp


def test_pieces_make_up_the_face():
    for shape, height_m in ((LitShape.DISC, 1.0), (LitShape.RECTANGLE, 0.6)):
        corners, centres, luminance = face_pieces(a_lamp(intensity=None, face=a_face(shape, 1.0, height_m)))
        area = np.linalg.norm(np.cross(corners[:, 2] - corners[:, 0], corners[:, 3] - corners[:, 1]), axis=1) / 2
        assert area.sum() == pytest.approx(a_face(shape, 1.0, height_m).area_m2)
        assert (luminance, centres.mean(axis=0)) == (1000.0, pytest.approx([0, 0, -2]))
        assert len(face_pieces(a_lamp(intensity=None, face=a_face(shape, 1.0, height_m)), 6)[1]) == (
            24 * 3 if shape is LitShape.DISC else 36
        )
    with pytest.raises(ValueError, match="no pieces"):
        face_pieces(a_lamp())
