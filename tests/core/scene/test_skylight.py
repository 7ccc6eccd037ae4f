"""Area sources against closed forms: a disc of sky, a vertical pane seen from in front of its foot."""

import numpy as np
import pytest

from iron_bucket.core.daylight.glass import slant_share
from iron_bucket.core.daylight.sky_luminance import SkyLuminance
from iron_bucket.core.photometry.faces import rectangle_illuminance_lx
from iron_bucket.core.scene.blocking import Blocker
from iron_bucket.core.scene.light_levels import lamp_level_lx
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.polygon_room import PolygonRoom
from iron_bucket.core.scene.scene import Mark, Scene, SceneFrame
from iron_bucket.core.scene.skylight import OpenSky, Window
from tests.made_up import panel_at
from tests.tables import refusals

Y, Z = np.array([0.0, 1.0, 0.0]), np.array([0.0, 0.0, 1.0])
PANE = panel_at((0.0, 0.0, 2.0), Y, Z, 1.6, 1.2)  # looks along +x


def points(*rows) -> Points:
    return Points(
        positions_m=np.array([row[0] for row in rows], dtype=float),
        normals=np.array([row[1] for row in rows], dtype=float),
    )


def a_sky(sky_cd_m2: float, ground_cd_m2: float) -> SkyLuminance:
    """Even, over ground that sends back so much of its pi L."""
    return SkyLuminance(kind="uniform", horizontal_lx=np.pi * sky_cd_m2, ground_reflectance=ground_cd_m2 / sky_cd_m2)


def a_window(**changes) -> Window:
    return Window(**({"lamp_id": "W", "panel": PANE, "passes": 0.8, "sky": a_sky(5000.0, 900.0)} | changes))


def test_a_pane_shows_sky_from_below_and_ground_from_above():
    low, high, level = ((2.0, 0.0, z) for z in (1.0, 3.2, 2.0))
    found = lamp_level_lx(a_window(), points((low, (-1, 0, 0)), (high, (-1, 0, 0)), (level, (-1, 0, 0))), ())
    alike = lamp_level_lx(
        a_window(sky=a_sky(5000.0, 5000.0)), points((low, (-1, 0, 0)), (high, (-1, 0, 0)), (level, (-1, 0, 0))), ()
    )
    assert found[0] == pytest.approx(alike[0])
    assert found[1] == pytest.approx(alike[1] * 900 / 5000)
    assert found[1] < found[2] < found[0] * 1.5
    # Straight in front, an even pane is the rectangle of docs/craft.md, four corners together.
    assert alike[2] == pytest.approx(rectangle_illuminance_lx(0.8 * 5000.0, 1.6, 1.2, 2.0), rel=1e-6)
    assert lamp_level_lx(a_window(), points(((-1.0, 0.0, 1.5), (1, 0, 0))), ())[0] == 0.0  # from outside it is dark


@pytest.mark.parametrize("z_m", [1.95, 2.0, 2.02, 2.03, 2.21])
def test_a_pane_is_cut_where_the_horizon_runs(z_m):
    """Half of a rectangle twice as high of sky over the eyes, half of one of ground beneath them."""
    (found,) = lamp_level_lx(a_window(), points(((2.0, 0.0, z_m), (-1, 0, 0))), ())
    sky, ground = (
        rectangle_illuminance_lx(0.8 * glow, 1.6, 2.0 * height_m, 2.0) / 2.0
        for glow, height_m in ((5000.0, 2.6 - z_m), (900.0, z_m - 1.4))
    )
    assert found == pytest.approx(sky + ground, rel=2e-3)


def test_a_sheer_glows_evenly_with_the_mean():
    place = points(((2.0, 0.3, 1.0), (-1, 0, 0)))
    even = a_window(sky=a_sky(2950.0, 2950.0))
    sheer = a_window(passes=0.0, glow_cd_m2=0.8 * 2950.0)
    assert lamp_level_lx(sheer, place, ()) == pytest.approx(lamp_level_lx(even, place, ()))
    for window in (a_window(), sheer):
        assert window.flux_lm() == pytest.approx(np.pi * 0.8 * 2950.0 * 1.6 * 1.2, rel=1e-3)
    half = Blocker(panel=panel_at((0.02, 0.4, 2.0), Y, Z, 0.8, 1.2), passes=0.0)
    straight = points(((2.0, 0.0, 2.0), (-1, 0, 0)))
    assert lamp_level_lx(even, straight, (half,)) == pytest.approx(lamp_level_lx(even, straight, ()) / 2, rel=0.03)


