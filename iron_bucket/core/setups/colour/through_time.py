"""The colours of the marks over the day, and the hour at which what was matched no longer does."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from iron_bucket.core.colour.gel_stacks import off_mired
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import Seen, seen_against
from iron_bucket.core.setups.colour.agree import Scene
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.evaluate.mark_colours import mark_colours
from iron_bucket.core.setups.scene.build_scene import build_scene

_FIRST_H, _LAST_H, _STEP = 5, 22, timedelta(minutes=30)


@dataclass(frozen=True, slots=True, kw_only=True)
class Moment:
    """A mark at a time: None in the dark. ``off``: mired from what it was at the hour of the set-up."""

    when: datetime
    illuminance_lx: float
    colour: LightColour | None
    seen: Seen | None
    off: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MarkDay:
    """``until``: the last time after the hour of the set-up at which the colour is within the tolerance of what it is
    then, and ``since``: the first before it; None where the day ends before.
    """

    mark_id: str
    name: str
    moments: tuple[Moment, ...]
    since: datetime | None
    until: datetime | None


def times_of(when: datetime) -> tuple[datetime, ...]:
    """Every half hour of its day from five to ten at night, and its own."""
    first = when.replace(hour=_FIRST_H, minute=0, second=0)
    steps = (first + _STEP * at for at in range((_LAST_H - _FIRST_H) * 2 + 1))
    return tuple(sorted({*steps, when}))


def through_the_day(scene: Scene, tolerance: float, times: Sequence[datetime] = ()) -> tuple[MarkDay, ...]:
    """Of every mark. Raises: BadValue for what cannot be put together."""
    built, own = scene.lit.built, scene.lit.built.setup.when
    white = built.setup.look.white
    every = tuple(times) or times_of(own)
    by_time = {}
    for when in every:
        then = build_scene(replace(built.setup, when=when), built.surroundings, scene.gear, scene.rules)
        by_time[when] = mark_colours(LitScene(built=then, banded=scene.response_for(then)))
    found = []
    for place, mark in enumerate(built.marks):
        now = by_time[own][place].colour if own in by_time else None
        moments = tuple(
            Moment(
                when=when,
                illuminance_lx=by_time[when][place].illuminance_lx,
                colour=by_time[when][place].colour,
                seen=_against(by_time[when][place].colour, white),
                off=_off(by_time[when][place].colour, now),
            )
            for when in every
        )
        found.append(
            MarkDay(
                mark_id=mark.mark.mark_id,
                name=mark.name,
                moments=moments,
                since=_leaves([each for each in reversed(moments) if each.when <= own], tolerance),
                until=_leaves([each for each in moments if each.when >= own], tolerance),
            )
        )
    return tuple(found)


def _against(colour: LightColour | None, white: LightColour) -> Seen | None:
    return None if colour is None else seen_against(colour, white)


def _off(colour: LightColour | None, now: LightColour | None) -> float | None:
    if colour is None or now is None:
        return None
    seen = seen_against(colour, now)
    return off_mired(seen.mired, seen.duv)


def _leaves(moments: list[Moment], tolerance: float) -> datetime | None:
    """The last time of a run from the set-up's own hour on; None where it holds to the end, or it is dark then."""
    last = None
    for each in moments:
        if each.off is not None and each.off > tolerance:
            return last
        last = each.when
    return None
