"""What stands about, for other lamps and other ways to look at them."""

from dataclasses import replace

import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.scene.fineness import PASSING, SET
from iron_bucket.core.scene.mark_levels import banded_response
from iron_bucket.core.scene.scene import Mark, Scene
from iron_bucket.core.scene.standing import Standing
from tests.core.scene.made import ROOM, Y, a_frame, a_lamp, a_panel, at


def test_it_serves_other_lamps_looked_at_otherwise():
    marks = (Mark(mark_id="m", position_m=at(2.5, 3.0, 1.2), normal=-Y),)
    frame = a_frame(panel=a_panel(centre=(2.5, 1.5, 1.2), side_y=at(0, 0, 1)))
    scene = Scene(lamps=(a_lamp(position_m=at(2.5, 0.3, 1.2), aim=Y),), frames=(frame,), marks=marks, rooms=(ROOM,))
    standing = Standing.of(replace(scene, lamps=()), with_walls=True, fineness=SET)
    banded_response(scene, fineness=SET, standing=standing)
    finer = replace(SET, frame_points=15, wall_frame_points=15)
    there = standing.looked_at(finer)
    assert there.factors is standing.factors
    assert (there.fineness, standing.fineness) == (finer, SET)
    found, fresh = (banded_response(scene, fineness=finer, standing=about)[0] for about in (there, None))
    assert found.whole_lx == pytest.approx(fresh.whole_lx)
    assert found.share_caught == pytest.approx(fresh.share_caught)
    with pytest.raises(BadValue, match="the same cut"):
        standing.looked_at(PASSING)
