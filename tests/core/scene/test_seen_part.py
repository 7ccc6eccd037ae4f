"""Parts of faces behind several things, against the same face in very many pieces."""

import numpy as np
import pytest

from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.scene.blocking import Blocker, Blockers, passing
from iron_bucket.core.scene.face_pieces import face_outline, face_pieces
from iron_bucket.core.scene.scene import LitShape
from iron_bucket.core.scene.seen_part import seen_form_factor, through_window_form_factor
from tests.core.scene.made import X, Y, a_face, a_lamp, at
from tests.made_up import panel_at
from tests.tables import table

WALL = table(__file__, "WALL")
NET = Blocker(panel=panel_at(at(-0.2, 0.1, 0.9), at(0.8, 0.0, 0.6), Y, 0.5, 0.35), passes=0.5)
CLOTH = Blocker(panel=panel_at(at(0.0, -0.3, 1.5), X, Y, 1.0, 0.5), passes=0.25)


@pytest.mark.parametrize("shape", LitShape)
@pytest.mark.parametrize("blockers", [(NET,), (WALL,), (NET, WALL, CLOTH), (CLOTH, NET)])
def test_a_face_seen_past_several_things(shape, blockers):
    lamp = a_lamp(position_m=at(0, 0, 0), intensity=None, face=a_face(shape, 1.0, 1.0 if shape == "disc" else 0.6))
    corners, centres, _ = face_pieces(lamp, 120)
    laid = Blockers.of(blockers)
    for place in ((0.1, 0.0, 2.5), (-0.4, 0.3, 2.0), (0.8, -0.2, 3.0)):
        position, normal = at(*place), -at(*place) / np.linalg.norm(place)
        seen = form_factors(corners, position[None], normal[None])[0] @ passing(centres, position[None], laid)[:, 0]
        assert seen_form_factor(face_outline(lamp), position, normal, laid) == pytest.approx(seen, rel=0.01, abs=1e-4)


def test_too_many_parts_are_said_and_a_window_shows_nothing_beside_it():
    outline = face_outline(a_lamp(position_m=at(0, 0, 0), intensity=None, face=a_face()))
    many = Blockers.of([Blocker(panel=panel_at(at(0, 0, 1 + 0.01 * z), X, Y, 0.5, 0.3), passes=0.5) for z in range(9)])
    assert seen_form_factor(outline, at(0, 0, 2), at(0, 0, -1), many) is None
    beside = panel_at(at(3, 0, 1), X, Y, 0.5, 0.5)
    assert through_window_form_factor(outline, at(0, 0, 2), at(0, 0, -1), beside) == 0.0
    behind = panel_at(at(0, 0, 3), X, Y, 0.5, 0.5)
    assert through_window_form_factor(outline, at(0, 0, 2), at(0, 0, -1), behind) == 0.0
