"""Orders for a day: the two schools, and the cheapest that is found, with a bound that none can be under."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import permutations

import numpy as np

from iron_bucket.core.days.lay_out import best_nearby
from iron_bucket.core.days.order import Day, DayOrder
from iron_bucket.core.quantities.rounding import at_most

#: So many shots are tried in every order.
ALL_ORDERS = 7
#: So many places.
_ALL_PLACES = 5
#: Rounds of moving and swapping; each ends where nothing gets cheaper.
_ROUNDS = 200
#: Times that the best order is thrown about.
_KICKS = 12


class DaySchool(StrEnum):
    """Two ways to build a day."""

    PLACES = "place by place, wide first"
    HEROES = "round the best light of the hero shots"


@dataclass(frozen=True, slots=True, kw_only=True)
class Ordered:
    """``bound``: no order costs less; ``is_proved``: none is cheaper than this one."""

    order: DayOrder
    bound: float
    is_proved: bool

    @property
    def gap(self) -> float:
        """How much of its cost a better order might save at most."""
        total = self.order.cost.total
        return (total - self.bound) / total if total else total


def ordered(day: Day) -> Ordered:
    """The cheapest order: of all where the shots are few, else by moving and swapping shots from several beginnings
    till nothing gets cheaper, and again from the best of them thrown about.
    """
    count = len(day.shots)
    if count <= ALL_ORDERS:
        best = day.laid(min(permutations(range(count)), key=day.total))
        return Ordered(order=best, bound=best.cost.total, is_proved=True)
    found = _kicked(day, min((_improved(day, start) for start in _beginnings(day)), key=_key))
    bound = min(day.bound(), found.cost.total)
    return Ordered(order=found, bound=bound, is_proved=at_most(found.cost.total, bound))


def of_school(day: Day, school: DaySchool) -> DayOrder:
    """As that school would have it, at its cheapest."""
    if school is DaySchool.PLACES:
        return min((day.laid(order) for order in _by_places(day)), key=_key)
    return _round_heroes(day)


def _key(found: DayOrder) -> tuple[float, tuple[int, ...]]:
    return round(found.cost.total, 6), found.ids


def _by_places(day: Day) -> Iterator[tuple[int, ...]]:
    """Every order of the places, all of each together from wide to tight."""
    places = list(dict.fromkeys(shot.place_id for shot in day.shots))
    within = {
        place: sorted(
            (at for at, shot in enumerate(day.shots) if shot.place_id == place), key=lambda at: day.shots[at].width
        )
        for place in places
    }
    for some in permutations(places) if len(places) <= _ALL_PLACES else [tuple(places)]:
        yield tuple(at for place in some for at in within[place])


def _round_heroes(day: Day) -> DayOrder:
    """Heroes stand where their light is best, everything else where it costs least about them."""
    begins = day.rules.begins_min
    pins = {
        shot.shot_id: shot.best_start(begins + shot.rig_min)
        for shot in day.shots
        if shot.is_hero and shot.pinned_min is None
    }
    order = ordered(day.with_pins(pins)).order.ids
    at = {shot.shot_id: place for place, shot in enumerate(day.shots)}
    fixed = {shot.shot_id for shot in day.shots if shot.pinned_min is not None}
    return day.with_pins(pins).laid([at[each] for each in order]).late_for(fixed, day.rules.weights)


def _beginnings(day: Day) -> Iterator[Sequence[int]]:
    count = range(len(day.shots))
    yield min(_by_places(day), key=lambda order: _key(day.laid(order)))
    yield sorted(count, key=lambda at: _asked_at(day, at))
    yield tuple(count)


def _asked_at(day: Day, at: int) -> int:
    shot = day.shots[at]
    return shot.best_start(day.rules.begins_min) if shot.pinned_min is None else shot.pinned_min


def _kicked(day: Day, best: DayOrder) -> DayOrder:
    """Two of its stretches change places, and every second time all are thrown about, alike every time it is asked;
    what comes of that is kept where it is cheaper. Source: iterated local search with double bridges, Martin, Otto and
    Felten 1991.
    """
    chance, at = np.random.default_rng(len(day.shots)), {shot.shot_id: place for place, shot in enumerate(day.shots)}
    for kick in range(_KICKS):
        order = [at[each] for each in best.ids]
        a, b, c = sorted(chance.permutation(np.arange(1, len(order)))[:3].tolist())
        bridged = [*order[:a], *order[b:c], *order[a:b], *order[c:]]
        best = min((best, _improved(day, chance.permutation(order).tolist() if kick % 2 else bridged)), key=_key)
    return best


def _improved(day: Day, start: Sequence[int]) -> DayOrder:
    order, least = np.array(start, dtype=np.int64), day.total(start)
    for _ in range(_ROUNDS):
        cost, nearby = best_nearby(order, *day.kernel)
        if at_most(least, cost):
            break
        order, least = nearby, cost
    return day.laid(order.tolist())
