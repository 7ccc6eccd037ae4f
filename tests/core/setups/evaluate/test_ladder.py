"""Every mark against the camera's range."""

import math

import pytest

from iron_bucket.core.setups.evaluate.ladder import RungKind, ladder_of
from iron_bucket.core.setups.plan.camera_view import camera_position, field_of_view_deg
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.plan.setup import Camera, WindowFilm
from tests.core.setups.made import NOON, RULES, a_lamp, a_target, lit_setup


def level_of(found, mark: str) -> float:
    return float(found.total_lx[found.place_of(mark)])


def test_the_ladder_hangs_faces_by_incident_light_and_surfaces_by_what_they_reflect(gear):
    lamps = (a_lamp(), a_lamp(piece_id="wash", name="Wash", x_m=3.0, y_m=3.4, z_m=2.0, aims_at="wall", level=0.05))
    found = lit_setup(
        gear,
        lamps=lamps,
        targets=(
            a_target(stops=1.0),
            a_target(piece_id="u", mark="wall", stops=-9.0, tolerance=0.5),
            a_target(piece_id="v", mark="gone"),
        ),
    )
    ladder = ladder_of(found, RULES.receptor)
    key, wall = ladder.rung("anna.key"), ladder.rung("wall")
    assert key.stops == pytest.approx(math.log2(level_of(found, "anna.key") / 159.94), abs=0.001)
    assert wall.stops == pytest.approx(
        math.log2(2.0 * level_of(found, "wall") / 159.94), abs=0.001
    )  # 0.36 is twice middle grey
    assert [each.mark_id for each in ladder.rungs] == ["anna.key", "anna.shadow", "anna.back", "anna.top", "wall"]
    assert (key.kind, wall.kind) == (RungKind.FACE, RungKind.SURFACE)
    assert key.miss_stops == pytest.approx(key.stops - 1.0)
    assert wall.is_missed
    assert [each.mark for each in ladder.lost] == ["gone"]
    assert ladder.missed == tuple(each for each in ladder.rungs if each.is_missed)
    assert (len(ladder.missed), ladder.worst) == (2, wall)  # too bright by more than the key is
    assert ladder.rung("anna.shadow").target is None
    assert not ladder.rung("anna.shadow").is_missed
    dark = ladder_of(lit_setup(gear, lamps=()), RULES.receptor)
    assert ({each.stops for each in dark.rungs}, dark.worst) == ({-16.0}, None)
    edge = a_target(stops=key.stops - 1 / 3 + 1e-9)
    assert not ladder_of(lit_setup(gear, lamps=lamps, targets=(edge,)), RULES.receptor).rung("anna.key").is_missed


def test_a_window_hangs_on_the_ladder_while_the_camera_sees_it(gear):
    found = lit_setup(gear, when=NOON)
    rung = ladder_of(found, RULES.receptor).rung("window")
    window = next(each.light for each in found.built.lights if each.light_id == "window")
    seen = window.seen_from_cd_m2(camera_position(found.built.setup.camera))
    assert rung.stops == pytest.approx(math.log2(math.pi * seen / (0.18 * 159.94)), abs=0.001)
    assert rung.kind is RungKind.WINDOW
    filmed = lit_setup(gear, when=NOON, films=(WindowFilm(piece_id="f", opening_id="window", stops=2.0),))
    assert ladder_of(filmed, RULES.receptor).rung("window").stops == pytest.approx(rung.stops - 2.0)
    assert level_of(filmed, "anna.back") == pytest.approx(level_of(found, "anna.back") / 4, rel=0.05)
    # The pane is 1.6 by 1.4 m, 4.7 m from the lens and a little higher: it hangs while four fifths of it show.
    across, up = (each / 2.0 for each in field_of_view_deg(Camera(), Look()))
    for turned, tilted, is_seen in (
        (across + 7.0, 0.0, True),
        (-across - 7.0, 0.0, True),
        (across + 8.5, 0.0, False),
        (-across - 8.5, 0.0, False),
        (0.0, up + 7.0, True),
        (0.0, -up - 4.5, True),
        (0.0, up + 9.0, False),
        (0.0, -up - 6.5, False),
    ):
        camera = Camera(x_m=3.0, y_m=0.3, bearing_deg=turned % 360.0, tilt_deg=tilted)
        hung = ladder_of(lit_setup(gear, when=NOON, camera=camera), RULES.receptor).rung("window")
        assert (hung is not None) is is_seen, (turned, tilted)
    close = lit_setup(gear, when=NOON, camera=Camera(x_m=3.0, y_m=4.5, z_m=1.6, bearing_deg=0.0))
    assert ladder_of(close, RULES.receptor).rung("window") is not None
    for camera in (Camera(x_m=3.0, y_m=0.3, bearing_deg=180.0), Camera(x_m=3.0, y_m=7.0, bearing_deg=180.0)):
        assert ladder_of(lit_setup(gear, when=NOON, camera=camera), RULES.receptor).rung("window") is None
