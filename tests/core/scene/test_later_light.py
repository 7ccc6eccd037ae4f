"""Light scattered more than once, by the laws that any room keeps."""

import numpy as np
import pytest

from iron_bucket.core.photometry.distribution import CosinePower
from iron_bucket.core.scene.box_room import BoxRoom
from iron_bucket.core.scene.fineness import REFERENCE, SET
from iron_bucket.core.scene.later_light import LaterWays, Nodes, later_at_marks_lx
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.room_grid import RoomGrid
from iron_bucket.core.scene.scene import Mark, Scene, SceneFrame, SceneLamp, Solid
from iron_bucket.core.scene.standing import mark_points
from iron_bucket.core.scene.walls import Walls
from tests.core.scene.made import LIGHTER, ROOM, X, Y, Z, a_frame, a_lamp, a_mark, a_panel, at, found
from tests.made_up import panel_at

WHITE_FLAG = Solid(solid_id="W", panel=panel_at(at(1.2, 1.7, 1.4), X, Z, 1.0, 0.8), reflectance=1.0)
NO_LOSS = SceneFrame(
    frame_id="C", panel=panel_at(at(2.0, 1.2, 1.6), Y, Z, 1.0, 1.2), transmittance=0.6, back_reflectance=0.4
)


@pytest.mark.parametrize(("fineness", "near"), [(REFERENCE, 0.01), (SET, 0.03)])
@pytest.mark.parametrize("rho", [0.5, 0.9])
def test_in_an_even_room_white_things_that_keep_nothing_change_nothing(rho, fineness, near):
    """The white furnace: walls lit alike, E = rho E0 / (1 - rho) in every direction, whatever white stands about."""
    room = BoxRoom(dimensions_m=(3.0, 3.0, 3.0), reflectances=(rho,) * 6)
    marks = tuple(
        Mark(mark_id=str(which), position_m=at(*place), normal=normal)
        for which, (place, normal) in enumerate((((1.3, 1.4, 1.4), Y), ((1.9, 1.1, 1.5), X), ((2.1, 1.1, 1.5), -X)))
    )
    scene = Scene(lamps=(), frames=(NO_LOSS,), solids=(WHITE_FLAG,), rooms=(room,), marks=marks)
    walls, nodes = Walls(grids=(RoomGrid.of(room),)), Nodes.of(scene.scatterers, fineness.series_points)
    first = np.full((1, len(walls.fine.area_m2)), 10.0)
    on_nodes = np.zeros((1, len(nodes.owner)))
    later = LaterWays(nodes=nodes, walls=walls, blockers=scene.blockers).light(on_nodes, first, fineness.fine_walls)
    points = mark_points(scene.marks)
    factors = walls.factors(points, scene.blockers, splits_shadows=True) * walls.fine.reflectance
    level = (first + walls.on_fine(later.on_walls)) @ factors.T + later_at_marks_lx(
        nodes, later.on_nodes, scene.scatterers, points, scene.blockers, fineness.series_points
    ).sum(axis=1)
    assert level[0] == pytest.approx(np.full(3, rho * 10.0 / (1.0 - rho)), rel=near)


@pytest.mark.parametrize("seed", range(4))
def test_lamp_and_meter_may_change_places(seed):
    """Reciprocity: a small matt source and a flat meter, about frames, flags and walls of any kind."""
    chance = np.random.default_rng(seed)

    def any_way():
        way = chance.normal(size=3)
        return way / np.linalg.norm(way)

    ends = [(at(*chance.uniform([0.4, 0.4, 0.4], [1.4, 2.6, 2.0])), any_way()) for _ in range(2)]
    room = BoxRoom(dimensions_m=(4.0, 3.0, 2.4), reflectances=tuple(chance.uniform(0.1, 0.9, 6)))
    board = a_frame(
        frame_id="B", panel=panel_at(at(2.9, 1.6, 1.2), Y, Z, 0.9, 1.4), transmittance=None, reflectance=0.8
    )
    cloth = a_frame(
        panel=panel_at(at(2.1, 1.5, 1.2), Y, Z, 1.2, 1.2),
        transmittance=0.5,
        straight_share=float(chance.uniform(0.0, 0.8)),
        back_reflectance=0.3,
    )

    def level(source, meter):
        lamp = SceneLamp(
            lamp_id="L", position_m=source[0], aim=source[1], intensity=CosinePower(peak_cd=1000.0, exponent=1.0)
        )
        mark = Mark(mark_id="m", position_m=meter[0], normal=meter[1])
        parts = {"frames": (board, cloth), "solids": (WHITE_FLAG,), "rooms": (room,)}
        return unit_response(Scene(lamps=(lamp,), marks=(mark,), **parts), fineness=LIGHTER).whole_lx[0, 0]

    assert level(*ends) == pytest.approx(level(*reversed(ends)), rel=0.03)


