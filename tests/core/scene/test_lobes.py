"""Cloths and boards that are not matt, held against docs/craft.md by hand."""

import numpy as np
import pytest

from iron_bucket.core.daylight.sky_luminance import SkyLuminance
from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.distribution import CosinePower
from iron_bucket.core.scene.face_pieces import face_pieces
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.scene import LitShape, Mark, Scene, SceneFrame, SceneLamp
from iron_bucket.core.scene.skylight import Window
from tests.core.scene.made import LIGHTER, Z, a_face, a_frame, a_lamp, a_mark, a_panel, at, found
from tests.made_up import panel_at


def lit_by_way(frame: dict, lamp_m, mark_m, normal) -> float:
    """A steady 9000 cd lamp aimed at the frame in the origin, and one mark."""
    aim = -np.array(lamp_m, dtype=float) / np.linalg.norm(lamp_m)
    lamp = SceneLamp(
        lamp_id="l",
        position_m=np.array(lamp_m, dtype=float),
        aim=aim,
        intensity=CosinePower(peak_cd=9000.0, exponent=0.2),
    )
    panel = panel_at((0, 0, 0), (1.0, 0.0, 0.0), (0.0, 0.0, 1.0), frame.pop("size_m"), frame.pop("high_m"))
    scene = Scene(
        lamps=(lamp,),
        frames=(SceneFrame(frame_id="f", panel=panel, **frame),),
        marks=(Mark(mark_id="m", position_m=np.array(mark_m, dtype=float), normal=np.array(normal, dtype=float)),),
    )
    return float(unit_response(scene, with_walls=False, fineness=LIGHTER).via_lx[0, 0, 0])


def test_a_mirror_shows_the_lamp_as_far_behind_it():
    # docs/craft.md, section 3: the image of the head at d1 + d2, times rho. The panel looks along -y; lamp 2 m off,
    # mark 3 m off, both 30 degrees aside.
    sine, cosine = 0.5, np.sqrt(0.75)
    lamp, mark = (-2 * sine, -2 * cosine, 0), (3 * sine, -3 * cosine, 0)
    towards = (-sine, cosine, 0)
    big = lit_by_way({"size_m": 2.0, "high_m": 2.0, "reflectance": 0.88, "lobe_deg": 4.0}, lamp, mark, towards)
    assert big == pytest.approx(0.88 * 9000 / 25, rel=0.03)
    aside = lit_by_way(
        {"size_m": 2.0, "high_m": 2.0, "reflectance": 0.88, "lobe_deg": 4.0}, lamp, (0, -3, 0), (0, 1, 0)
    )
    assert aside == pytest.approx(big, rel=0.12)  # the lamp's image is seen from there too, nearer
    small = lit_by_way(
        {"size_m": 0.3, "high_m": 0.3, "reflectance": 0.88, "lobe_deg": 4.0}, lamp, (0, -3, 0), (0, 1, 0)
    )
    assert small < 0.01 * big  # its image lies beyond the edge of the glass


@pytest.mark.parametrize("kind", [{"reflectance": 0.75}, {"transmittance": 0.75}], ids=["board", "cloth"])
@pytest.mark.parametrize(("lobe", "exponent"), [(20.0, 11.14), (45.0, 2.0), (60.0, 1.0)])
def test_a_lobe_is_gathered_about_its_way(kind, lobe, exponent):
    # A hand-sized panel, 2 m from a lamp straight before it: flux is 0.75 * 9000 / 4 * 0.01 lm; (n + 1) / 2 pi of it
    # for each steradian in the middle.
    side = -1.0 if "reflectance" in kind else 1.0
    flux = 0.75 * 9000 / 4 * 0.01
    middle, aside = (
        lit_by_way(
            kind | {"size_m": 0.1, "high_m": 0.1, "lobe_deg": lobe},
            (0, -2, 0),
            (5 * np.sin(turn), side * 5 * np.cos(turn), 0),
            (-np.sin(turn), -side * np.cos(turn), 0),
        )
        for turn in np.radians([0.0, lobe])
    )
    assert middle == pytest.approx(flux * (exponent + 1) / (2 * np.pi) / 25, rel=0.01)
    assert aside == pytest.approx(middle / 2, rel=0.02)


