"""What else does the work of one head wherever it stands: found in the scenes, never by name."""

import math
from dataclasses import dataclass

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bucket.best.job_problem import JobProblem
from iron_bucket.core.bucket.best.optimum import Best, today_of
from iron_bucket.core.bucket.best.outcome import LampChange, lamp_changes
from iron_bucket.core.bucket.best.problem import Choice, Measure, Seat, measured

#: Of today's light, in stops, a lamp may give so much less at full.
_SHORT_STOPS = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class Substitute:
    """``head`` in ``does`` of the ``of`` places; ``levels``: its lowest and highest there. ``price`` and ``weight_kg``:
    what the lamps of those places, with all that hangs on them and holds them, come to more than today; ``changes``
    make it so.
    """

    head: Head
    does: int
    of: int
    levels: tuple[float, float]
    price: float
    weight_kg: float
    changes: tuple[LampChange, ...]


def substitutes_for(job: JobProblem, slug: str, gear: Gear) -> tuple[Substitute, ...]:
    """``job``: with seats for the lamps of head ``slug`` alone. Those that do it in most places first, then the
    cheapest, then the lightest.
    """
    today = today_of(job.problem)
    ways: dict[str, dict[int, tuple[int, float]]] = {}
    for at, seat in enumerate(job.problem.seats):
        for place, choice in enumerate(seat.choices):
            level = _as_bright(seat, choice)
            if choice.head != slug and level is not None:
                ways.setdefault(choice.head, {}).setdefault(at, (place, level))
    found = [_substitute(job, gear.head(head), places, today) for head, places in ways.items()]
    return tuple(sorted(found, key=lambda each: (-each.does, round(each.price, 2), each.weight_kg, each.head.slug)))


def _as_bright(seat: Seat, choice: Choice) -> float | None:
    """The level at which it gives today's light where that lamp gives most; None where it cannot."""
    mark = int(seat.choices[0].lux.argmax())
    gives = float(choice.lux[mark])
    level = seat.level * float(seat.choices[0].lux[mark]) / gives if gives else math.inf
    if not choice.lowest <= level <= choice.highest * 2.0**_SHORT_STOPS:
        return None
    return min(level, choice.highest)


def _substitute(
    job: JobProblem, head: Head, places: dict[int, tuple[int, float]], today: dict[Measure, float]
) -> Substitute:
    seats = job.problem.seats
    picked = [places.get(at, (0, seat.level)) for at, seat in enumerate(seats)]
    chosen, levels = [place for place, _ in picked], [level for _, level in picked]
    best = Best(
        chosen=tuple(chosen), levels=tuple(levels), measures=measured(job.problem, chosen, levels), today=today, gap=0.0
    )
    asked = [level for _, level in places.values()]
    return Substitute(
        head=head,
        does=len(places),
        of=len(seats),
        levels=(min(asked), max(asked)),
        price=best.measures[Measure.MONEY] - today[Measure.MONEY],
        weight_kg=best.measures[Measure.WEIGHT] - today[Measure.WEIGHT],
        changes=tuple(each for each in lamp_changes(job, job.problem, best) if "configuration" in each.to),
    )
