"""Times colours: bands against one band, the table of a set-up, a whole plan, and what a start imports.

Run: bin/benchmark colour
"""

import gc
import statistics
import subprocess
import sys
from dataclasses import replace

import numpy as np

from benchmarks.bucket import RULES, a_setup
from benchmarks.measured import median_ms
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.modifiers.kinds import Sheet, SheetKind
from iron_bucket.core.places.place import Place, Room
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import banded_response, unit_response
from iron_bucket.core.setups.colour.agree import Scene, School, agreeing
from iron_bucket.core.setups.colour.ways import GelStock
from iron_bucket.core.setups.evaluate.lit_scene import LitScene, fresh_response
from iron_bucket.core.setups.evaluate.mark_colours import mark_colours
from iron_bucket.core.setups.plan.setup import Person, Setup
from iron_bucket.core.setups.scene.build_scene import BuiltScene, build_scene
from iron_bucket.demo.files import demo_gear

LAMPS, FRAMES, GELS = 12, 4, 40


def a_tinted_hall() -> Surroundings:
    """Ten by eight metres of tinted surfaces."""
    room = Room(
        room_id="r",
        name="Hall",
        corners=((0.0, 0.0), (10.0, 0.0), (10.0, 8.0), (0.0, 8.0)),
        height_m=4.0,
        walls=("pink tile", "green tile", "brick", "cream paint"),
    )
    return Surroundings(Place(name="Hall", rooms=(room,)))


def a_crowded_setup(gear: Gear, chance: np.random.Generator) -> Setup:
    """Twelve lamps, four frames, two people."""
    whole = a_setup(0, gear, chance, LAMPS)
    near = [replace(each, x_m=each.x_m / 2.0, y_m=each.y_m / 2.0) for each in whole.lamps]
    frames = [replace(each, x_m=each.x_m / 2.0, y_m=each.y_m / 2.0) for each in (*whole.frames, whole.frames[0])]
    frames[-1] = replace(frames[-1], piece_id="frame-last", x_m=frames[-1].x_m + 0.4)
    people = tuple(
        Person(piece_id=f"p{at}", name=f"P{at}", x_m=3.0 + 2 * at, y_m=4.0, z_m=1.6, bearing_deg=180.0)
        for at in range(2)
    )
    return replace(whole, lamps=tuple(near), frames=tuple(frames), flags=(), people=people)


def many_gels(gear: Gear, chance: np.random.Generator) -> Gear:
    """Forty of them, of any shift."""
    made = tuple(
        Sheet(
            slug=f"gel-{at}",
            name=f"gel {at}",
            maker="",
            weight_kg=0.05,
            owned=4,
            kind=SheetKind.COLOUR,
            transmittance=Figure(value=float(chance.uniform(0.3, 0.95)), origin=Origin.TYPICAL),
            shift_mired=float(chance.uniform(-160.0, 160.0)),
            tint=float(chance.choice([-0.5, 0.0, 0.5])),
        )
        for at in range(GELS)
    )
    return replace(gear, sheets=(*(each for each in gear.sheets if not each.kind.is_colour), *made))


def times_of_bands(built: BuiltScene) -> list[tuple[float, float]]:
    """One band, then three, in ms, by turns, for a machine's speed swings within seconds; the rooms solved before."""
    grids = built.surroundings.grids
    return [
        (
            median_ms(lambda: unit_response(built.scene, grids, fineness=SET), runs=3),
            median_ms(lambda: banded_response(built.scene, grids, fineness=SET), runs=3),
        )
        for _ in range(7)
    ]


def main() -> None:
    """A line each."""
    chance = np.random.default_rng(2)
    gear, around = demo_gear(), a_tinted_hall()
    gc.collect()
    gc.freeze()  # as every worker of the server does
    built = build_scene(a_crowded_setup(gear, chance), around, gear, RULES)
    pairs = times_of_bands(built)
    one, three = (statistics.median(each) for each in zip(*pairs, strict=True))
    times = statistics.median(after / before for before, after in pairs)
    print(f"{LAMPS} lamps, {FRAMES} frames: one band {one:.0f} ms, three {three:.0f} ms, {times:.2f} times")
    lit = LitScene(built=built, banded=fresh_response(built))
    _ = lit.response
    print(f"colours at {len(built.marks)} marks: {median_ms(lambda: mark_colours(lit)):.1f} ms")
    stocked = many_gels(gear, chance)
    scene = Scene(lit=lit, gear=stocked, rules=RULES, response_for=lambda _: lit.banded, stock=GelStock(gear=stocked))
    white = built.setup.look.white

    def plan() -> object:
        fresh = replace(scene, stock=GelStock(gear=stocked))
        return agreeing(fresh, white, 15.0, (School.GEL,))

    print(f"a plan for {LAMPS} lamps over {GELS} gels in stacks of two, levels at hand: {median_ms(plan):.0f} ms")
    imported = "import iron_bucket.web.app, sys; print('colour' in sys.modules)"
    found = subprocess.run([sys.executable, "-c", imported], capture_output=True, text=True, check=True).stdout.strip()
    print(f"the pages start {'with' if found == 'True' else 'without'} the colour library")


if __name__ == "__main__":
    main()