@pytest.mark.parametrize(
    ("normal", "sky_share"), [((0, 0, 1), 1.0), ((0, 0, -1), 0.0), ((1, 0, 0), 0.5), ((0.6, 0, 0.8), 0.9)]
)
def test_an_open_sky_fills_what_a_face_sees_of_it(normal, sky_share):
    # Of an even hemisphere a face tilted by b sees (1 + cos b)/2.
    sky = OpenSky(lamp_id="S", sky=a_sky(4000.0, 800.0))
    expected = np.pi * (4000.0 * sky_share + 800.0 * (1.0 - sky_share))
    assert lamp_level_lx(sky, points(((0, 0, 1), normal)), ())[0] == pytest.approx(expected, rel=0.03)
    assert sky.flux_lm() == float("inf")


def test_a_roof_hides_the_sky_and_a_room_shuts_it_out():
    sky, place = OpenSky(lamp_id="S", sky=a_sky(4000.0, 0.0)), points(((0, 0, 1), (0, 0, 1)))
    roof = Blocker(panel=panel_at((0.0, 0.0, 2.0), (1.0, 0, 0), Y, 2.0, 2.0), passes=0.0)
    hidden = 1.0 - rectangle_illuminance_lx(1.0, 2.0, 2.0, 1.0) / np.pi
    assert lamp_level_lx(sky, place, (roof,))[0] / lamp_level_lx(sky, place, ())[0] == pytest.approx(hidden, abs=0.05)
    room = PolygonRoom(
        corners_m=np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]], dtype=float),
        height_m=3.0,
        walls=(0.5,) * 4,
        floor=0.2,
        ceiling=0.8,
    )
    both = points(((0, 0, 1), (0, 0, 1)), ((4, 0, 1), (0, 0, 1)))
    assert (lamp_level_lx(OpenSky(lamp_id="S", sky=a_sky(4000.0, 0.0), rooms=(room,)), both, ()) > 0).tolist() == [
        False,
        True,
    ]


def test_a_cloth_under_the_sky_is_lit_from_both_sides():
    frame = SceneFrame(frame_id="F", panel=panel_at((0.0, 0.0, 3.0), (1.0, 0, 0), Y, 4.0, 4.0), transmittance=0.5)
    marks = (
        Mark(mark_id="under", position_m=np.array([0.0, 0.0, 1.5]), normal=Z),
        Mark(mark_id="over", position_m=np.array([0.0, 0.0, 4.5]), normal=-Z),
    )
    sky = OpenSky(lamp_id="S", sky=a_sky(4000.0, 400.0))
    found = unit_response(Scene(lamps=(sky,), frames=(frame,), marks=marks))
    assert found.via_lx[0, 0, 0] == pytest.approx(10 * found.via_lx[0, 0, 1], rel=0.05)
    assert found.share_caught[0, 0] == 0.0
    # A cloth lit by the whole sky passes half of pi L, and the mark sees it over the form factor of a square at its
    # own distance.
    factor = rectangle_illuminance_lx(1.0, 4.0, 4.0, 1.5) / np.pi
    assert found.via_lx[0, 0, 0] == pytest.approx(0.5 * np.pi * 4000.0 * factor, rel=0.03)


test_what_is_refused = refusals(__file__)


def test_glass_loses_slantwise_as_two_panes_do():
    """Far off, a pane is seen under one angle."""
    for off_deg in (0.0, 40.0, 70.0, 85.0):
        turn = np.radians(off_deg)
        away = points((400.0 * np.array([np.cos(turn), np.sin(turn), 0.0]) + PANE.centre_m, (-1, 0, 0)))
        glazed, bare = (lamp_level_lx(a_window(is_glass=each), away, ())[0] for each in (True, False))
        assert glazed / bare == pytest.approx(float(slant_share(np.cos(turn))), rel=0.01)
