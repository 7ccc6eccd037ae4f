"""Light in three bands between tinted walls: against rays thrown at random, and by closed forms."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.colour.bands import sent_on
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.steady import Steady
from iron_bucket.core.scene.blocking import Blocker
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import banded_response, unit_response, weighed
from iron_bucket.core.scene.polygon_room import Opening, PolygonRoom
from iron_bucket.core.scene.scene import Mark, Scene, SceneFrame, SceneLamp

SIZE = np.array([4.0, 3.0, 2.5])
CORNERS = np.array([[0.0, 0.0], [4.0, 0.0], [4.0, 3.0], [0.0, 3.0]])
#: Walls y0, x1, y1, x0, then the floor and the ceiling.
SHARES = (0.5, 0.7, 0.6, 0.4, 0.3, 0.8)
PINK, WOOD, NONE = sent_on(20.0, -0.02), sent_on(60.0, 0.0), (1.0, 1.0, 1.0)
TINTS = (PINK, NONE, sent_on(-40.0, 0.01), WOOD, WOOD, NONE)
CANDELA = 500.0
LAMP = SceneLamp(
    lamp_id="a", position_m=np.array([1.2, 1.0, 1.7]), aim=np.array([0.0, 0.0, -1.0]), intensity=Steady(candela=CANDELA)
)
LAMP_BESIDE = replace(LAMP, lamp_id="c", position_m=np.array([3.1, 2.2, 1.9]))
MARKS = (
    Mark(mark_id="m", position_m=np.array([2.6, 1.6, 1.2]), normal=np.array([0.0, -1.0, 0.0])),
    Mark(mark_id="n", position_m=np.array([2.0, 2.0, 1.0]), normal=np.array([-0.6, 0.0, 0.8])),
)


def a_room(**changes) -> PolygonRoom:
    made = {"walls": SHARES[:4], "floor": SHARES[4], "ceiling": SHARES[5], "tints": TINTS}
    return PolygonRoom(**({"corners_m": CORNERS, "height_m": 2.5} | made | changes))


def thrown_lx(rays: int = 60_000) -> np.ndarray:
    """What comes off the walls at the marks, band by band: rays from the lamp, each hit joined with the marks."""
    chance = np.random.default_rng(7)
    way = chance.normal(size=(rays, 3))
    way /= np.linalg.norm(way, axis=1)[:, None]
    at = np.broadcast_to(LAMP.position_m, way.shape).copy()
    power = np.full((rays, 3), 4.0 * np.pi * CANDELA / rays)
    # By axis and end: x0, x1, y0, y1, floor, ceiling.
    order = [3, 1, 0, 2, 4, 5]
    sends = np.array([SHARES[each] for each in order])[:, None] * np.array([TINTS[each] for each in order])
    inwards = np.array([[1, 0, 0], [-1, 0, 0], [0, 1, 0], [0, -1, 0], [0, 0, 1], [0, 0, -1]], dtype=float)
    found = np.zeros((3, len(MARKS)))
    for _ in range(40):
        with np.errstate(divide="ignore", invalid="ignore"):
            far = np.where(way > 0.0, (SIZE - at) / way, np.where(way < 0.0, -at / way, np.inf))
        axis = far.argmin(axis=1)
        rows = np.arange(rays)
        at = at + far[rows, axis][:, None] * way
        face = 2 * axis + (way[rows, axis] > 0.0)
        power = power * sends[face]
        normal = inwards[face]
        for column, mark in enumerate(MARKS):
            ray = mark.position_m - at
            squared = (ray**2).sum(axis=1)
            leaves, arrives = (ray * normal).sum(axis=1), -ray @ mark.normal
            lit = np.maximum(leaves, 0.0) * np.maximum(arrives, 0.0) / squared**2 / np.pi
            found[:, column] += (power * lit[:, None]).sum(axis=0)
        # The next way off a matt wall, by the cosine.
        turn, lift = chance.uniform(0.0, 2.0 * np.pi, rays), chance.uniform(0.0, 1.0, rays)
        one = inwards[(face + 2) % 6]
        other = np.cross(normal, one)
        flat = np.sqrt(lift)[:, None] * (np.cos(turn)[:, None] * one + np.sin(turn)[:, None] * other)
        way = flat + np.sqrt(1.0 - lift)[:, None] * normal
    return found


def test_a_tinted_room_agrees_with_rays_thrown_at_random():
    scene = Scene(lamps=(LAMP,), rooms=(a_room(),), marks=MARKS)
    banded = banded_response(scene, fineness=SET)
    wanted = thrown_lx()
    assert len(banded) == 3
    for band, each in enumerate(banded):
        assert each.indirect_lx[0] == pytest.approx(wanted[band], rel=0.03)
    reds, greens = banded[0].indirect_lx[0], banded[1].indirect_lx[0]
    assert (reds > 1.05 * greens).all()  # pink, wood and wood


def test_with_something_in_the_room_the_solution_is_the_same_but_for_its_shadow():
    """A small white board far from everything changes next to nothing, though another way is taken then."""
    board = Panel(
        centre_m=np.array([3.9, 0.1, 2.4]),
        side_x=np.array([1.0, 0.0, 0.0]),
        side_y=np.array([0.0, 1.0, 0.0]),
        width_m=0.02,
        height_m=0.02,
    )
    scene = Scene(lamps=(LAMP,), rooms=(a_room(),), marks=MARKS)
    with_board = replace(scene, frames=(SceneFrame(frame_id="b", panel=board, reflectance=0.5),))
    for one, other in zip(banded_response(scene), banded_response(with_board), strict=True):
        assert other.indirect_lx == pytest.approx(one.indirect_lx, rel=0.01)


def test_what_is_not_tinted_is_followed_once_and_even_tints_change_nothing():
    plain = Scene(lamps=(LAMP,), rooms=(a_room(tints=()),), marks=MARKS)
    even = replace(plain, rooms=(a_room(tints=(NONE,) * 6),))
    (alone,) = banded_response(plain)
    assert len(banded_response(even)) == 3
    for each in banded_response(even):
        assert each.whole_lx == pytest.approx(alone.whole_lx)
    assert unit_response(replace(plain, rooms=(a_room(),))).whole_lx == pytest.approx(alone.whole_lx)
    shares = np.array([[0.2, 0.7, 0.1]])
    assert weighed((alone,), shares) is alone
    tinted = banded_response(Scene(lamps=(LAMP,), rooms=(a_room(),), marks=MARKS))
    mean = weighed(tinted, shares)
    for name in ("direct_lx", "indirect_lx", "first_bounce_lx", "walls_lx", "via_lx"):
        wanted = sum(share * getattr(each, name) for share, each in zip(shares[0], tinted, strict=True))
        assert getattr(mean, name) == pytest.approx(wanted)


def test_a_gold_board_sends_gold_on_and_what_it_lights_sends_it_further():
    """Two facing boards, gold and white, without walls: by the gold one alone each band is its own share."""
    gold = sent_on(70.0, 0.0)

    def facing(x_m: float, side: float, tint) -> SceneFrame:
        panel = Panel(
            centre_m=np.array([x_m, 0.0, 1.0]),
            side_x=np.array([0.0, side, 0.0]),
            side_y=np.array([0.0, 0.0, 1.0]),
            width_m=1.0,
            height_m=1.0,
        )
        return SceneFrame(frame_id=f"{x_m:g}", panel=panel, reflectance=0.8, tint=tint)

    lamp = replace(LAMP, position_m=np.array([1.0, 0.0, 1.0]))
    mark = Mark(mark_id="m", position_m=np.array([1.0, 0.6, 1.0]), normal=np.array([-1.0, 0.0, 0.0]))
    facing_white = replace(mark, mark_id="n", normal=np.array([1.0, 0.0, 0.0]))
    boards = (facing(0.0, 1.0, gold), facing(2.0, -1.0, NONE))
    banded = banded_response(Scene(lamps=(lamp,), frames=boards, marks=(mark, facing_white)))
    plain = unit_response(Scene(lamps=(lamp,), frames=boards[:1], marks=(mark,)))
    alone = banded_response(Scene(lamps=(lamp,), frames=boards[:1], marks=(mark,)))
    for band, share in enumerate(gold):
        assert alone[band].via_lx[0, 0] == pytest.approx(plain.via_lx[0, 0] * share)
    off_white = [each.via_lx[0, 1, 1] for each in banded]
    assert off_white[0] > off_white[1] > off_white[2]
    off_gold = np.array([each.via_lx[0, 0, 0] for each in banded]) / np.array(gold)
    assert off_gold[0] > off_gold[1] > off_gold[2]  # light that met gold, then white, then gold again


def test_light_is_tinted_by_all_that_it_goes_straight_through():
    """A pane between a lamp outdoors and the marks, and a cloth: the outer lamp takes their tints, the inner its
    own.
    """
    pane = Panel(
        centre_m=np.array([0.0, 1.5, 1.25]),
        side_x=np.array([0.0, -1.0, 0.0]),
        side_y=np.array([0.0, 0.0, 1.0]),
        width_m=2.9,
        height_m=2.4,
    )
    green = sent_on(-10.0, 0.015)
    opening = Opening(surface=3, panel=pane, passes=0.7, tint=green)
    around = a_room(tints=(), openings=(opening,))
    outside = replace(LAMP, lamp_id="b", position_m=np.array([-3.0, 1.4, 1.5]))
    bare = Scene(lamps=(LAMP, outside, LAMP_BESIDE), rooms=(around,), walls=around.blockers(), marks=MARKS)
    assert bare.meets_tint.tolist() == [False, True, False]
    banded = banded_response(bare, fineness=SET)
    for band, found in enumerate(banded):
        whole = unit_response(bare, fineness=SET).whole_lx
        assert found.whole_lx[1] == pytest.approx(whole[1] * green[band])
        assert found.whole_lx[[0, 2]] == pytest.approx(whole[[0, 2]])
    frost = Panel(
        centre_m=np.array([2.2, 1.3, 1.4]),
        side_x=np.array([0.0, 1.0, 0.0]),
        side_y=np.array([0.0, 0.0, 1.0]),
        width_m=1.2,
        height_m=1.2,
    )
    cloth = SceneFrame(frame_id="f", panel=frost, transmittance=0.6, straight_share=0.7, tint=WOOD)
    veiled = Scene(lamps=(LAMP, outside), frames=(cloth,), walls=around.blockers(), marks=MARKS[:1])
    assert veiled.meets_tint.all()
    plain = unit_response(veiled, fineness=SET)
    for band, found in enumerate(banded_response(veiled, fineness=SET)):
        tint = np.array([WOOD[band], WOOD[band] * green[band]])
        assert plain.direct_lx.min() > 0.0
        assert found.direct_lx[:, 0] == pytest.approx(plain.direct_lx[:, 0] * tint)
        assert found.whole_lx[:, 0] == pytest.approx(plain.whole_lx[:, 0] * tint)
    deep = Blocker(panel=pane, passes=0.9, tint=(1.4, 0.9, 0.2), holes=(Blocker(panel=pane, passes=0.5),))
    assert [deep.in_band(band).passes for band in range(3)] == pytest.approx([1.0, 0.81, 0.18])
    assert deep.in_band(0).holes[0].passes == 0.5
    assert (deep.tinting, deep.in_band(0).tinting) == ((deep,), ())
