import json
from dataclasses import fields

import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.selection.pick import pick
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.gear_csv import read_gear_tables
from iron_bucket.formats.gear_json import gear_json, read_gear
from iron_bucket.formats.need_json import need_json, read_need
from iron_bucket.formats.photometric import read_photometric
from iron_bucket.formats.picked_json import picked_json
from tests.conftest import GOLDEN
from tests.made_up import a_configuration, a_face, a_gear, a_need, a_sheet
from tests.tables import table, tabled


def test_the_whole_bench_goes_round_without_loss(gear):
    back = read_gear(json.dumps(gear_json(gear)))
    for each in fields(gear):
        assert getattr(back, each.name) == getattr(gear, each.name), each.name


def test_a_measured_table_goes_round_too():
    table = read_photometric((GOLDEN / "photometric" / "f24.ies").read_bytes(), "f24.ies").distribution
    back = (
        read_gear(json.dumps(gear_json(a_gear(configurations=(a_configuration(distribution=table),)))))
        .configurations[0]
        .distribution
    )
    assert back.kind is table.kind
    assert (back.candela == table.candela).all()


def one_head(**changes):
    document = gear_json(a_gear())
    document["heads"][0] |= changes
    return json.dumps(document)


@tabled
def test_bad_gear_files_say_where(text, reason):
    with pytest.raises(FormatError) as refused:
        read_gear(text)
    assert reason in str(refused.value)


@tabled
def test_bad_distributions_say_why(change, reason):
    document = gear_json(a_gear())
    document["configurations"][0] |= change
    with pytest.raises(FormatError, match=reason):
        read_gear(json.dumps(document))


def test_tables_name_their_line():
    with pytest.raises(FormatError, match="table frames, line 3: width_m is 'wide'; accepted: a number"):
        read_gear_tables({"frames": "slug,name,weight_kg,width_m,height_m\na,a,1,1,1\nb,b,1,wide,1\n"})
    with pytest.raises(FormatError, match="table lamps: accepted: heads"):
        read_gear_tables({"lamps": ""})


def test_a_need_goes_round(gear):
    full = table(__file__, "test_a_need_goes_round", list)
    assert need_json(read_need(json.dumps(full), gear)) == full
    battery = {
        "illuminance_lx": 40,
        "throw_m": 7,
        "feed": {"battery": {"kind": "battery-v-150", "count": 4, "burn_h": 3.5, "temperature_c": 4.0}},
    }
    assert need_json(read_need(json.dumps(battery), gear))["feed"] == battery["feed"]


def test_a_camera_states_the_level(gear):
    by_time = read_need('{"throw_m": 3, "camera": {"t_stop": 2.8, "iso": 800, "time_s": 0.0208333333}}', gear)
    by_angle = read_need(
        '{"throw_m": 3, "camera": {"t_stop": 2.8, "iso": 800, "angle_deg": 180, "fps": 24, "filter_stops": 1, "meter":'
        ' "flat"}}',
        gear,
    )
    assert by_time.illuminance_lx == pytest.approx(159.936)
    assert by_angle.illuminance_lx == pytest.approx(235.2)


@tabled
def test_bad_needs_say_why(gear, change, reason):
    with pytest.raises(FormatError) as refused:
        read_need(json.dumps({"illuminance_lx": 640, "throw_m": 3} | change), gear)
    assert reason in str(refused.value)


def test_an_answer_as_json():
    picked = pick(pack(a_gear(faces=(a_face(),), sheets=(a_sheet("nd"),))), a_need(width_m=1.0))
    answer = json.loads(json.dumps(picked_json(picked, limit=None), allow_nan=False))
    assert answer["tried"] == answer["fitting"] + len(answer["passed_over"])
    assert sum(answer["reasons"].values()) == len(answer["passed_over"])
    assert set(answer["reasons"]) == {each["reason"] for each in answer["passed_over"]}
    assert all(each["text"] for each in answer["passed_over"])
    fit = answer["fits"][0]
    assert fit["chain"][-1]["illuminance_lx"] == pytest.approx(500.0, rel=1e-3)
    assert len(picked_json(picked, limit=1)["passed_over"]) == 1


def test_a_row_reads_each_kind_once():
    row = Fields({"a": " x ", "b": "", "c": None, "n": "1.5", "y": "yes", "t": True})
    assert (
        row.word("a"),
        row.word("b", "none"),
        row.perhaps("c"),
        row.number("n"),
        row.yes("y"),
        row.yes("t"),
        row.yes("gone", True),
    ) == ("x", "none", None, 1.5, True, True, True)
    row.done()
    with pytest.raises(BadValue, match="a is 'x'; accepted: an object"):
        row.inner("a")
