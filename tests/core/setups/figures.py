"""Every figure that the set-ups of the demo come to, as rows that a file can hold.

``python -m tests.core.setups.figures`` writes ``tests/golden/set_ups.json`` anew; read what changed in it before you commit it.
"""

import json
from dataclasses import asdict, is_dataclass
from functools import cache
from pathlib import Path

import numpy as np

from iron_bucket.core.bucket.placed import placed_entries
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.place import Place
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.scene.scene import SceneLamp
from iron_bucket.core.selection.measured_gear import measured_gear
from iron_bucket.core.setups.evaluate.beams import beam_on_plan
from iron_bucket.core.setups.evaluate.cell import cell_of
from iron_bucket.core.setups.evaluate.faces import lit_faces
from iron_bucket.core.setups.evaluate.field import FieldPlane, level_field_lx
from iron_bucket.core.setups.evaluate.ladder import ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import LitScene, lit
from iron_bucket.core.setups.evaluate.spill import brightest_spill, level_on_wall_lx
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.plan.throws import throws_m
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.sheet.clearance import circuit_amps, clearance
from iron_bucket.core.setups.sheet.load_summary import load_summary
from iron_bucket.core.setups.sheet.moves import drifts, moves
from iron_bucket.core.setups.suggest.fixes import fixes_for
from iron_bucket.core.setups.suggest.presets import Preset, preset_setup
from iron_bucket.core.setups.suggest.set_levels import solved_setup
from iron_bucket.demo.files import demo_gear, demo_places, demo_readings, demo_setups
from iron_bucket.formats.change_json import with_changes
from iron_bucket.formats.record_json import read_record, write_record

FILE = Path(__file__).parents[2] / "golden" / "set_ups.json"
RULES = {
    UnitSystem.METRIC: HouseRules(),
    UnitSystem.IMPERIAL: HouseRules(units=UnitSystem.IMPERIAL, voltage_v=120, breaker_a=20),
}
GEAR = measured_gear(demo_gear(), demo_readings()).gear


@cache
def places() -> dict[str, Surroundings]:
    return {row["name"]: Surroundings(read_record(Place, row)) for row in demo_places()}


def passes() -> list[tuple[str, str, Setup, Setup | None]]:
    """Set-up and pass as a name, its place, what is placed, and the pass before."""
    found: list[tuple[str, str, Setup, Setup | None]] = []
    for wanted in demo_setups():
        document, before = None, None
        for each in wanted["passes"]:
            document = each if document is None else with_changes(document, each["changes"])
            setup = read_record(Setup, document)
            document = write_record(setup)
            found.append((f"{setup.name}, {setup.width.value} {len(found)}", wanted["place"], setup, before))
            before = setup
    return found


def plain(value: object) -> object:
    """As JSON has it, floats to six figures."""
    if isinstance(value, bool | str | int | None):
        return value
    if isinstance(value, float | np.floating):
        return float(f"{float(value):.6g}")
    if isinstance(value, np.ndarray):
        return plain(value.tolist())
    if isinstance(value, dict):
        return {str(key): plain(each) for key, each in value.items()}
    if isinstance(value, list | tuple):
        return [plain(each) for each in value]
    if is_dataclass(value):
        return plain(asdict(value))
    return str(value)


def evaluated(name: str) -> dict:
    """Everything of one pass."""
    _, place, setup, before = next(row for row in passes() if row[0] == name)
    rules = RULES[UnitSystem.IMPERIAL if place.startswith("Bookbinder") else UnitSystem.METRIC]
    now = lit(build_scene(setup, places()[place], GEAR, rules))
    return plain(of_pass(now, before, rules))


