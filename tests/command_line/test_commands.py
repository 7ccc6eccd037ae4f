import json

import pytest
from click.testing import CliRunner

from iron_bucket.command_line.main import main
from tests.conftest import GOLDEN
from tests.tables import table, tabled

F21 = str(GOLDEN / "photometric" / "f21.ies")


def run(*words: str):
    return CliRunner().invoke(main, list(words), prog_name="iron-bucket")


def test_photometry_answers_every_file_in_order():
    nan, last = (str(GOLDEN / "photometric" / name) for name in ("m04_nan.ies", "f31.ldt"))
    done = run("photometry", "--json", "--at", "3", "--at", "12'6\"", F21, "gone.ies", nan, last)
    assert done.exit_code == 1
    first, gone, bad, last = (json.loads(line) for line in done.stdout.splitlines())
    assert list(first) == table(__file__, "test_photometry_answers_every_file_in_order", list)
    assert (first["file"], first["revision"], first["vertical_angles"], first["input_w"]) == (F21, "1986", 91, 575.0)
    assert first["lux_at"] == {"3": pytest.approx(950.0), "12'6\"": pytest.approx(8550 / 3.81**2)}
    assert gone == {"file": "gone.ies", "error": "the file cannot be opened: No such file or directory"}
    assert bad["error"] == "LM-63, line 10: 'nan' is not a number"
    assert (last["format"], last["revision"]) == ("EULUMDAT", None)


def test_photometry_in_words():
    done = run("photometry", "--at", "5", F21)
    assert done.exit_code == 0
    assert "peak 8,550 cd, 2,559 lm, beam 30.0° × 30.0°, 342 lx at 5" in done.stdout
    assert "file cannot be opened" in run("photometry", "gone\0.ies").output


@tabled
def test_exposure_both_ways(words, expected):
    # By hand from E = C N2 2^stops / (t S): 340 x 7.84 x 48 / 800 = 159.936.
    done = run("exposure", *words)
    assert done.exit_code == 0, done.output
    assert json.loads(done.stdout) == pytest.approx(expected, rel=1e-5)


@tabled
def test_bad_input_is_one_plain_sentence(words, sentence):
    done = run(*words)
    assert done.exit_code != 0
    assert sentence in done.output
    assert "Traceback" not in done.output


def test_pick_from_files(tmp_path):
    need, gear = tmp_path / "need.json", tmp_path / "gear.json"
    need.write_text('{"illuminance_lx": 640, "throw_m": 3, "width_m": 1.5, "cct_k": 5600, "technologies": ["HMI"]}')
    gear.write_text(run("gear", "export").stdout)
    from_demo, from_file = (
        json.loads(run("pick", str(need), *words, "--limit", "3").stdout) for words in ((), ("--gear", str(gear)))
    )
    assert from_demo == from_file
    assert len(from_demo["fits"]) == len(from_demo["passed_over"]) == 3
    assert from_demo["tried"] == from_demo["fitting"] + sum(from_demo["reasons"].values())


def test_pick_lists_every_one_when_asked(tmp_path):
    need, gear = tmp_path / "need.json", tmp_path / "gear.json"
    need.write_text('{"illuminance_lx": 640, "throw_m": 3}')
    whole = json.loads(run("gear", "export").stdout)
    gear.write_text(json.dumps(whole | {kind: [] for kind in ("sheets", "faces", "grids", "cloths", "boards")}))
    answer = json.loads(run("pick", str(need), "--gear", str(gear), "--all", "--sort", "weight").stdout)
    assert answer["tried"] == len(answer["fits"]) + len(answer["passed_over"])
    weights = [fit["weight_kg"] for fit in answer["fits"]]
    assert weights == sorted(weights)


SCENE = table(__file__, "SCENE")


def level_of(tmp_path, scene, *options):
    (tmp_path / "scene.json").write_text(scene if isinstance(scene, str) else json.dumps(scene))
    return CliRunner().invoke(main, ["level", str(tmp_path / "scene.json"), *options])


def test_the_levels_of_a_scene(tmp_path):
    answer = level_of(tmp_path, SCENE, "--json")
    found = json.loads(answer.stdout)
    (mark,) = found["marks"]
    assert mark["illuminance_lx"] == pytest.approx(146.47355 / 2, rel=0.001)  # the reference frame, the lamp at half
    assert [(each["lamp"], each["via"]) for each in mark["by"]] == [("A", None), ("A", "F")]
    assert (mark["indirect_lx"], mark["first_bounce_lx"]) == (0.0, 0.0)
    assert found["frames"][0]["by"][0]["share_caught"] == pytest.approx(0.67095387, rel=0.001)
    assert "face: 73.24 lx (A via F 73.24)" in level_of(tmp_path, SCENE).stdout


