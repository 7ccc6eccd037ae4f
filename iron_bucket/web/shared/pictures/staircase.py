"""The chain as a staircase: heavy treads down from the bare head, against the dotted line of what is wanted."""

import textwrap
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.selection.chain import Chain

LABEL_LETTERS = 17
LABEL_LINES = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Tread:
    """One step: a heavy line from x to x + width at y, its change above, its name below, in as many lines as fit."""

    x: float
    y: float
    width: float
    change: str
    name: str
    label: tuple[str, ...]
    origin: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Staircase:
    """A whole picture, in its own units. ``path``: the treads and risers in one, for the small version."""

    width: float
    height: float
    treads: tuple[Tread, ...]
    target_y: float
    foot_y: float
    wanted: str
    ends_at: str
    path: str
    description: str


def staircase(chain: Chain, units: UnitSystem, *, width: float, height: float, top: float, foot: float) -> Staircase:
    """Places for a chain; ``top`` and ``foot`` are the room kept for labels."""
    levels = np.log2([step.illuminance_lx for step in chain.steps])
    wanted = float(np.log2(chain.wanted_lx))
    high, low = max(float(levels.max()), wanted), min(float(levels.min()), wanted)
    span = max(high - low, 1.0)
    tread = width / len(levels)

    def place(level: float) -> float:
        return round(top + (high - level) / span * (height - top - foot), 1)

    treads = tuple(
        Tread(
            x=round(index * tread, 1),
            y=place(float(level)),
            width=round(tread, 1),
            name=step.label,
            label=tuple(textwrap.wrap(step.label, LABEL_LETTERS, max_lines=LABEL_LINES, placeholder=" …")),
            origin=step.origin.value,
            change=(
                str(display.illuminance(step.illuminance_lx, units)) if index == 0 else display.stops(step.stops).value
            ),
        )
        for index, (level, step) in enumerate(zip(levels, chain.steps, strict=True))
    )
    path = "M" + " ".join(
        f"{each.x} {each.y} H{round(each.x + each.width, 1)}"
        + (f" V{treads[place_ + 1].y} M" if place_ + 1 < len(treads) else "")
        for place_, each in enumerate(treads)
    )
    words = "; ".join(
        f"{step.label} {display.stops(step.stops)}, {display.illuminance(step.illuminance_lx, units)}"
        for step in chain.steps
    )
    return Staircase(
        width=width,
        height=height,
        treads=treads,
        target_y=place(wanted),
        foot_y=height - foot,
        path=path.rstrip(" M"),
        wanted=str(display.illuminance(chain.wanted_lx, units)),
        ends_at=str(display.illuminance(chain.steps[-1].illuminance_lx, units)),
        description=(
            f"Chain from the head to the subject: {words}. Wanted {display.illuminance(chain.wanted_lx, units)}."
        ),
    )
