"""Ticking a kit out and back: what was pulled, loaded, on set, wrapped, returned, and what came back otherwise.

A tick says so many more, or fewer; its id is made where it was pressed, so that one that is sent twice counts once, and
the order in which they come in does not matter.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum
from uuid import UUID

from iron_bucket.core.checks import require_between, require_showable, require_time, require_word
from iron_bucket.core.errors import BadValue

LONGEST_THING, LONGEST_NOTE, MOST_AT_ONCE = 160, 200, 999


class Stage(StrEnum):
    """On the way out and back, in this order."""

    PULLED = "pulled"
    LOADED = "loaded"
    ON_SET = "on set"
    WRAPPED = "wrapped"
    RETURNED = "returned"


class Trouble(StrEnum):
    """How something came back."""

    NONE = ""
    DAMAGED = "damaged"
    MISSING = "missing"
    USED_UP = "used up"


@dataclass(frozen=True, slots=True, kw_only=True)
class Tick:
    """``thing``: of a line of the kit, or one of its units (``thing_of``); ``count``: below 0 takes ticks back."""

    tick_id: str
    thing: str
    stage: Stage
    count: int = 1
    trouble: Trouble = Trouble.NONE
    note: str = ""
    made_at: datetime

    def __post_init__(self) -> None:
        try:
            UUID(self.tick_id)
        except ValueError:
            raise BadValue("tick id", repr(self.tick_id), "a UUID, made once for each press") from None
        require_word("thing", self.thing, longest=LONGEST_THING)
        require_between("count", self.count, low=-MOST_AT_ONCE, high=MOST_AT_ONCE, unit="pieces")
        if self.trouble and self.stage is not Stage.RETURNED:
            raise BadValue("trouble", repr(self.trouble.value), "of what is returned")
        require_showable("note", self.note, longest=LONGEST_NOTE)
        require_time("made_at", self.made_at)


def thing_of(slug: str, area_m2: float = 1.0, unit: str = "") -> str:
    """What a tick is of: a line, by its slug and a cloth's area, or one unit of it."""
    size = "" if area_m2 == 1.0 else f"~{area_m2:g}"
    return f"{slug}{size}#{unit}" if unit else f"{slug}{size}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Tally:
    """Of one line: ``counts`` by stage; of what is returned, ``troubles``; ``units`` by stage, of those with a name."""

    needed: int
    counts: Mapping[Stage, int] = field(default_factory=dict)
    troubles: Mapping[Trouble, int] = field(default_factory=dict)
    notes: tuple[str, ...] = ()

    def at(self, stage: Stage) -> int:
        """How many, no more than there are and no fewer than none: two who tick the last one tick one."""
        return min(max(self.counts.get(stage, 0), 0), self.needed)

    def over(self, stage: Stage) -> int:
        """Ticked beyond what is on the list."""
        return max(self.counts.get(stage, 0) - self.needed, 0)

    def is_done(self, stage: Stage) -> bool:
        """Whether all of it has come so far; what is used up or missing comes back no more."""
        return self.at(stage) + (self.gone if stage is Stage.RETURNED else 0) >= self.needed

    def missing(self, stage: Stage) -> int:
        """Still to tick."""
        return max(self.needed - self.at(stage) - (self.gone if stage is Stage.RETURNED else 0), 0)

    @property
    def gone(self) -> int:
        """What was said not to come back."""
        return max(self.troubles.get(Trouble.MISSING, 0) + self.troubles.get(Trouble.USED_UP, 0), 0)

    @property
    def damaged(self) -> int:
        """What came back, and cannot go out again."""
        return max(self.troubles.get(Trouble.DAMAGED, 0), 0)


def tallied(ticks: Iterable[Tick], needed: Mapping[str, int]) -> dict[str, Tally]:
    """By thing; ``needed``: how many of each there are. Ticks of what is no longer on the list count for nothing
    needed.

    Of what is missing or used up nothing is returned; what is damaged is.
    """
    counts: dict[str, dict[Stage, int]] = {}
    troubles: dict[str, dict[Trouble, int]] = {}
    notes: dict[str, list[str]] = {}
    seen: set[str] = set()
    for tick in ticks:
        if tick.tick_id in seen:
            continue
        seen.add(tick.tick_id)
        thing = tick.thing.partition("#")[0]  # a unit counts for its line
        if tick.trouble:
            told = troubles.setdefault(thing, {})
            told[tick.trouble] = told.get(tick.trouble, 0) + tick.count
            notes.setdefault(thing, []).extend([tick.note] if tick.note else [])
        if tick.trouble in (Trouble.NONE, Trouble.DAMAGED):
            of_thing = counts.setdefault(thing, {})
            of_thing[tick.stage] = of_thing.get(tick.stage, 0) + tick.count
    things = dict.fromkeys((*needed, *counts, *troubles))
    return {
        thing: Tally(
            needed=needed.get(thing, 0),
            counts=counts.get(thing, {}),
            troubles=troubles.get(thing, {}),
            notes=tuple(notes.get(thing, ())),
        )
        for thing in things
    }
