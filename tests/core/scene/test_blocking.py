"""What stands in the way of rays."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.daylight.glass import slant_share
from iron_bucket.core.errors import BadValue
from iron_bucket.core.scene.blocking import Blocker, Blockers, crosses, passing, passing_each
from iron_bucket.core.scene.scene import Solid
from tests.core.scene.made import Y, Z, a_mark, a_panel, at, found


def test_a_solid_casts_its_shadow_and_a_net_dims():
    flag = Solid(solid_id="S", panel=a_panel((0, 0, 0), width_m=0.5, height_m=0.5))
    marks = (a_mark((0.49, 0, 2), name="in"), a_mark((0.51, 0, 2), name="out"))
    open_lx = found(marks=marks).direct_lx[0]
    assert found(solids=(flag,), marks=marks).direct_lx[0] == pytest.approx(
        [0.0, open_lx[1]]
    )  # its edge at 0.25 throws to 0.5
    assert found(solids=(replace(flag, transmittance=0.6),), marks=marks).direct_lx[0] == pytest.approx(
        [0.6 * open_lx[0], open_lx[1]]
    )
    beyond = replace(flag, panel=a_panel((0, 0, 3)))
    assert found(solids=(beyond,), marks=marks).direct_lx[0] == pytest.approx(open_lx)
    alongside = replace(flag, panel=a_panel((0, 0, 0), side_x=Z, side_y=Y))  # edge on: a ray in its plane meets nothing
    assert found(solids=(alongside,), marks=(a_mark(),)).direct_lx[0] == pytest.approx(found().direct_lx[0])


def test_a_solid_gives_no_more_than_it_gets():
    assert Solid(solid_id="S", panel=a_panel((0, 0, 0)), transmittance=0.4, reflectance=0.6).reflectance == 0.6
    with pytest.raises(BadValue, match="reflectance is 0.61; accepted: no more than the transmittance leaves"):
        Solid(solid_id="S", panel=a_panel((0, 0, 0)), transmittance=0.4, reflectance=0.61)


@pytest.mark.parametrize("turn_deg", [0.0, 35.0, 160.0])
def test_rays_against_a_tilted_rectangle_anywhere(turn_deg):
    """Held against the plane's equation solved ray by ray."""
    turn = np.radians(turn_deg)
    panel = a_panel((1.5, -0.7, 2.2), side_x=at(np.cos(turn), 0, np.sin(turn)), side_y=Y, width_m=1.8, height_m=2.6)
    random = np.random.default_rng(7)
    starts, ends = (random.uniform([-1, -3, 0], [4, 2, 4], (30, 3)) for _ in range(2))
    found_crossings = crosses(starts, ends, panel)

    def meets(start, end) -> bool:
        share = (panel.centre_m - start) @ panel.normal / ((end - start) @ panel.normal)
        off = start + share * (end - start) - panel.centre_m
        return 0.0 < share < 1.0 and abs(off @ panel.side_x) <= 0.9 and abs(off @ panel.side_y) <= 1.3

    expected = [[meets(start, end) for end in ends] for start in starts]
    assert found_crossings.tolist() == expected
    assert 0.05 < found_crossings.mean() < 0.6


def test_a_ray_that_ends_on_a_panel_does_not_cross_it():
    """Nor one that ends just before it, whatever the other rays do."""
    ends = np.array([[0, 0, 1.0], [0, 0, 0.8], [0, 0, 0.7], [0, 0, 2.0]])
    assert crosses(np.zeros((1, 3)), ends, a_panel((0, 0, 1))).tolist() == [[False, False, False, True]]
    assert crosses(ends, np.zeros((1, 3)), a_panel((0, 0, 1))).tolist() == [[False], [False], [False], [True]]
    beside = np.array([[0.0, 0.0, 1.0], [5.0, 0.0, 1.0]])  # in the panel's own plane
    assert not crosses(beside, np.concatenate([beside, ends]), a_panel((0, 0, 1))).any()
    # Ten metres long, past the panel by half a billionth of that, then by a thousandth.
    past = np.array([[0, 0, 1.0 + 5e-9], [0, 0, 1.01]])
    assert crosses(at(0, 0, -9)[None], past, a_panel((0, 0, 1))).tolist() == [[False, True]]
    assert crosses(past, at(0, 0, -9)[None], a_panel((0, 0, 1))).tolist() == [[False], [True]]
    tilted = a_panel((0.3, 0.1, 0.7), side_x=at(0.6, 0.0, 0.8), side_y=Y)  # its own points lie in it but for rounding
    inside = tilted.centre_m + np.random.default_rng(3).uniform(-0.5, 0.5, (40, 2)) @ np.array([tilted.side_x, Y])
    assert not crosses(inside, inside, tilted).any()


def test_glass_in_a_wall_passes_the_less_the_more_slantwise_a_ray_comes():
    pane = Blocker(panel=a_panel((0, 0, 1), width_m=6.0, height_m=6.0), passes=0.8, is_glass=True)
    wall = Blocker(panel=a_panel((0, 0, 1), width_m=9.0, height_m=9.0), passes=0.0, holes=(pane,))
    ends = np.array([[0, 0, 2.0], [2.0 * np.sqrt(3.0), 0, 2.0], [0, 4.0, 1.5]])  # square on, 60 degrees, past the pane
    starts = np.array([[0, 0, 0.0]])
    assert passing(starts, ends, (wall,))[0] == pytest.approx(
        [0.8, 0.8 * 0.89, 0.8 * slant_share(1.5 / 4.272)], abs=0.01
    )
    bare = replace(pane, is_glass=False)
    assert passing(starts, ends, (replace(wall, holes=(bare,)),))[0] == pytest.approx([0.8, 0.8, 0.8])
    assert passing_each(starts[[0, 0, 0]], ends, (wall,)) == pytest.approx(passing(starts, ends, (wall,))[0])
    assert passing_each(starts, ends[:1], ()).tolist() == [1.0]


@pytest.mark.parametrize("seed", range(6))
def test_many_in_the_way_are_each_alone_one_after_the_other(seed):
    """Things close together are looked at as one first: nothing may be lost by that, wherever rays begin."""
    random = np.random.default_rng(seed)
    sides = [np.linalg.qr(random.normal(size=(3, 3)))[0] for _ in range(24)]
    places = np.repeat(random.uniform(-3.0, 3.0, (4, 3)), 6, axis=0) + random.uniform(-0.5, 0.5, (24, 3))
    blockers = tuple(
        Blocker(panel=a_panel(place, side[0], side[1], *random.uniform(0.1, 1.6, 2)), passes=random.choice([0.0, 0.5]))
        for place, side in zip(places, sides, strict=True)
    )
    starts, ends = random.uniform(-4.0, 4.0, (2, 60, 3))
    alone = np.prod([passing(starts, ends, (each,)) for each in blockers], axis=0)
    assert passing(starts, ends, blockers) == pytest.approx(alone)
    assert passing_each(starts, ends, blockers) == pytest.approx(np.diag(alone))
    assert 1 < len(Blockers.of(blockers).end_group) < 24
    assert 0.01 < (alone < 1.0).mean() < 0.9