def test_faces_files_solids_and_rooms_in_a_scene(tmp_path):
    (tmp_path / "lamp.ies").write_bytes((GOLDEN / "photometric" / "f30.ies").read_bytes())
    walls = dict.fromkeys(("x0", "x1", "y0", "y1", "floor", "ceiling"), 0.5)
    scene = {
        "lamps": table(__file__, "test_faces_files_solids_and_rooms_in_a_scene", list),
        "solids": table(__file__, "test_faces_files_solids_and_rooms_in_a_scene 2", list),
        "room": {"dimensions_m": [4, 4, 3], "reflectances": walls},
        "marks": [{"id": "m", "position_m": [1, 1, 0.5], "normal": [0, 0, 1]}],
    }
    (mark,) = json.loads(level_of(tmp_path, scene, "--json").stdout)["marks"]
    by = {each["lamp"]: each["illuminance_lx"] for each in mark["by"]}
    assert by["file"] == pytest.approx(1500 / 2.25, rel=1e-6)
    assert by["disc"] > 0
    assert mark["indirect_lx"] > mark["first_bounce_lx"] > 0
    assert mark["illuminance_lx"] == pytest.approx(sum(by.values()) + mark["indirect_lx"])
    assert "off the walls" in level_of(tmp_path, scene).stdout


@tabled
def test_a_scene_that_cannot_be_reckoned(tmp_path, change, sentence):
    answer = level_of(tmp_path, change if isinstance(change, str) else SCENE | change, "--json")
    assert answer.exit_code == 1
    assert sentence in answer.stderr
    assert "Traceback" not in answer.stderr


def solve_of(tmp_path, scene, *options):
    (tmp_path / "scene.json").write_text(json.dumps(scene))
    return CliRunner().invoke(main, ["solve", str(tmp_path / "scene.json"), *options])


TWO_MARKS = SCENE | {
    "lamps": [{**SCENE["lamps"][0], "level": 1.0}, {**SCENE["lamps"][0], "id": "B", "level": 0.0}],
    "marks": [*SCENE["marks"], {"id": "lap=1", "position_m": [0, 0, 2], "normal": [0, 0, -1]}],
}


def test_dimmers_for_a_level_at_a_mark(tmp_path):
    """The reference frame gives 146.5 lx at full, so 36.6 lx is a quarter, two stops down."""
    answer = solve_of(tmp_path, TWO_MARKS, "--want", "face=36.618 lx")
    assert answer.stdout.splitlines() == ["A: 25 %, -2.0 stops", "B: off", "face: 36.62 lx, as wanted"]
    found = json.loads(solve_of(tmp_path, TWO_MARKS, "--want", "face=36.618", "--json").stdout)
    assert [lamp["level"] for lamp in found["lamps"]] == [pytest.approx(0.25, rel=1e-3), 0.0]
    (mark,) = found["marks"]
    assert (mark["id"], mark["wanted_lx"], mark["fights"]) == ("face", 36.618, [])
    assert mark["most_lx"] == pytest.approx(146.47355, rel=1e-3)
    assert mark["least_lx"] == pytest.approx(1.4647355, rel=1e-3)


def test_wishes_that_fight_are_named_and_lamps_that_reach_no_further(tmp_path):
    fighting = solve_of(tmp_path, TWO_MARKS, "--want", "face=20", "--want", "lap=1=80").stdout
    assert "face: 40 lx, 1.0 stop over: fights lap=1" in fighting
    assert "lap=1: 40 lx, 1.0 stop short: fights face" in fighting
    weak = solve_of(tmp_path, TWO_MARKS, "--want", "face=600", "--lowest", "0.1").stdout
    assert "face: 146.5 lx, 2.0 stop short: the lamps reach from 14.65 to 146.5 lx there" in weak


@tabled
def test_a_wish_that_cannot_be_solved(tmp_path, options, sentence):
    answer = solve_of(tmp_path, TWO_MARKS, *options)
    assert answer.exit_code == 1
    assert sentence in answer.stderr


