"""How far what is placed stands from what it lights."""

import math

from iron_bucket.core.setups.plan.setup import Setup


def throws_m(setup: Setup) -> dict[str, float]:
    """Of each lamp, frame and flag by its id: to what it aims at, else to the first person; without either it has
    none.
    """
    first = setup.people[0] if setup.people else None
    found = {}
    for piece in (*setup.lamps, *setup.frames, *setup.flags):
        followed = setup.find(getattr(piece, "aims_at", ""))
        mark = followed[1] if followed else first
        if mark is not None:
            found[piece.piece_id] = math.dist((piece.x_m, piece.y_m, piece.z_m), (mark.x_m, mark.y_m, mark.z_m))
    return found
