"""Times scenes: the table of marks and lamps, the radiosity of a room, and levels alone. Run: bin/benchmark scene"""

import numpy as np

from benchmarks.measured import median_ms
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.distribution import CosinePower
from iron_bucket.core.scene.box_room import BoxRoom
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.room_grid import RoomGrid
from iron_bucket.core.scene.scene import Mark, Scene, SceneFrame, SceneLamp, direction

SIZE_M = (9.0, 7.0, 3.5)
MARKS = 24


def a_scene(lamps: int, frames: int, room: BoxRoom | None) -> Scene:
    """Lamps along one wall, frames before the first of them, marks across the middle."""
    aims = [direction("aim", np.array([0.1 * (at % 3 - 1), 1.0, -0.2])) for at in range(lamps)]
    return Scene(
        lamps=tuple(
            SceneLamp(
                lamp_id=f"lamp {at}",
                position_m=np.array([0.5 + 8.0 * at / lamps, 0.5, 2.8]),
                aim=aims[at],
                intensity=CosinePower(peak_cd=10_000.0, exponent=4.0),
            )
            for at in range(lamps)
        ),
        frames=tuple(
            SceneFrame(
                frame_id=f"frame {at}",
                panel=Panel(
                    centre_m=np.array([1.0 + 2.0 * at, 2.0, 2.0]),
                    side_x=np.array([1.0, 0.0, 0.0]),
                    side_y=np.array([0.0, 0.0, 1.0]),
                    width_m=1.2,
                    height_m=1.2,
                ),
                transmittance=0.4,
            )
            for at in range(frames)
        ),
        rooms=(room,) if room else (),
        marks=tuple(
            Mark(
                mark_id=f"mark {at}",
                position_m=np.array([0.5 + 8.0 * at / MARKS, 5.0, 1.6]),
                normal=np.array([0.0, -1.0, 0.0]),
            )
            for at in range(MARKS)
        ),
    )


def main() -> None:
    """Prints one line a timing."""
    for lamps, frames in ((3, 1), (12, 4), (24, 4), (12, 8)):
        scene = a_scene(lamps, frames, None)
        took = median_ms(lambda scene=scene: unit_response(scene, fineness=SET))
        print(f"{MARKS} marks, {lamps:2} lamps, {frames} frames: {took:6.1f} ms")
    room = BoxRoom(dimensions_m=SIZE_M, reflectances=(0.5, 0.5, 0.6, 0.4, 0.2, 0.7))
    print(f"radiosity of a room, once: {median_ms(lambda: RoomGrid.of(room)):.1f} ms")
    grid = RoomGrid.of(room)
    scene = a_scene(12, 4, room)
    print(
        "that room with 12 lamps and 4 frames moved in it:"
        f" {median_ms(lambda: unit_response(scene, [grid], fineness=SET), runs=3):.1f} ms"
    )
    response, levels = unit_response(scene, [grid], fineness=SET), np.linspace(0.1, 1.0, 12)
    print(f"levels alone: {median_ms(lambda: response.total_lx(levels)):.3f} ms")


if __name__ == "__main__":
    main()
