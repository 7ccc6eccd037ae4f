"""Marks whose colour is not what it should be: by how much, because of what, and what would put it right."""

from collections.abc import Mapping
from dataclasses import dataclass

from iron_bucket.core.colour.gel_stacks import off_mired
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import Seen, seen_against
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.evaluate.mark_colours import LightThere, MarkColour, mark_colours
from iron_bucket.core.setups.plan.setup import ColourTarget

#: From here on a light arrives otherwise than it left: something tinted lies on its way.
_TINTED_MIRED = 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ColourMiss:
    """``left``: how far the mark is from its target; ``is_missed``: beyond the tolerance. ``cause`` and ``correction``
    in words, empty where it is met.
    """

    target: ColourTarget
    name: str
    seen: Seen
    left: Seen
    is_missed: bool
    cause: str = ""
    correction: str = ""


def colour_misses(lit: LitScene, names: Mapping[str, str]) -> tuple[ColourMiss, ...]:
    """Of every colour target whose mark is there and lit."""
    targets = lit.built.setup.colour_targets
    if not targets:
        return ()
    marks, white = mark_colours(lit), lit.built.setup.look.white
    found = []
    for target in targets:
        place = lit.place_of(target.mark)
        mark = None if place is None else marks[place]
        if mark is None or mark.colour is None or not mark.colour.is_white:
            continue
        wanted = white.shifted(target.mired, target.duv)
        left = seen_against(mark.colour, wanted)
        is_missed = off_mired(left.mired, left.duv) > target.tolerance
        cause, correction = _because(mark, wanted, left) if is_missed else ("", "")
        found.append(
            ColourMiss(
                target=target,
                name=names.get(target.mark, target.mark),
                seen=seen_against(mark.colour, white),
                left=left,
                is_missed=is_missed,
                cause=cause,
                correction=correction,
            )
        )
    return tuple(found)


def _because(mark: MarkColour, wanted: LightColour, left: Seen) -> tuple[str, str]:
    """The light that pulls most to that side, and how far it would have to be shifted."""

    def pull(each: LightThere) -> float:
        seen = seen_against(each.colour, wanted)
        along = seen.mired * left.mired + (seen.duv * left.duv) / (2e-4) ** 2 if each.colour.is_white else 1e9
        return each.share * along

    worst = max(mark.lights, key=pull)
    seen = seen_against(worst.colour, wanted)
    cause = f"{worst.light.name} arrives {seen.words}, {worst.share * 100.0:.0f} % of the light there"
    own = worst.light.colour
    if own.is_white and worst.colour.is_white:
        way = seen_against(worst.colour, own)
        if off_mired(way.mired, way.duv) > _TINTED_MIRED:
            cause += f"; of that {way.words} off tinted walls, boards or glass"
    shift = Seen(mired=-left.mired / worst.share, duv=-left.duv / worst.share)
    return cause, f"{worst.light.name} {shift.words}" if shift.words != "neutral" else ""
