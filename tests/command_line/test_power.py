"""``iron-bucket power``: reference cases through a plan's file, and what no plan may hold."""

import json
import math

import pytest
from click.testing import CliRunner

from iron_bucket.command_line.main import main
from tests.conftest import golden_cases
from tests.tables import tabled

FILE = "exposure_power.json"


def answer(tmp_path, sources, loads, **more) -> dict:
    path = tmp_path / "plan.json"
    path.write_text(json.dumps({"sources": sources, "loads": loads} | more))
    done = CliRunner().invoke(main, ["power", str(path), "--json"], prog_name="iron-bucket")
    assert done.exit_code == 0, done.output
    return json.loads(done.stdout)


@pytest.mark.parametrize(("given", "expected", "rel"), golden_cases(FILE, "circuit_count"))
def test_as_many_lamps_as_a_circuit_bears(tmp_path, given, expected, rel):
    for share, count in ((0.8, expected["fixtures_80_percent"]), (1.0, expected["fixtures_breaker"])):
        volts, breaker = given["volts"], given["breaker_A"]
        source = {"id": "c", "kind": "circuit", "voltage_v": volts, "breaker_a": breaker, "planned_share": share}
        lamp = {"watts": given["fixture_W"], "power_factor": given["power_factor"]}
        lamps = [{"id": str(at)} | lamp for at in range(count + 2)]
        found = answer(tmp_path, [source], lamps, share_out=True)
        assert len(found["unplaced"]) == 2
        assert found["sources"][0]["watts"] == pytest.approx(count * given["fixture_W"], rel=rel)
        assert (found["sources"][0]["within_limit"], found["gap"]) == (True, pytest.approx(0.0, abs=1e-3))


@pytest.mark.parametrize(("given", "expected", "rel"), golden_cases(FILE, "voltage_drop"))
def test_what_a_lead_takes(tmp_path, given, expected, rel):
    source = {"id": "c", "kind": "circuit", "voltage_v": given["volts"], "breaker_a": 100}
    cable = {"length_m": given["one_way_length_m"], "area_mm2": given["conductor_mm2"]}
    load = {"id": "l", "watts": given["volts"] * given["amps"], "curve": "filament", "fed_by": "c", "cable": cable}
    (found,) = answer(tmp_path, [source], [load])["loads"]
    for key, wanted in (
        ("drop_v", "drop_V"),
        ("volts_at_load", "volts_at_load"),
        ("tungsten_flux_share", "tungsten_flux_fraction"),
    ):
        assert found[key] == pytest.approx(expected[wanted], rel=rel)
    assert found["drop_share"] == pytest.approx(expected["drop_percent"] / 100.0, rel=rel)
    plain = answer(tmp_path, [source], [load | {"curve": "electronic"}])["loads"][0]
    assert (plain["tungsten_flux_share"], plain["amps"]) == (None, pytest.approx(given["amps"]))


@pytest.mark.parametrize(("given", "expected", "rel"), golden_cases(FILE, "three_phase_neutral"))
def test_three_legs_and_their_neutral(tmp_path, given, expected, rel):
    source = {"id": "b", "kind": "three_phase", "voltage_v": 230, "breaker_a": 63}
    loads = [
        {"id": leg, "watts": 230 * given[f"amps_{leg}"], "fed_by": "b", "leg": leg}
        for leg in "abc"
        if given[f"amps_{leg}"]
    ]
    (found,) = answer(tmp_path, [source], loads)["sources"]
    assert found["neutral_a"] == pytest.approx(expected["neutral_A"], rel=rel, abs=1e-6)
    assert found["imbalance_share"] == pytest.approx(expected["imbalance_percent"] / 100.0, rel=rel, abs=1e-9)
    assert (found["amps"], found["spare_a"]) == (expected["max_phase_A"], pytest.approx(50.4 - expected["max_phase_A"]))


