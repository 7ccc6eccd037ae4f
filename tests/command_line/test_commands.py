import json

import pytest
from click.testing import CliRunner

from iron_bucket.command_line.main import main
from tests.conftest import GOLDEN

F21 = str(GOLDEN / "photometric" / "f21.ies")


def run(*words: str):
    return CliRunner().invoke(main, list(words), prog_name="iron-bucket")


def test_photometry_answers_every_file_in_order():
    done = run(
        "photometry",
        "--json",
        "--at",
        "3",
        "--at",
        "12'6\"",
        F21,
        "gone.ies",
        str(GOLDEN / "photometric" / "m04_nan.ies"),
        str(GOLDEN / "photometric" / "f31.ldt"),
    )
    assert done.exit_code == 1
    first, gone, bad, last = (json.loads(line) for line in done.stdout.splitlines())
    assert list(first) == ["file", "format", "revision", "vertical_angles", "horizontal_angles", "photometry_type", "peak_cd", "peak_vertical_deg",
                           "peak_horizontal_deg", "axis_cd", "lumens", "beam_deg", "field_deg", "input_w", "lux_at"]  # fmt: skip
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


CAMERA = ("--t-stop", "2.8", "--iso", "800", "--shutter", "1/48")


@pytest.mark.parametrize(
    ("words", "expected"),
    [
        (CAMERA, {"illuminance_lx": 159.936}), ((*CAMERA, "--meter", "flat"), {"illuminance_lx": 117.6}), ((*CAMERA, "--nd", "2"), {"illuminance_lx": 639.744}),
        (("--t-stop", "T2.8", "--iso", "800", "--angle", "180", "--fps", "24"), {"illuminance_lx": 159.936}),
        (("--lux", "640", "--iso", "800", "--shutter", "1/48"), {"t_stop": 5.601120, "illuminance_lx": 640}),
        (("--lux", "640", "--t-stop", "2.8", "--shutter", "1/48"), {"iso": 199.92, "illuminance_lx": 640}),
        (("--lux", "640", "--t-stop", "2.8", "--iso", "800"), {"shutter_s": 0.00520625, "illuminance_lx": 640}),
        (("--lux", "640", "--t-stop", "2.8", "--iso", "800", "--fps", "24"), {"shutter_s": 0.00520625, "angle_deg": 44.982, "illuminance_lx": 640}),
        (("--lux", "640", *CAMERA), {"nd_stops": 2.000577, "illuminance_lx": 640}),
    ],
)  # fmt: skip
def test_exposure_both_ways(words, expected):
    # By hand from E = C N2 2^stops / (t S): 340 x 7.84 x 48 / 800 = 159.936.
    done = run("exposure", *words)
    assert done.exit_code == 0, done.output
    assert json.loads(done.stdout) == pytest.approx(expected, rel=1e-5)


@pytest.mark.parametrize(
    ("words", "sentence"),
    [
        (("exposure", "--t-stop", "fast"), "--t-stop is 'fast'; accepted: a stop such as"), (("exposure", "--iso", "800"), "--t-stop is missing"),
        (("exposure", *CAMERA, "--angle", "180"), "--angle is 180 beside --shutter"), (("exposure", "--t-stop", "2.8", "--iso", "800", "--angle", "180"), "--fps is missing"),
        (("exposure", "--lux", "640"), "exactly one of"), (("exposure", "--lux", "640", *CAMERA, "--nd", "1"), "exactly one of"),
        (("exposure", "--lux", "1", *CAMERA), "stops too little even without a filter"), (("photometry", "--at", "0", F21), "--at is 0; accepted: a distance above 0 m"),
        (("pick", "gone.json"), "gone.json cannot be read: No such file"), (("pick", F21), "need file, line 1"),
    ],
)  # fmt: skip
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
