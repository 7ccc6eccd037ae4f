"""Light off the walls of rooms, against a sum over many points."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.photometry.distribution import BeamField, CosinePower
from iron_bucket.core.scene.box_room import BoxRoom
from iron_bucket.core.scene.fineness import REFERENCE, SET
from iron_bucket.core.scene.light_levels import lamp_flux_lm, lamp_level_lx
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.room_grid import RoomGrid
from iron_bucket.core.scene.scene import Mark, Scene, SceneFrame, SceneLamp, Solid, direction
from iron_bucket.core.scene.walls import Walls
from tests.core.scene.made import ROOM, X, Y, Z, a_lamp, a_mark, at, found
from tests.made_up import panel_at


def by_brute_force(room: BoxRoom, lamp: SceneLamp, position: np.ndarray, normal: np.ndarray, steps: int = 160) -> float:
    """The first bounce at one receiver by a sum over many points of every wall."""
    size, total = np.array(room.dimensions_m), 0.0
    grid = (np.arange(steps) + 0.5) / steps
    for index, rho in enumerate(room.reflectances):
        axis, far = divmod(index, 2)
        u, v = [other for other in range(3) if other != axis]
        points = np.zeros((steps, steps, 3))
        points[..., u], points[..., v], points[..., axis] = (
            grid[:, None] * size[u],
            grid[None, :] * size[v],
            size[axis] * far,
        )
        points = points.reshape(-1, 3)
        inward = np.zeros(3)
        inward[axis] = -1.0 if far else 1.0
        level = lamp_level_lx(lamp, Points(positions_m=points, normals=np.broadcast_to(inward, points.shape)), ())
        rays = position - points
        distance = np.linalg.norm(rays, axis=1)
        share = np.maximum(rays @ inward, 0.0) * np.maximum(-(rays @ normal), 0.0) / distance**4
        total += rho / np.pi * float(level @ share) * size[u] * size[v] / steps**2
    return total


@pytest.mark.parametrize(("exponent", "aim"), [(3.0, (1, 0, 0)), (40.0, (0.3, 0.2, 1)), (150.0, (0, 1, 0.2))])
def test_the_first_bounce_of_a_spot(exponent, aim):
    lamp = a_lamp(
        position_m=at(1.5, 1.2, 1.4),
        aim=direction("aim", aim),
        intensity=CosinePower(peak_cd=20_000.0, exponent=exponent),
    )
    for position, normal in (((2.5, 2.0, 1.2), Z), ((4.0, 1.0, 1.3), -X), ((2.5, 2.0, 0.0), Z)):
        response = found(lamps=(lamp,), rooms=(ROOM,), marks=(a_mark(position, normal),))
        expected = by_brute_force(ROOM, lamp, at(*position), normal)
        assert response.first_bounce_lx[0, 0] == pytest.approx(expected, rel=0.03)
        assert response.indirect_lx[0, 0] > response.first_bounce_lx[0, 0]


@pytest.mark.parametrize("fineness", [REFERENCE, SET])
@pytest.mark.parametrize("beam_deg", [2.0, 6.0])
def test_a_spot_smaller_than_a_patch_comes_back_whole(fineness, beam_deg):
    """By hand: all its lumens lie in one place, E = rho flux cos(theta) cos(epsilon) / (pi d^2)."""
    room = BoxRoom(dimensions_m=(8.0, 7.0, 5.0), reflectances=(0.0, 0.8, 0.0, 0.0, 0.0, 0.0))
    spot = a_lamp(
        position_m=at(4.0, 3.3, 2.2),
        aim=X,
        intensity=BeamField(peak_cd=90_000.0, beam_deg=beam_deg, field_deg=1.8 * beam_deg),
    )
    response = found(
        fineness=fineness,
        lamps=(spot,),
        rooms=(room,),
        marks=(Mark(mark_id="m", position_m=at(4.0, 5.6, 2.2), normal=X),),
    )
    d2 = 4.0**2 + 2.3**2
    expected = 0.8 * lamp_flux_lm(spot) * (4.0 / np.sqrt(d2)) ** 2 / (np.pi * d2)
    assert response.first_bounce_lx[0, 0] == pytest.approx(expected, rel=0.02)


def test_what_the_lumens_method_says_of_a_pale_room():
    # First estimate of the docs/craft.md, section 3: E = flux rho / (A (1 - rho)), for light thrown evenly at walls of
    # one paint.
    room = BoxRoom(dimensions_m=(4.0, 4.0, 4.0), reflectances=(0.7,) * 6)
    lamp = a_lamp(position_m=at(2, 2, 2), aim=Z, intensity=CosinePower(peak_cd=1000.0, exponent=0.001))
    flux = lamp_flux_lm(lamp) * 2  # the other half by a second lamp that looks down
    response = found(
        lamps=(lamp, replace(lamp, lamp_id="B", aim=-Z)),
        rooms=(room,),
        marks=(a_mark((2, 2, 1), Z), a_mark((1, 2, 2), X, "n"), a_mark((3, 1, 2), -Y, "o")),
    )
    assert (response.indirect_lx.sum(axis=0)).mean() == pytest.approx(flux * 0.7 / (96.0 * 0.3), rel=0.1)


def test_black_walls_send_nothing_flags_keep_light_off_and_a_bounce_puts_it_there():
    dark = BoxRoom(dimensions_m=(5.0, 4.0, 2.6), reflectances=(0.0,) * 6)
    lamp = a_lamp(position_m=at(1, 1, 1), aim=X)
    assert found(lamps=(lamp,), rooms=(dark,), marks=(a_mark((3, 2, 1), -X),)).indirect_lx[0, 0] == 0.0
    scene = Scene(lamps=(lamp,), rooms=(ROOM,), marks=(a_mark((3, 2, 1), -X),))
    grid = RoomGrid.of(ROOM, REFERENCE.wall_patches)
    assert unit_response(scene, [grid]).indirect_lx == pytest.approx(unit_response(scene).indirect_lx)
    walls = Walls(grids=(grid,))  # by one ray each, and untinted walls are solved for all bands at once
    assert (walls.points.are_many, walls.coarse_points.are_many) == (True, True)
    assert grid.solved_in(None) is grid.solved_in(2) is grid.solved
    lamp = a_lamp(position_m=at(1, 2, 1.3), aim=X, intensity=CosinePower(peak_cd=20_000.0, exponent=60.0))
    mark = (a_mark((2.5, 0.5, 1.3), Y),)
    plain = found(lamps=(lamp,), rooms=(ROOM,), marks=mark).indirect_lx[0, 0]
    flag = Solid(solid_id="S", panel=panel_at(at(1.5, 2, 1.3), Y, Z, 1.0, 1.0))
    assert found(lamps=(lamp,), rooms=(ROOM,), solids=(flag,), marks=mark).indirect_lx[0, 0] < 0.05 * plain
    board = SceneFrame(frame_id="F", panel=flag.panel, reflectance=0.85)
    assert found(lamps=(lamp,), rooms=(ROOM,), frames=(board,), marks=mark).indirect_lx[0, 0] > 0.2 * plain


def test_a_screen_before_the_mark_hides_the_walls_behind_it():
    lamp = a_lamp(position_m=at(1, 2, 1.3), aim=X, intensity=CosinePower(peak_cd=20_000.0, exponent=60.0))
    mark = (a_mark((2.5, 2.0, 1.3), X),)
    screen = Solid(solid_id="S", panel=panel_at(at(2.6, 2, 1.3), Y, Z, 3.9, 2.5))
    open_lx, hidden = (
        found(lamps=(lamp,), rooms=(ROOM,), solids=solids, marks=mark).first_bounce_lx[0, 0]
        for solids in ((), (screen,))
    )
    assert hidden < 0.1 * open_lx
