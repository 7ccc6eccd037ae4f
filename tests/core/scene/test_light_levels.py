"""Lights straight at marks, against closed forms."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.modifiers.cells import grid_cut
from iron_bucket.core.photometry.faces import disc_illuminance_lx, rectangle_illuminance_lx
from iron_bucket.core.scene.light_levels import lamp_flux_lm
from iron_bucket.core.scene.scene import LitShape, Solid
from tests.core.scene.made import X, Y, Z, a_face, a_lamp, a_mark, a_panel, at, found


def test_inverse_square_and_cosine():
    straight = found(
        marks=(
            a_mark((0, 0, 2)),
            a_mark((0, 0, 4), name="far"),
            a_mark((0, 0, 2), -at(0, np.sqrt(0.75), 0.5), "turned"),
            a_mark((0, 0, 2), Z, "away"),
            a_mark((0, 0, -3), Z, "behind"),
        )
    )
    assert straight.direct_lx[0] == pytest.approx([9000 / 16, 9000 / 36, 9000 / 32, 0.0, 0.0])
    assert straight.indirect_lx.sum() == 0.0


@pytest.mark.parametrize(
    ("shape", "law"),
    [
        (LitShape.DISC, lambda d: disc_illuminance_lx(1000.0, 0.5, d)),
        (LitShape.RECTANGLE, lambda d: rectangle_illuminance_lx(1000.0, 1.0, 0.6, d)),
    ],
)
def test_a_face_by_its_exact_law_in_any_direction(shape, law):
    face = a_face(shape, 1.0, 1.0 if shape is LitShape.DISC else 0.6, along=Y)
    lamp = a_lamp(position_m=at(1, 2, 3), aim=X, intensity=None, face=face)
    levels = found(
        lamps=(lamp,), marks=(a_mark((1.5, 2, 3), -X), a_mark((4, 2, 3), -X, "far"), a_mark((0.5, 2, 3), X, "behind"))
    ).direct_lx[0]
    assert levels == pytest.approx([float(law(0.5)), float(law(3.0)), 0.0], rel=1e-4)
    assert lamp_flux_lm(lamp) == pytest.approx(np.pi * 1000.0 * face.area_m2)


@pytest.mark.parametrize("off_deg", [0.0, 8.0, 14.0, 20.0])
def test_cells_on_a_face_shade_it_by_their_law(off_deg):
    """From so far that the face is a point: what cells of 36 degrees let through there, and no more."""
    turn, face = np.radians(off_deg), a_face(LitShape.RECTANGLE, 0.01, 0.01)
    mark = a_mark((8.0 * np.sin(turn), 0.0, 8.0 * np.cos(turn)), (-np.sin(turn), 0.0, -np.cos(turn)))
    plain, cut = (
        found(lamps=(a_lamp(position_m=at(0, 0, 0), intensity=None, face=each),), marks=(mark,)).direct_lx[0, 0]
        for each in (face, replace(face, cutoff_deg=36.0))
    )
    assert cut / plain == pytest.approx(float(grid_cut(36.0, off_deg)), abs=2e-3)


def test_half_a_face_behind_a_flag_gives_half():
    lamp = a_lamp(position_m=at(0, 0, 0), intensity=None, face=a_face(LitShape.RECTANGLE, 1.0, 1.0))
    half = Solid(solid_id="S", panel=a_panel((1.0, 0, 0.001), width_m=2.0, height_m=4.0))
    whole = found(lamps=(lamp,), marks=(a_mark((0, 0, 3)),)).direct_lx[0, 0]
    assert found(lamps=(lamp,), solids=(half,), marks=(a_mark((0, 0, 3)),)).direct_lx[0, 0] == pytest.approx(
        whole / 2, rel=1e-3
    )