@pytest.mark.parametrize(("given", "expected", "rel"), golden_cases(FILE, "battery_runtime"))
def test_how_long_a_battery_lasts(tmp_path, given, expected, rel):
    plate = {"capacity_wh": given["capacity_Wh"], "nominal_v": given["nominal_V"]}
    inside = {"usable": given["usable_fraction"], "efficiency": given["converter_efficiency"]}
    source = {"id": "v", "kind": "battery", "continuous_a": given["max_discharge_A"]} | plate | inside
    (found,) = answer(tmp_path, [source], [{"id": "l", "watts": given["load_W"], "fed_by": "v"}])["sources"]
    assert (found["amps"], found["delivers"]) == (pytest.approx(expected["battery_A"], rel=rel), expected["allowed"])
    assert found["runtime_h"] == pytest.approx(expected["runtime_h"] or 0.0, rel=rel)


@pytest.mark.parametrize(("given", "expected", "rel"), golden_cases(FILE, "generator_noise"))
def test_how_loud_a_generator_is(tmp_path, given, expected, rel):
    machine = {"kind": "generator", "voltage_v": 230, "continuous_w": 2000, "at_m": [given["distance_m"], 0]}
    levels = enumerate(given["levels_dBA_at_reference"])
    sources = [machine | {"id": str(at), "noise_dba": dba, "noise_at_m": given["reference_m"]} for at, dba in levels]
    found = [each["level_dba"] for each in answer(tmp_path, sources, [], microphone_m=[0, 0])["sources"]]
    together = 10.0 * math.log10(sum(10.0 ** (level / 10.0) for level in found))
    assert together == pytest.approx(expected["level_dBA"], rel=rel)
    assert answer(tmp_path, sources, [])["sources"][0]["level_dba"] is None


def test_each_kind_says_what_it_bears(tmp_path):
    """By hand: 9 A of ours beside 2 A on a breaker of 13, planned to 10.4; 2100 VA on 2000; 700 W on 600."""
    sources = [
        {"id": "ring", "kind": "circuit", "voltage_v": 230, "breaker_a": 13, "used_a": 2},
        {"id": "gen", "kind": "generator", "voltage_v": 120, "continuous_w": 2000, "peak_w": 2300},
        {"id": "box", "kind": "station", "capacity_wh": 1000, "continuous_w": 600, "surge_w": 800, "efficiency": 0.9},
        {"id": "spare", "kind": "station", "capacity_wh": 1000, "continuous_w": 600, "efficiency": 0.9},
    ]
    loads = [
        {"id": "a", "watts": 2070, "fed_by": "ring"},
        {"id": "b", "watts": 1995, "power_factor": 0.95, "fed_by": "gen"},
        {"id": "c", "watts": 700, "fed_by": "box"},
        {"id": "d", "watts": 300, "idle_w": 20, "level": 0.5, "fed_by": "spare"},
    ]
    ring, gen, box, spare = answer(tmp_path, sources, loads)["sources"]
    assert (ring["amps"], ring["limit_a"], ring["spare_a"]) == pytest.approx((9.0, 10.4, -0.6))
    assert [each["within_limit"] for each in (ring, gen, box, spare)] == [False, False, False, True]
    assert [each["within_breaker"] for each in (ring, gen, box, spare)] == [True] * 4
    assert (gen["amps"], gen["limit_a"]) == pytest.approx((17.5, 16.6666667))
    assert (box["delivers"], box["runtime_h"], box["amps"]) == (False, 0.0, None)
    assert (spare["delivers"], spare["watts"], spare["runtime_h"]) == (True, 160.0, pytest.approx(900.0 / 160.0))


@tabled
def test_what_is_no_plan_is_refused_in_a_sentence(tmp_path, text, sentence):
    path = tmp_path / "plan.json"
    path.write_text(text)
    done = CliRunner().invoke(main, ["power", str(path)], prog_name="iron-bucket")
    assert (done.exit_code != 0, sentence in done.output, "Traceback" in done.output) == (True, True, False), (
        done.output
    )
