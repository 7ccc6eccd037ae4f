"""Each source of a pass as a bar: its loads as segments, the house's limit and the breaker as notches, the hardest
start as a thin outline. Everything is drawn once for a wide screen and once for a phone.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import swatch
from iron_bucket.core.power.job.load_board import BatteryBar, CircuitBar, LoadBoard
from iron_bucket.core.power.job.pass_loads import PassLoad
from iron_bucket.core.quantities import display

#: A letter's width in a segment, and what a segment needs beside its words.
_LETTER_PX, _ASIDE_PX = 6.6, 26.0
_NARROWEST_PX = 17.0
#: What lies beyond the breaker, or beyond what is drawn, before the bar ends.
_BEYOND = 1.12
WIDTHS = {"wide": 412.0, "phone": 340.0}


@dataclass(frozen=True, slots=True, kw_only=True)
class Segment:
    """One load on its bar, in pixels from the left; ``letter`` of a lamp, ``label``: its name as far as it fits."""

    load_id: str
    feed: str
    name: str
    words: str
    x: float
    width: float
    letter: str
    label: str
    colour: str
    is_chosen: bool
    is_pinned: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawnBar:
    """``used``: how far what hangs there already reaches; ``limit``, ``breaker``, ``start``: where the notches are,
    None where there is none.
    """

    width: float
    segments: tuple[Segment, ...]
    used: float
    limit: float | None
    breaker: float | None
    start: float | None
    end: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Marks:
    """What tells loads apart: letters and colours by their ids, which one is chosen, and which are pinned."""

    letters: Mapping[str, str]
    colours: Mapping[str, str]
    chosen: str
    pinned: frozenset[str]


def marks_of(
    board: LoadBoard, letters: Mapping[str, str], *, white: LightColour, chosen: str, pinned: frozenset[str]
) -> Marks:
    """Lamps in the colour of their light against the white balance."""
    colours = {
        load.load_id: swatch(load.fixture.colour(load.lamp), white)
        for load in board.loads
        if load.fixture and load.lamp
    }
    return Marks(letters=letters, colours=colours, chosen=chosen, pinned=pinned)


def circuit_bar(bar: CircuitBar, marks: Marks, width: float) -> DrawnBar:
    """In amps."""
    scale = width / (max(bar.circuit.breaker_a, bar.amps, bar.limit_a) * _BEYOND)
    sizes = [(load, bar.amps_of(load), f"{bar.amps_of(load):.1f} A") for load in bar.loads if load.watts > 0.0]
    drawn = _segments(sizes, bar.circuit.used_a * scale, scale, marks)
    return DrawnBar(
        width=width,
        segments=drawn,
        used=round(bar.circuit.used_a * scale, 1),
        limit=round(bar.limit_a * scale, 1),
        breaker=round(bar.circuit.breaker_a * scale, 1),
        start=round(min(bar.start_a * scale, width), 1) if bar.start_a > bar.amps * 1.02 else None,
        end=round(bar.amps * scale, 1),
    )


def battery_bar(bar: BatteryBar, marks: Marks, width: float) -> DrawnBar:
    """In watts, against what the batteries on lamps may give."""
    scale = width / (max(bar.most_w, bar.watts, 1.0) * _BEYOND)
    sizes = [(load, load.watts, f"{load.watts:.0f} W") for load in bar.loads if load.watts > 0.0]
    return DrawnBar(
        width=width,
        segments=_segments(sizes, 0.0, scale, marks),
        used=0.0,
        limit=None,
        breaker=round(bar.most_w * scale, 1) if bar.most_w else None,
        start=None,
        end=round(bar.watts * scale, 1),
    )


def _segments(
    sizes: Iterable[tuple[PassLoad, float, str]], start: float, scale: float, marks: Marks
) -> tuple[Segment, ...]:
    found, x = [], start
    for load, size, words in sizes:
        width = size * scale
        letter = marks.letters.get(load.load_id, "")
        level = f", at {display.share(load.lamp.level)}" if load.lamp else ""
        label = load.name if len(load.name) * _LETTER_PX + (_ASIDE_PX if letter else 8.0) <= width else ""
        found.append(
            Segment(
                load_id=load.load_id,
                feed=load.feed,
                name=load.name,
                words=f"{words}, {load.watts:.0f} W{level}",
                x=round(x, 1),
                width=round(max(width, 1.5), 1),
                letter=letter if width >= _NARROWEST_PX else "",
                label=label,
                colour=marks.colours.get(load.load_id, ""),
                is_chosen=load.load_id == marks.chosen,
                is_pinned=load.load_id in marks.pinned,
            )
        )
        x += width
    return tuple(found)
