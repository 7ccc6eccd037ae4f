"""Lights and marks over warmth and tint, the white balance in the middle, and where a plan takes each light."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from iron_bucket.core.colour.gel_stacks import DUV_A_MIRED
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import Seen, seen_against, swatch
from iron_bucket.core.quantities import display
from iron_bucket.core.setups.colour.agree import SourcePlan
from iron_bucket.core.setups.evaluate.mark_colours import MarkColour

WIDTH, HEIGHT = 460.0, 300.0
#: What the picture reaches; beyond it a sign stands at the edge.
_MIRED, _DUV = 220.0, 0.03
_EDGE = 14.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Spot:
    """A sign on the picture; ``to_x`` and ``to_y``: where it goes, the same where it stays."""

    letter: str
    name: str
    words: str
    colour: str
    x: float
    y: float
    to_x: float
    to_y: float
    is_mark: bool

    @property
    def moves(self) -> bool:
        """Whether an arrow is drawn."""
        return abs(self.to_x - self.x) + abs(self.to_y - self.y) > 6.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ColourPicture:
    """``near_x`` and ``near_y``: half axes of what is near enough."""

    spots: tuple[Spot, ...]
    near_x: float
    near_y: float
    ticks_x: tuple[tuple[float, str], ...]
    ticks_y: tuple[tuple[float, str], ...]
    description: str


def colour_picture(
    marks: Sequence[MarkColour],
    sources: Sequence[SourcePlan],
    letters: Mapping[str, str],
    white: LightColour,
    tolerance: float,
) -> ColourPicture:
    """Marks as dots, lights as letters."""
    spots = [
        _spot("", mark.name, mark.colour, mark.colour, white, is_mark=True)
        for mark in marks
        if mark.colour is not None and mark.colour.is_white
    ]
    for source in sources:
        letter = letters.get(source.light.light_id, source.light.name[:1].upper())
        spots.append(_spot(letter, source.light.name, source.light.colour, source.taken.colour, white, is_mark=False))
    told = "; ".join(f"{each.name}: {each.words}" for each in spots if not each.is_mark)
    return ColourPicture(
        spots=tuple(spots),
        near_x=tolerance / _MIRED * (WIDTH / 2.0 - _EDGE),
        near_y=tolerance * DUV_A_MIRED / _DUV * (HEIGHT / 2.0 - _EDGE),
        ticks_x=tuple((_across(each), display.signed(each)) for each in (-200.0, -100.0, 100.0, 200.0)),
        ticks_y=tuple((_up(each), display.signed(each, 2)) for each in (-0.02, 0.02)),
        description=f"Lights against the white balance. {told}.",
    )


def _spot(
    letter: str, name: str, colour: LightColour, after: LightColour, white: LightColour, *, is_mark: bool
) -> Spot:
    now, then = seen_against(colour, white), seen_against(after, white)
    x, y = _place(now)
    to_x, to_y = _place(then)
    return Spot(
        letter=letter,
        name=name,
        words=now.words,
        colour=swatch(colour, white),
        x=x,
        y=y,
        to_x=to_x,
        to_y=to_y,
        is_mark=is_mark,
    )


def _place(seen: Seen) -> tuple[float, float]:
    mired = seen.mired if seen.mired == seen.mired else _MIRED  # NaN: at the edge
    return round(_across(min(max(mired, -_MIRED), _MIRED)), 1), round(_up(min(max(seen.duv, -_DUV), _DUV)), 1)


def _across(mired: float) -> float:
    return WIDTH / 2.0 + mired / _MIRED * (WIDTH / 2.0 - _EDGE)


def _up(duv: float) -> float:
    return HEIGHT / 2.0 - duv / _DUV * (HEIGHT / 2.0 - _EDGE)
