"""Black beside a face: the first thing against a shadow side that the room fills too much."""

from collections.abc import Iterator

from iron_bucket.core.bench.flag import FlagKind
from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.places.place import LONGEST_NAME
from iron_bucket.core.quantities import display
from iron_bucket.core.scene.blocking import Blocker, passing
from iron_bucket.core.scene.standing import mark_points, rooms_with_marks
from iron_bucket.core.scene.walls import Walls
from iron_bucket.core.setups.evaluate.ladder import RungKind
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX
from iron_bucket.core.setups.plan.camera_view import in_view
from iron_bucket.core.setups.plan.changes import added, next_id
from iron_bucket.core.setups.plan.setup import PlacedFlag
from iron_bucket.core.setups.plan.written import placed_m, turned_deg
from iron_bucket.core.setups.scene.build_scene import panel_of
from iron_bucket.core.setups.sheet.clearance import flat_points_m
from iron_bucket.core.setups.suggest.shortfall import WORTH_SHARE, Shortfall, Sketch

#: From so near as black stands without being in the way of who moves, outwards until the picture is clear of it.
_BESIDE_M = (0.5, 0.75, 1.0, 1.5)
#: What walls do not get from the black they do not send on: measured, about twice as many stops.
_AND_AGAIN = 2.0
#: So many of the likeliest sizes are computed in full.
_TRIED = 2
#: From a hand flag to a floor-standing frame.
_SIZES_M = ((0.6, 0.9), (1.2, 1.2), (1.2, 1.8), (2.4, 2.4))


def negative_fill(miss: Shortfall) -> Iterator[Sketch]:
    """Blacks beside the mark of a face that is too bright, where the room gives a share of it: as near as the picture
    lets them, and of the sizes that roughly do it.
    """
    lit, mark = miss.lit, miss.lit.built.marks[miss.place]
    off_walls = float(lit.off_walls_lx[miss.place])
    if miss.factor >= 1.0 or miss.rung.kind is not RungKind.FACE or off_walls < WORTH_SHARE * lit.total_lx[miss.place]:
        return
    found = []
    for width_m, height_m in _SIZES_M:
        blacks = (_black(miss, width_m, height_m, beside_m) for beside_m in _BESIDE_M)
        flag = next((each for each in blacks if not _is_in_picture(miss, each)), None)
        if flag is not None:
            taken_lx = off_walls * (1.0 - _left_of_walls(miss, flag))
            found.append((miss.times(-taken_lx) ** _AND_AGAIN, flag))
    for roughly, flag in sorted(found, key=lambda pair: abs(miss.stops_off(pair[0])))[:_TRIED]:
        size = f"{display.length(flag.width_m, miss.units)} × {display.length(flag.height_m, miss.units)}"
        yield f"A black of {size} beside {mark.name}", (added("flags", flag),), roughly


def _black(miss: Shortfall, width_m: float, height_m: float, beside_m: float) -> PlacedFlag:
    mark = miss.lit.built.marks[miss.place]
    return PlacedFlag(
        piece_id=next_id(miss.setup, "flag"),
        name=f"Black for {mark.name}"[:LONGEST_NAME],
        width_m=width_m,
        height_m=height_m,
        kind=FlagKind.BLACK,
        **placed_m(mark.mark.position_m + beside_m * mark.mark.normal),
        **turned_deg(-mark.mark.normal),
    )


def _left_of_walls(miss: Shortfall, flag: PlacedFlag) -> float:
    """Roughly the share of what comes off the walls that a black leaves a mark, by their first light."""
    built, response = miss.lit.built, miss.lit.response
    walls = Walls(grids=tuple(built.surroundings.grids[at] for at in rooms_with_marks(built.scene)))
    mark = mark_points((built.marks[miss.place].mark,))
    sent = (built.levels @ response.walls_lx) * walls.coarse.reflectance
    lit = form_factors(walls.coarse.corners_m, mark.positions_m, mark.normals, mark.domes) * sent
    black = Blocker(panel=panel_of(flag, flag.width_m, flag.height_m), passes=0.0)
    seen = passing(mark.positions_m, walls.coarse.centres_m, built.scene.blockers)
    still = passing(mark.positions_m, walls.coarse.centres_m, (black,))
    return float((lit * seen * still).sum() / max((lit * seen).sum(), DARK_LX))


def _is_in_picture(miss: Shortfall, flag: PlacedFlag) -> bool:
    return bool(in_view(miss.setup.camera, miss.setup.look, flat_points_m(flag, miss.gear)).any())
