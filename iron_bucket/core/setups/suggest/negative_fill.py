"""Black beside a face: the first thing against a shadow side that the room fills too much."""

from collections.abc import Iterator

from iron_bucket.core.quantities import display
from iron_bucket.core.setups.evaluate.ladder import RungKind
from iron_bucket.core.setups.plan.camera_view import in_view
from iron_bucket.core.setups.plan.changes import added, next_id
from iron_bucket.core.setups.plan.setup import FlagKind, PlacedFlag
from iron_bucket.core.setups.plan.written import placed_m, turned_deg
from iron_bucket.core.setups.sheet.clearance import flat_points_m
from iron_bucket.core.setups.suggest.shortfall import WORTH_SHARE, Shortfall, Sketch

#: From so near as black stands without being in the way of who moves, outwards until the picture is clear of it.
_BESIDE_M = (0.5, 0.75, 1.0, 1.5)
#: From a hand flag to a floor-standing frame.
_SIZES_M = ((0.6, 0.9), (1.2, 1.2), (1.2, 1.8), (2.4, 2.4))


def negative_fill(miss: Shortfall) -> Iterator[Sketch]:
    """Blacks of several sizes beside the mark of a face that is too bright, where the room gives a share of it; each as
    near as the picture lets it.
    """
    lit, mark = miss.lit, miss.lit.built.marks[miss.place]
    off_walls = float(lit.off_walls_lx[miss.place])
    if miss.factor >= 1.0 or miss.rung.kind is not RungKind.FACE or off_walls < WORTH_SHARE * lit.total_lx[miss.place]:
        return
    for width_m, height_m in _SIZES_M:
        blacks = (_black(miss, width_m, height_m, beside_m) for beside_m in _BESIDE_M)
        flag = next((each for each in blacks if not _is_in_picture(miss, each)), None)
        if flag is not None:
            size = f"{display.length(width_m, miss.units)} × {display.length(height_m, miss.units)}"
            yield f"A black of {size} beside {mark.name}", (added("flags", flag),)


def _black(miss: Shortfall, width_m: float, height_m: float, beside_m: float) -> PlacedFlag:
    mark = miss.lit.built.marks[miss.place]
    return PlacedFlag(
        piece_id=next_id(miss.setup, "flag"),
        name=f"Black for {mark.name}"[:80],
        width_m=width_m,
        height_m=height_m,
        kind=FlagKind.BLACK,
        **placed_m(mark.mark.position_m + beside_m * mark.mark.normal),
        **turned_deg(-mark.mark.normal),
    )


def _is_in_picture(miss: Shortfall, flag: PlacedFlag) -> bool:
    return bool(in_view(miss.setup.camera, miss.setup.look, flat_points_m(flag, miss.gear)).any())
