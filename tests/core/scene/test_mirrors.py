"""Images in mirrors, against the lamp that stands behind the glass."""

import numpy as np
import pytest

from iron_bucket.core.photometry.faces import rectangle_illuminance_lx
from iron_bucket.core.scene.blocking import Blocker, Blockers
from iron_bucket.core.scene.mirrors import mirrored_lx
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.scene import LitShape, Solid
from iron_bucket.core.scene.skylight import OpenSky, Window
from iron_bucket.core.scene.sunlight import sun_lamp
from tests.core.scene.made import X, Y, Z, a_face, a_frame, a_lamp, a_mark, at, found
from tests.core.scene.test_skylight import a_sky
from tests.made_up import panel_at


def a_mirror(width_m: float = 2.0, centre=(0, 0, 0)):
    """Lies on the floor and looks up."""
    panel = panel_at(at(*centre), X, Y, width_m, width_m)
    return a_frame(frame_id="M", panel=panel, transmittance=None, reflectance=0.8, is_mirror=True)


#: Two metres over the floor, aimed at the glass; its image stands two metres under it.
LAMP = a_lamp(position_m=at(-1, 0, 2), aim=at(0.6, 0, -0.8))
#: Three metres over the floor, looking at the image.
MARK = a_mark((1.5, 0, 3), at(-2.5, 0, -5) / np.hypot(2.5, 5))


def test_a_lamp_shines_as_from_behind_the_glass():
    level = found(lamps=(LAMP,), frames=(a_mirror(),), marks=(MARK,))
    throw2 = 2.5**2 + 5.0**2
    cosine = (0.6 * 2.5 + 0.8 * 5.0) / np.sqrt(throw2)
    assert level.via_lx[0, 0, 0] == pytest.approx(0.8 * 9000 * cosine**20 / throw2)
    # The ray meets the glass at -1 + 2.5 * 2 / 5 = 0; a flag over that place hides it, on either leg; small glass
    # elsewhere shows nothing.
    for height, off in ((1.0, -0.5), (1.5, 0.75)):
        flag = Solid(solid_id="S", panel=panel_at(at(off, 0, height), X, Y, 0.3, 0.3))
        assert found(lamps=(LAMP,), frames=(a_mirror(),), solids=(flag,), marks=(MARK,)).via_lx[0, 0, 0] == 0.0
    assert found(lamps=(LAMP,), frames=(a_mirror(0.5, (0.3, 0, 0)),), marks=(MARK,)).via_lx[0, 0, 0] == 0.0
    assert found(lamps=(LAMP,), frames=(a_mirror(0.5, (0.2, 0, 0)),), marks=(MARK,)).via_lx[0, 0, 0] > 0.0


def test_a_face_is_seen_as_far_as_the_glass_shows_it():
    face = a_lamp(position_m=at(0, 0, 2), aim=-Z, intensity=None, face=a_face(LitShape.RECTANGLE, 1.0, 0.6))
    over = a_mark((0, 0, 1.9), -Z)  # between the two, its back to the face
    whole = found(lamps=(face,), frames=(a_mirror(),), marks=(over,)).via_lx[0, 0, 0]
    assert whole == pytest.approx(0.8 * rectangle_illuminance_lx(1000.0, 1.0, 0.6, 3.9), rel=1e-4)
    # Half of the image lies beyond the edge of glass that ends under the mark.
    half = found(lamps=(face,), frames=(a_mirror(centre=(1.0, 0, 0)),), marks=(over,)).via_lx[0, 0, 0]
    assert half == pytest.approx(whole / 2, rel=1e-4)
    hidden = Solid(solid_id="S", panel=panel_at(at(0.5, 0, 1.0), X, Y, 1.0, 1.0))
    past = found(lamps=(face,), frames=(a_mirror(),), solids=(hidden,), marks=(over,)).via_lx[0, 0, 0]
    assert past == pytest.approx(whole / 2, rel=0.02)


def test_a_window_is_shown_and_the_open_sky_left_out():
    pane = Window(lamp_id="w", panel=panel_at((0, 0, 2.0), Y, X, 1.0, 0.6), passes=1.0, sky=a_sky(1000.0, 1000.0))
    place = Points(positions_m=np.array([[0.0, 0.0, 1.9]]), normals=np.array([[0.0, 0.0, -1.0]]))
    lights = (pane, OpenSky(lamp_id="s", sky=pane.sky))
    assert pane.seen_from_cd_m2(place.positions_m[0]) == pytest.approx(1000.0)
    level = mirrored_lx(lights, a_mirror(), place, Blockers.of(()))
    assert level[:, 0] == pytest.approx([0.8 * rectangle_illuminance_lx(1000.0, 1.0, 0.6, 3.9), 0.0], rel=1e-3)
    net = Blockers.of((Blocker(panel=panel_at((0, 0, 1.0), X, Y, 9.0, 9.0), passes=0.5),))  # gone through twice
    assert mirrored_lx(lights, a_mirror(), place, net) == pytest.approx(0.25 * level)


def test_what_a_mirror_throws_on_a_cloth_is_sent_on():
    """A lamp whose light reaches the cloth by the glass alone."""
    down = a_lamp(position_m=at(-0.5, 0, 1), aim=at(0.45, 0, -0.9) / np.hypot(0.45, 0.9))
    cloth = a_frame(panel=panel_at(at(0.5, 0, 1.2), X, Y, 0.8, 0.8))
    level = found(lamps=(down,), frames=(a_mirror(), cloth), marks=(a_mark((0.5, 0, 2), -Z),))
    assert level.via_lx[0, 1, 0] > 50.0
    without = found(lamps=(down,), frames=(cloth,), marks=(a_mark((0.5, 0, 2), -Z),))
    assert (without.via_lx.sum(), without.share_caught.sum()) == pytest.approx((0.0, 0.0), abs=1e-6)
    assert 0.1 < level.share_caught[0, 1] < 0.8 * level.share_caught[0, 0]


@pytest.mark.parametrize(("edge_m", "share"), [(-0.2, 0.0), (0.0, 0.5), (0.2, 1.0), (0.04625, 0.8045)])
def test_the_sun_is_a_disc_in_a_mirror_and_past_an_edge(edge_m, share):
    """Twenty metres off, its disc is 18.5 cm wide: half of it at the edge, and the part of a circle beside it."""
    sun = sun_lamp(at(0.0, -0.6, 0.8), 90_000.0)
    glass = a_mirror(4.0, (2.0 - edge_m, 0.0, 0.0))
    mark = a_mark((0.0, 12.0, 16.0), at(0.0, -0.6, -0.8))
    thrown = found(lamps=(sun,), frames=(glass,), marks=(mark,))
    assert thrown.via_lx[0, 0, 0] == pytest.approx(0.8 * 90_000.0 * share, abs=600.0)
    flag = Solid(solid_id="S", panel=panel_at(at(2.0 - edge_m, -12.0, 16.0), X, at(0.0, 0.8, 0.6), 4.0, 4.0))
    shaded = found(lamps=(sun,), solids=(flag,), marks=(a_mark((0, 0, 0), at(0.0, -0.6, 0.8)),))
    assert shaded.direct_lx[0, 0] == pytest.approx(90_000.0 * (1.0 - share), abs=750.0)
