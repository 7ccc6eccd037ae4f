"""What a scene's levels, and solved dimmers, are told as in JSON. The format is described in docs/scene-format.md."""

from collections.abc import Sequence
from typing import Any

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.scene.mark_levels import UnitResponse
from iron_bucket.core.scene.scene import Scene
from iron_bucket.core.scene.solve import SolvedLevels
from iron_bucket.formats.item_rows import Row


def levels_json(scene: Scene, found: UnitResponse) -> Row:
    """Every mark with what reaches it by each way, and how much of each lamp every frame catches.

    ``via`` null: straight from the lamp.
    """
    levels = np.array([lamp.level for lamp in scene.lamps])
    total, indirect, first = found.total_lx(levels), levels @ found.indirect_lx, levels @ found.first_bounce_lx
    return {
        "marks": [
            {
                "id": mark.mark_id,
                "illuminance_lx": float(total[at]),
                "by": _by(scene, found, levels, at),
                "indirect_lx": float(indirect[at]),
                "first_bounce_lx": float(first[at]),
            }
            for at, mark in enumerate(scene.marks)
        ],
        "frames": [
            {
                "id": frame.frame_id,
                "by": [
                    {"lamp": lamp.lamp_id, "share_caught": float(found.share_caught[which, of])}
                    for which, lamp in enumerate(scene.lamps)
                ],
            }
            for of, frame in enumerate(scene.frames)
        ],
    }


def _by(scene: Scene, found: UnitResponse, levels: Array, at: int) -> list[Row]:
    rows: list[Row] = []
    for which, lamp in enumerate(scene.lamps):
        rows.append(
            {"lamp": lamp.lamp_id, "via": None, "illuminance_lx": float(levels[which] * found.direct_lx[which, at])}
        )
        rows += [
            {
                "lamp": lamp.lamp_id,
                "via": frame.scatterer_id,
                "illuminance_lx": float(levels[which] * found.via_lx[which, of, at]),
            }
            for of, frame in enumerate(scene.scatterers)
        ]
    return rows


def solved_json(scene: Scene, names: Sequence[str], wanted_lx: Array, found: SolvedLevels) -> dict[str, Any]:
    """What ``iron-bucket solve`` tells. Shapes: wanted_lx (M,), as the names of the targets."""
    return {
        "lamps": [
            {"id": lamp.lamp_id, "level": float(level)} for lamp, level in zip(scene.lamps, found.levels, strict=True)
        ],
        "marks": [
            {
                "id": name,
                "wanted_lx": float(wanted_lx[at]),
                "illuminance_lx": float(found.illuminance_lx[at]),
                "miss_stops": float(found.miss_stops[at]),
                "least_lx": float(found.least_lx[at]),
                "most_lx": float(found.most_lx[at]),
                "fights": [names[other] for missed, other in found.fights if missed == at],
            }
            for at, name in enumerate(names)
        ],
    }
