"""What each part of the light costs: one set-up of 12 lamps and 4 frames in a room, and the same without that part.

Run: bin/benchmark costs. Measured in November 2026 on two cores: the whole 220 ms, 412 before rays were followed by
short loops; the walls are 181 of them, people in the way 19, frost that is not matt 60, all frames 154 (three of the
four, and so every series, 120), a dome in place of a flat receptor nothing that could be told; barn doors on all twelve
lamps are 34 ms more.
"""

from collections.abc import Callable
from dataclasses import replace

from benchmarks.measured import median_ms
from benchmarks.setups import a_place, a_setup
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.lobe import MATT_DEG
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.scene import Scene
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.demo.files import demo_gear

LAMPS, FRAMES = 12, 4


def main() -> None:
    """One line a part: with it, without it, and so much of the whole."""
    surroundings, gear = Surroundings(a_place()), demo_gear()
    grids, setup = surroundings.grids, a_setup(LAMPS, FRAMES)

    def built(receptor: Receptor = Receptor.DOME, of: Setup = setup) -> Scene:
        return build_scene(of, surroundings, gear, HouseRules(receptor=receptor)).scene

    def took_ms(scene: Scene, *, with_walls: bool = True) -> float:
        work: Callable[[], object] = lambda: unit_response(scene, grids, with_walls=with_walls, fineness=SET)  # noqa: E731
        return median_ms(work, runs=7)

    scene = built()
    whole = took_ms(scene)
    print(f"{LAMPS} lamps, {FRAMES} frames, {len(scene.marks)} marks: {whole:.0f} ms")
    cut = replace(setup, lamps=tuple(replace(each, doors_deg=(20.0, 90.0, 90.0, 90.0)) for each in setup.lamps))
    for name, without in (
        ("a dome in place of a flat receptor", took_ms(built(Receptor.FLAT))),
        ("the walls", took_ms(scene, with_walls=False)),
        ("people in the way", took_ms(replace(scene, solids=()))),
        ("lobes of frost", took_ms(replace(scene, frames=tuple(replace(f, lobe_deg=MATT_DEG) for f in scene.frames)))),
        ("three of the frames, and all series", took_ms(replace(scene, frames=scene.frames[:1]))),
        ("every frame", took_ms(replace(scene, frames=()))),
    ):
        print(f"{name}: {whole - without:.0f} ms, {without:.0f} without")
    print(f"barn doors on every lamp: {took_ms(built(of=cut)) - whole:.0f} ms more")


if __name__ == "__main__":
    main()