def test_colour_answers_every_file_in_order():
    first, tube = (str(GOLDEN / "spectra" / name) for name in ("A.csv", "FL3.csv"))
    done = run("colour", "--json", first, "gone.csv", F21, tube)
    assert done.exit_code == 1
    answers = [json.loads(line) for line in done.stdout.splitlines()]
    keys = ["file", "cct_k", "duv", "cri_ra", "cri_r9", "tm30_rf", "tm30_rg", "similarity_3200k", "similarity_d55"]
    assert [list(each) for each in answers] == [keys, ["file", "error"], ["file", "error"], keys]
    wanted = {each["name"]: each["expected"] for each in json.loads((GOLDEN / "colour.json").read_text())["spectra"]}
    for answer, name in ((answers[0], "A"), (answers[3], "FL3")):
        for key, of in zip(keys[1:], ("cct", "duv", "ra", "r9", "rf", "rg", "ssi_3200K", "ssi_D55"), strict=True):
            assert answer[key] == pytest.approx(wanted[name][of]["value"], abs=wanted[name][of]["abs_tol"]), key
    said = run("colour", tube)
    assert (said.exit_code, "3447 K" in said.stdout, "R9 -102" in said.stdout) == (0, True, True)
    assert "cannot be opened" in run("colour", "gone\0.csv").output


def test_sun_and_moon_over_a_place():
    here = ("--lat", "52.1", "--lon", "-1.3")
    sun = json.loads(run("sun", *here, "--at", "2026-11-26T12:00:00+01:00", "--json").stdout)
    # Source: the almanac's low-precision formulas by hand.
    assert (sun["azimuth_deg"], sun["altitude_deg"]) == (
        pytest.approx(167.26, abs=0.02),
        pytest.approx(16.02, abs=0.02),
    )
    assert sun["apparent_altitude_deg"] - sun["altitude_deg"] == pytest.approx(3.4 / 60.0, abs=0.002)
    day = json.loads(run("sun", *here, "--day", "2026-06-21", "--json").stdout)
    assert (day["sunrise"][:16], day["sunset"][:16]) == ("2026-06-21T03:44", "2026-06-21T20:29")
    polar = json.loads(run("sun", "--lat", "78", "--lon", "15", "--day", "2026-06-21", "--json").stdout)
    assert set(polar.values()) == {None}
    moon = json.loads(run("moon", *here, "--at", "2026-11-24T14:53:00Z", "--json").stdout)
    assert set(moon) == {"azimuth_deg", "altitude_deg", "illuminated_share"}
    assert moon["illuminated_share"] == pytest.approx(1.0, abs=0.005)
    assert "never that day" in run("sun", "--lat", "78", "--lon", "15", "--day", "2026-06-21").stdout
    for wrong, words in (
        (("sun", *here), "--at and --day is both or neither"),
        (("sun", *here, "--at", "noon"), "a time such as"),
        (("sun", *here, "--day", "21 June"), "a day such as"),
        (("moon", "--lat", "91", "--lon", "0", "--at", "2026-11-26"), "latitude is 91.0; accepted: -90 to 90 degrees"),
    ):
        refused = run(*wrong)
        assert (refused.exit_code, words in refused.output) == (1, True)


def test_gels_from_one_temperature_to_another():
    done = json.loads(run("gel", "--from", "5600", "--to", "3200", "--json").stdout)
    assert done["wanted_mired"] == pytest.approx(133.928571)
    best = done["stacks"][0]
    # Two quarters, 128 mired, lose less light than a half and an eighth; full orange is 25 too warm.
    assert best["gels"] == ["quarter orange", "quarter orange"]
    assert (best["shift_mired"], best["residual_mired"]) == (128.0, pytest.approx(-5.928571))
    assert best["loss_stops"] == pytest.approx(0.608012)
    close = json.loads(run("gel", "--from", "5600", "--to", "3200", "--tolerance", "2", "--json").stdout)["stacks"][0]
    assert close["gels"] == ["half orange", "eighth orange"]
    green = json.loads(run("gel", "--from", "4000", "--to", "4000", "--tint", "0.01", "--json").stdout)["stacks"][0]
    assert (green["gels"], green["residual_duv"]) == (
        ["quarter minus green"] * 2,
        0.0,
    )  # 0.85 twice is more than 0.7 once
    assert "quarter orange + quarter orange" in run("gel", "--from", "5600", "--to", "3200").stdout