def test_cloth_behind_cloth_passes_the_product_of_two_that_touch_nothing_else():
    """Two large cloths hung close in even light of 100 lx: next to the second 100 * 0.5 * 0.4, all but nothing lost."""
    even = a_lamp(position_m=at(0, 0, -40), intensity=CosinePower(peak_cd=160_000.0, exponent=0.01))
    cloths = tuple(
        a_frame(frame_id=name, panel=a_panel((0, 0, z), width_m=8.0, height_m=8.0), transmittance=passes)
        for name, z, passes in (("F", 0.0, 0.5), ("G", 0.3, 0.4))
    )
    both = found(REFERENCE, lamps=(even,), frames=cloths, marks=(a_mark((0, 0, 0.6)),))
    assert both.via_lx[0, :, 0] == pytest.approx([0.0, 20.0], rel=0.03)


def test_frost_shows_the_board_behind_it():
    """A narrow frost before a lit board: what it scatters goes straight on, so that the board is seen through it."""
    board = a_frame(frame_id="B", panel=panel_at(at(0, 0, 0), X, Y, 1.0, 1.0), transmittance=None, reflectance=0.8)
    lamp = a_lamp(position_m=at(2.0, 0, 1.2), aim=at(-2.0, 0, -1.2) / np.hypot(2.0, 1.2))
    frost = a_frame(panel=a_panel((0, 0, 0.8), width_m=2.0, height_m=2.0), transmittance=0.7, lobe_deg=4.0)
    mark = (a_mark((0, 0, 2.5), -Z),)
    bare = found(REFERENCE, lamps=(lamp,), frames=(board,), marks=mark).via_lx[0, 0, 0]
    seen = found(REFERENCE, lamps=(lamp,), frames=(board, frost), marks=mark)
    assert seen.via_lx[0, 1, 0] == pytest.approx(0.7 * bare, rel=0.1)
    assert seen.via_lx[0, 0, 0] == 0.0
    # A mark far beside sees the board through matt cloth glow, and through frost not at all: it is not on that way.
    aside = (a_mark((3.0, 0, 1.2), -X),)
    matt = a_frame(panel=frost.panel, transmittance=0.7)
    by_frost, by_matt = (
        found(REFERENCE, lamps=(lamp,), frames=(board, cloth), marks=aside).via_lx[0, 1, 0] for cloth in (frost, matt)
    )
    assert by_frost < 0.3 * by_matt


def test_right_behind_a_cloth_its_scatter_does_not_matter():
    """All that falls on it from a room passes by its share, straight on or bent."""
    lamp = a_lamp(position_m=at(4.0, 3.0, 1.3), aim=X)
    mark = (a_mark((2.0, 2.0, 1.3), X),)
    frost, matt = (
        found(lamps=(lamp,), rooms=(ROOM,), frames=(a_frame(panel=panel, **lobe),), marks=mark).via_lx[0, 0, 0]
        for panel in [panel_at(at(2.2, 2.0, 1.3), Y, Z, 2.4, 2.4)]
        for lobe in ({"lobe_deg": 12.0}, {})
    )
    assert frost == pytest.approx(matt, rel=0.1)


def test_what_frost_throws_back_is_matt_and_counts_once():
    """Hardly anything goes through it; what a board sends it comes back as off white paint."""
    lit = a_frame(frame_id="B", panel=a_panel((0, 0, 0), X, Y), transmittance=None, reflectance=0.8)
    lamp = a_lamp(position_m=at(0.0, 1.5, 2.0), aim=at(0.0, -0.6, -0.8))
    other = a_panel((0.9, 0.0, 1.4), Y, Z)
    frost = a_frame(panel=other, transmittance=0.01, lobe_deg=20.0, back_reflectance=0.7)
    paint = a_frame(panel=other, transmittance=None, reflectance=0.7)
    marks = (a_mark((0.1, -0.6, 1.5), X),)
    by_frost, by_paint = (
        found(lamps=(lamp,), frames=(lit, each), marks=marks).via_lx[0, 1, 0] for each in (frost, paint)
    )
    assert by_frost == pytest.approx(by_paint, rel=0.02)