def of_pass(now: LitScene, before: Setup | None, rules: HouseRules) -> dict:
    setup, built = now.built.setup, now.built
    ladder = ladder_of(now, rules.receptor)
    faces = lit_faces(now)
    found: dict[str, object] = {
        "wanted": ladder.wanted_lx,
        "rungs": [
            (rung.mark_id, rung.kind.value, rung.stops, rung.illuminance_lx, rung.miss_stops) for rung in ladder.rungs
        ],
        "by light": now.by_light_lx,
        "first bounce": built.levels @ now.response.first_bounce_lx,
        "indirect": now.off_walls_lx,
        "faces": [{key: value for key, value in asdict(face).items() if key != "person"} for face in faces],
        "lights": [
            (light.light_id, light.cct_k, light.origin.value, light.level, light.lowest) for light in built.lights
        ],
        "fixture": [
            (light.fixture.axis_cd, light.fixture.size_m, light.fixture.watts(light.placed))
            for light in built.lights
            if light.fixture
        ],
        "load": load_summary(setup, GEAR, rules),
        "amps": circuit_amps(now),
        "throws": throws_m(setup),
        "cautions": [(each.code, each.title, each.trigger) for each in clearance(now, GEAR, rules)],
        "spill": brightest_spill(now, rules.receptor),
    }
    if ladder.rungs:
        dim = min(ladder.rungs, key=lambda rung: rung.stops)
        found["cells"] = [
            cell_of(now, light.light_id, dim.mark_id if dim.illuminance_lx else "", rules.units)
            for light in built.lights
        ]
    if before is not None:
        was = lit_faces(lit(build_scene(before, built.surroundings, GEAR, rules)))
        found["moves"], found["drifts"] = moves(before, setup, GEAR, rules.units), drifts(was, faces)
    found["beams"] = [
        _sizes(beam_on_plan(light.light, 1.0, ladder.wanted_lx / 4.0, built.scene))
        for light in built.lights
        if light.placed and isinstance(light.light, SceneLamp)
    ]
    sheet = (setup.camera.x_m - 5.0, setup.camera.y_m + 7.0, 10.0, 8.0)
    for plane in FieldPlane:
        found[f"over {plane.value}"] = level_field_lx(now, plane, sheet)[10::25, 12::34]
    if built.surroundings.rooms:
        found["over a wall"] = level_on_wall_lx(now, 0, 0)[5::15, 5::25]
    found["ways"] = [
        (
            way.text,
            way.stops,
            way.softness_deg,
            way.amps,
            way.weight_kg,
            way.day_price,
            sum(abs(each.stops) for each in way.others),
        )
        for rung in ladder.missed[:1]
        for way in fixes_for(now, rung, GEAR, rules)
    ]
    try:
        solved = solved_setup(now, rules.receptor)
        found["solved"] = [(each.piece_id, each.to) for each in solved.changes], solved.fights
    except NoAnswer as none:
        found["solved"] = str(none)
    return found


def _sizes(beam: object) -> list:
    """How far an outline reaches each way, and both angles."""
    half, tenth = beam.half_m, beam.tenth_m
    return [half.min(axis=0), half.max(axis=0), half.mean(axis=0), tenth.mean(axis=0), beam.half_deg, beam.tenth_deg]


def beginnings_in(place: str) -> dict:
    """Every arrangement to begin with in one place, as it stands, and what lights the place by itself in the morning."""
    found: dict[str, object] = {}
    around, (_, _, setup, _) = places()[place], passes()[0]
    for each in Preset:
        found[each.value] = write_record(
            preset_setup(each, "New", around, GEAR.in_use(), RULES[UnitSystem.METRIC], setup.look, setup.when)
        )
    found["there"] = [
        (each.name, each.cct_k, each.origin.value, _strength(each.light))
        for each in around.available_light(setup.when.replace(hour=9), setup.weather)
    ]
    return plain(found)


def _strength(light: object) -> object:
    return light.position_m if isinstance(light, SceneLamp) else [light.sky_cd_m2, light.ground_cd_m2]


def bucket() -> list:
    """What all set-ups of the demo need beyond an empty bucket."""
    entries = placed_entries([row[2] for row in passes()], GEAR, HouseRules().scrim_school, ())
    return plain(
        [
            (entry.item.slug, entry.quantity, entry.level, entry.fed_from.value, entry.area_m2, entry.setting)
            for entry in entries
        ]
    )


if __name__ == "__main__":
    rows = {name: evaluated(name) for name, *_ in passes()}
    starts = {place: beginnings_in(place) for place in places()}
    text = json.dumps({"passes": rows, "beginnings": starts, "bucket": bucket()}, ensure_ascii=False)
    FILE.write_text(text.replace('}, "', '},\n"') + "\n", encoding="utf-8")
