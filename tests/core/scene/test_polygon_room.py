"""A polygon is held against the same room as a box, and against laws that any closed room keeps."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.photometry.distribution import CosinePower
from iron_bucket.core.scene.blocking import passing
from iron_bucket.core.scene.box_room import BoxRoom
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.polygon_room import CEILING, Opening, PolygonRoom
from iron_bucket.core.scene.room_grid import RoomGrid
from iron_bucket.core.scene.scene import Mark, Scene, SceneLamp, direction
from iron_bucket.core.scene.walls import Walls
from tests.made_up import panel_at
from tests.tables import refusals

L_SHAPE = np.array([[0, 0], [6, 0], [6, 2], [2, 2], [2, 5], [0, 5]], dtype=float)


def a_polygon(**changes) -> PolygonRoom:
    corners = changes.pop("corners_m", np.array([[0, 0], [5, 0], [5, 4], [0, 4]], dtype=float))
    walls = (0.4, 0.6, 0.3, 0.5)[: len(corners)] + (0.5,) * (len(corners) - 4)
    made = {"corners_m": corners, "walls": walls, "height_m": 2.6, "floor": 0.2, "ceiling": 0.8}
    return PolygonRoom(**(made | changes))


def a_lamp(position=(1.5, 1.2, 1.4), aim=(1, 0.2, 0.3), exponent=4.0) -> SceneLamp:
    return SceneLamp(
        lamp_id="L",
        position_m=np.array(position, dtype=float),
        aim=direction("aim", np.array(aim, dtype=float)),
        intensity=CosinePower(peak_cd=9000.0, exponent=exponent),
    )


def a_mark(position, normal=(0, 0, 1), name="m") -> Mark:
    return Mark(mark_id=name, position_m=np.array(position, dtype=float), normal=np.array(normal, dtype=float))


MARKS = (a_mark((2.5, 2.0, 1.2)), a_mark((4.0, 1.0, 1.3), (-1, 0, 0), "n"), a_mark((2.5, 2.0, 0.0), name="o"))


def test_a_rectangular_polygon_is_the_box():
    # Order of a box's walls: x0, x1, y0, y1; of the polygon's: y0, x1, y1, x0.
    box = BoxRoom(dimensions_m=(5.0, 4.0, 2.6), reflectances=(0.5, 0.6, 0.4, 0.3, 0.2, 0.8))
    by_box, by_polygon = (
        unit_response(Scene(lamps=(a_lamp(),), rooms=(room,), marks=MARKS)) for room in (box, a_polygon())
    )
    assert by_polygon.first_bounce_lx == pytest.approx(by_box.first_bounce_lx, rel=0.02)  # two meshes
    assert by_polygon.indirect_lx == pytest.approx(by_box.indirect_lx, rel=0.02)


@pytest.mark.parametrize(
    "corners", [L_SHAPE, np.array([[0, 0], [4, -1], [6, 2], [3, 4.5], [-0.5, 3]], dtype=float)], ids=["L", "slanting"]
)
def test_pieces_cover_every_surface_and_look_inwards(corners):
    room = a_polygon(corners_m=corners)
    coarse = room.patches(7)
    outline = room.outline
    assert coarse.area_m2.sum() == pytest.approx(2 * outline.area + outline.length * 2.6, rel=1e-3)
    inset = coarse.centres_m + 0.01 * coarse.normals
    assert room.holds(inset).all()
    heights = np.array([[1.0, 1.0, z] for z in (-0.5, 0.0, 2.6, 3.1)])
    assert room.holds(heights).tolist() == [False, True, True, False]
    assert room.blockers()[-1].panel.normal.tolist() == [0.0, 0.0, -1.0]
    grid = RoomGrid.of(room)
    assert Walls(grids=(grid,)).on_coarse(grid.fine.area_m2 * 0 + 3.0) == pytest.approx(
        np.full(len(coarse.area_m2), 3.0)
    )
    # Every piece sees walls all round: in a closed room its form factors add up to one.
    factors = form_factors(coarse.corners_m, coarse.centres_m, coarse.normals)
    factors[coarse.face[:, None] == coarse.face[None, :]] = 0.0
    if room.is_convex:
        assert factors.sum(axis=1) == pytest.approx(np.ones(len(factors)), abs=0.01)
    else:
        assert len(set(coarse.face)) == len(corners) + 2
        fair_m2 = coarse.area_m2.sum() / (6 * 7**2)  # a piece of a box of seven a side
        assert np.median(coarse.area_m2) == pytest.approx(fair_m2, rel=0.2)


def test_walls_keep_light_from_behind_a_corner():
    room = a_polygon(corners_m=L_SHAPE)
    behind, beside = a_mark((1.0, 4.5, 1.2), (0, -1, 0)), a_mark((4.5, 1.5, 1.2), (1, 0, 0), "n")
    lamp = a_lamp(position=(5.5, 1.0, 1.4), aim=(-1, 0, 0))
    found = unit_response(Scene(lamps=(lamp,), rooms=(room,), walls=room.blockers(), marks=(behind, beside)))
    assert found.direct_lx[0, 0] == 0.0
    assert found.direct_lx[0, 1] > 100.0
    assert 0.0 < found.indirect_lx[0, 0] < found.indirect_lx[0, 1]


def test_a_corner_keeps_walls_from_lighting_each_other():
    # Only the wall at x = 6 reflects; the one at y = 5 stands round the corner from it, the one at x = 0 faces it.
    room = a_polygon(corners_m=L_SHAPE, walls=(0.0, 0.9, 0.0, 0.0, 0.0, 0.0), floor=0.0, ceiling=0.0)
    assert not room.is_convex
    assert a_polygon().is_convex
    grid = RoomGrid.of(room)
    got = [grid.solved[np.ix_(grid.coarse.face == face, grid.coarse.face == 1)].max() for face in (4, 5)]
    assert got[0] == 0.0
    assert got[1] > 0.001


def a_window(passes=0.8) -> Opening:
    # In wall 3 (x = 0), 1 m wide, 1 m high, its middle at 1.5 m.
    panel = panel_at((0.0, 2.0, 1.5), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0), 1.0, 1.0)
    return Opening(surface=3, panel=panel, passes=passes, reflectance=0.1)


def test_a_lamp_outside_shines_through_the_window_alone():
    room = a_polygon(openings=(a_window(),))
    lamp = a_lamp(position=(-2.0, 2.0, 1.5), aim=(1, 0, 0))
    inside, beside = a_mark((1.0, 2.0, 1.5), (-1, 0, 0)), a_mark((1.0, 3.0, 1.5), (-1, 0, 0), "n")
    walled = unit_response(Scene(lamps=(lamp,), rooms=(room,), walls=room.blockers(), marks=(inside, beside)))
    free = unit_response(Scene(lamps=(lamp,), marks=(inside, beside)))
    assert walled.direct_lx[0, 0] == pytest.approx(0.8 * free.direct_lx[0, 0])
    assert walled.direct_lx[0, 1] == 0.0  # its ray meets the wall at y = 2.67
    over_the_roof = unit_response(
        Scene(lamps=(a_lamp(position=(2.5, 2.0, 4.0), aim=(0, 0, -1)),), walls=room.blockers(), marks=(MARKS[0],))
    )
    assert over_the_roof.direct_lx[0, 0] == 0.0


def test_a_roof_light_opens_the_ceiling():
    panel = panel_at((2.5, 2.0, 2.6), (1.0, 0.0, 0.0), (0.0, -1.0, 0.0), 1.0, 1.0)
    room = a_polygon(openings=(Opening(surface=CEILING, panel=panel, passes=0.7),))
    starts, ends = np.array([[2.5, 2.0, 4.0], [4.5, 2.0, 4.0]]), np.array([[2.5, 2.0, 1.0]])
    assert passing(starts, ends, room.blockers()).ravel() == pytest.approx([0.7, 0.0])


def test_panes_reflect_their_own_share():
    room = a_polygon(openings=(a_window(),))
    grid = RoomGrid.of(room)
    on_wall = grid.fine.face == 3
    offset = np.abs(grid.fine.centres_m[:, 1:] - [2.0, 1.5]).max(axis=1)
    in_pane = on_wall & (offset < 0.5 + 1e-9)
    assert set(grid.fine.reflectance[in_pane]) == {0.1}
    assert set(grid.fine.reflectance[on_wall & ~in_pane]) == {0.5}
    assert (grid.coarse.reflectance * grid.coarse.area_m2).sum() == pytest.approx(
        (grid.fine.reflectance * grid.fine.area_m2).sum()
    )


def test_each_room_lights_its_own_marks():
    near, far = a_polygon(), a_polygon(corners_m=np.array([[8, 0], [12, 0], [12, 4], [8, 4]], dtype=float))
    marks = (MARKS[0], a_mark((10.0, 2.0, 1.0), name="far"))
    scene = Scene(lamps=(a_lamp(),), rooms=(near, far), walls=near.blockers() + far.blockers(), marks=marks)
    found = unit_response(scene)
    assert found.indirect_lx[0, 0] > 1.0
    assert found.indirect_lx[0, 1] == 0.0
    assert unit_response(scene, with_walls=False).indirect_lx.tolist() == [[0.0, 0.0]]
    assert unit_response(replace(scene, walls=())).indirect_lx[0, 1] > 0.0


test_what_is_refused = refusals(__file__)


def test_a_sliver_of_wall_is_one_piece_and_the_ceiling_lies_over_the_room():
    cut = a_polygon(corners_m=np.array([[0, 0], [6, 0], [6, 4.9], [5.9, 5], [0, 5]], dtype=float))
    counts = np.bincount(cut.patches(6).face)
    cell_m = np.sqrt((2.0 * cut.outline.area + cut.outline.length * 2.6) / 216.0)
    assert counts[2] == round(2.6 / cell_m) == counts[0] / round(6.0 / cell_m)
    corners = np.array([(2.0, 5.0), (6.0, 5.0), (6.0, 8.0), (2.0, 8.0)])
    room = PolygonRoom(corners_m=corners, height_m=2.6, walls=(0.5,) * 4, floor=0.2, ceiling=0.7)
    lid = room.blockers()[-1].panel
    assert (lid.width_m, lid.height_m, lid.centre_m.tolist()) == (4.0, 3.0, [4.0, 6.5, 2.6])


def test_a_room_holds_what_is_in_it_and_is_cut_alike_wherever_it_stands():
    here, there = a_polygon(), a_polygon(corners_m=np.array([[20, 7], [25, 7], [25, 11], [20, 11]], dtype=float))
    places = np.array(
        [[2.5, 2.0, 1.0], [0.0, 2.0, 1.0], [5.5, 2.0, 1.0], [2.5, 4.3, 1.0], [2.5, 2.0, 2.7], [2.5, 2.0, -0.1]]
    )
    inside = [True, True, False, False, False, False]  # on a wall is inside; half a metre past it is not
    assert here.holds(places).tolist() == inside
    assert there.holds(places + np.array([20.0, 7.0, 0.0])).tolist() == inside
    near, far = (RoomGrid.of(room) for room in (here, there))
    assert near.fine.area_m2 == pytest.approx(far.fine.area_m2)
    both = Walls(grids=(near, far)).coarse  # no two rooms share a face
    assert both.face.tolist() == [*near.coarse.face, *(near.coarse.face.max() + 1 + far.coarse.face)]