def test_a_lobe_goes_on_the_way_that_light_came():
    # Through frost a slanting lamp goes on slanting; off silver it goes off to the other side. A matt one sends most
    # straight out.
    came = (-2 * np.sin(np.radians(50)), -2 * np.cos(np.radians(50)), 0)
    on, back = ((4 * np.sin(turn), 4 * np.cos(turn), 0) for turn in np.radians([50.0, -50.0]))

    def through(mark, **kind):
        return lit_by_way(kind | {"size_m": 0.4, "high_m": 0.4}, came, mark, -np.array(mark) / 4.0)

    frost = {"transmittance": 0.8, "lobe_deg": 20.0}
    assert through(on, **frost) > 50 * through(back, **frost)
    silver = {"reflectance": 0.8, "lobe_deg": 20.0}
    off, again = ((x, -y, z) for x, y, z in (on, back))
    assert through(off, **silver) > 50 * through(again, **silver)
    assert through(on, **silver) == 0.0  # nothing behind a board
    matt = {"transmittance": 0.8}
    assert through(on, **matt) == pytest.approx(through(back, **matt), rel=0.2)


def test_windows_come_from_everywhere_and_a_lobe_is_one_of_a_half_circle():
    with pytest.raises(BadValue, match="lobe_deg is 2"):
        lit_by_way(
            {"size_m": 1.0, "high_m": 1.0, "reflectance": 0.8, "lobe_deg": 2.0}, (0, -2, 0), (0, -3, 0), (0, 1, 0)
        )
    pane = Window(
        lamp_id="w",
        panel=panel_at((0.0, -3.0, 0.0), (-1.0, 0.0, 0.0), (0.0, 0.0, 1.0), 1.0, 1.0),
        passes=1.0,
        sky=SkyLuminance(kind="uniform", horizontal_lx=1000.0 * np.pi, ground_reflectance=1.0),
    )
    panel = panel_at((0, 0, 0), (1.0, 0.0, 0.0), (0.0, 0.0, 1.0), 1.0, 1.0)
    mark = Mark(mark_id="m", position_m=np.array([1.0, -2.0, 0.0]), normal=np.array([0.0, 1.0, 0.0]))
    frames = [SceneFrame(frame_id="f", panel=panel, reflectance=0.8, lobe_deg=lobe) for lobe in (20.0, 90.0)]
    scenes = [Scene(lamps=(pane,), frames=(frame,), marks=(mark,)) for frame in frames]
    by_lobe = [float(unit_response(scene, with_walls=False, fineness=LIGHTER).via_lx[0, 0, 0]) for scene in scenes]
    assert by_lobe[0] == by_lobe[1] > 0.0


@pytest.mark.parametrize("kind", [{"transmittance": 0.8, "lobe_deg": 12.0}, {"reflectance": 0.8, "lobe_deg": 20.0}])
@pytest.mark.parametrize("shape", LitShape)
def test_a_large_face_before_frost_is_many_small_ones(shape, kind):
    # Each sends by the cosine, and lights the cloth from its own place; seen from behind the cloth, or off the board.
    side = -1.0 if "transmittance" in kind else 1.0
    along = at(np.cos(0.4), 0.0, np.sin(0.4))  # turned to the face, and off the origin
    frame = a_frame(**({"transmittance": None, "panel": a_panel((0, 0, 5), along)} | kind))
    face = a_lamp(position_m=at(0, 0, 4.3), intensity=None, face=a_face(shape, 1.2, 1.2))
    corners, places, _ = face_pieces(face, 24)
    area = np.linalg.norm(np.cross(corners[:, 2] - corners[:, 0], corners[:, 3] - corners[:, 1]), axis=1) / 2.0
    lamps = tuple(
        a_lamp(lamp_id=str(number), position_m=where, intensity=CosinePower(peak_cd=1000.0 * m2, exponent=1.0))
        for number, (where, m2) in enumerate(zip(places, area, strict=True))
    )
    marks = tuple(
        a_mark((across, 0, 5.0 - side * 2.0), side * Z, str(number)) for number, across in enumerate((0.0, 0.6, 1.5))
    )
    whole, small = (found(lamps=each, frames=(frame,), marks=marks).via_lx[:, 0] for each in ((face,), lamps))
    np.testing.assert_allclose(whole[0], small.sum(axis=0), rtol=0.02)
