import pytest

from iron_bucket.core.modifiers.kinds import SheetKind
from iron_bucket.core.selection.front_wish import FrontWish
from iron_bucket.core.selection.fronts import FrontKind, fronts_of, sheet_sets_of
from iron_bucket.core.selection.narrow import narrowed
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.selection.pick import pick
from tests.made_up import a_cloth, a_face, a_frame, a_gear, a_grid, a_need, a_sheet
from tests.tables import table


def test_every_front_once():
    gear = table(__file__, "gear")
    keys = [front.key for front in fronts_of(gear)]
    assert keys == table(__file__, "test_every_front_once", list)
    frames, faces, sized = (FrontKind.FRAME,), (FrontKind.FACE,), tuple(FrontKind)
    for wish, allowed in (
        (FrontWish(kinds=frames), {key for key in keys if "@" in key}),
        (FrontWish(kinds=frames, size_m=3.1), {key for key in keys if key.startswith("big")}),
        (FrontWish(kinds=frames, size_m=3.2), set()),
        (FrontWish(kinds=faces), {"dome", "dome+fabric"}),
        (FrontWish(kinds=sized, size_m=1.2), {"board", *(key for key in keys if key.startswith("frame"))}),
    ):
        assert {front.key for front in fronts_of(gear) if wish.allows(front)} == allowed


def test_a_cloth_counts_by_its_area_and_sheets_of_different_work_go_together():
    front = next(
        each for each in fronts_of(a_gear(frames=(a_frame(),), cloths=(a_cloth(),))) if each.kind is FrontKind.FRAME
    )
    assert front.weight_kg == pytest.approx(3.0 + 0.5 * 1.44)
    assert front.day_price == pytest.approx(2.0 * 1.44)
    assert not front.is_owned
    assert next(each for each in fronts_of(a_gear()) if each.kind is FrontKind.OPEN).is_owned
    sheets = table(__file__, "sheets")
    keys = {chosen.key for chosen in sheet_sets_of(a_gear(sheets=sheets))}
    assert {"none", "blue", "blue+half-blue", "nd+net", "blue+green", "net+s100", "green+nd", "frost+orange"} <= keys
    assert not keys & {"blue+orange", "green+magenta", "s100+s200", "frost+white"}


def test_boxes_and_grids_need_their_fitting_and_scrims_their_ring():
    heads = table(__file__, "heads")
    configurations = table(__file__, "configurations")
    scrim = a_sheet("scrim", SheetKind.SCRIM, None, layers=1, ring_mm=100)
    flats = {"frames": (a_frame(),), "cloths": (a_cloth(),), "faces": (a_face(),), "grids": (a_grid(),)}
    bench = pack(a_gear(heads=heads, configurations=configurations, sheets=(a_sheet("nd"), scrim), **flats))
    fronts, sets = ({each.key: i for i, each in enumerate(several)} for several in (bench.fronts, bench.sheet_sets))
    rows = {each.slug: i for i, each in enumerate(bench.configurations)}
    mounts = {slug: [key for key, i in fronts.items() if bench.mounts[row, i]] for slug, row in rows.items()}
    assert "dome" in mounts["lamp.own"]
    assert "dome" not in mounts["lamp.reflector"]
    assert "comb" in mounts["lamp.reflector"]
    assert mounts["bulb.own"] == mounts["other.own"] == ["open", "frame+cloth@0.4", "frame+cloth@0.65"]
    wears = {slug: [key for key, i in sets.items() if bench.wears[row, i]] for slug, row in rows.items()}
    assert wears["lamp.own"] == ["none", "nd"]
    assert wears["other.own"] == ["none", "nd", "scrim", "nd+scrim"]
    assert wears["bulb.own"] == ["none"]


def test_cut_down_to_one_candidate():
    bench = pack(a_gear(faces=(a_face(),), sheets=(a_sheet("nd"),)))
    one = narrowed(bench, "lamp.own~dome~nd")
    assert [one.configurations[0].slug, one.fronts[0].key, one.sheet_sets[0].key] == ["lamp.own", "dome", "nd"]
    assert (one.candela.shape[0], one.mounts.size, one.wears.size, one.front_gain.shape[1]) == (1, 1, 1, 1)
    assert not narrowed(bench, "lamp.own~gone~nd").fronts
    assert not narrowed(bench, "nonsense").configurations
    for gone in ("lamp.own~open~gone", "lamp.own~gone~nd", "nonsense"):
        assert not len(pick(narrowed(bench, gone), a_need()).fits)
