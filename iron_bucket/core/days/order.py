"""The order of a day: what comes when, and what that costs in overtime, moves, pieces carried, and light missed."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.checks import require_between
from iron_bucket.core.days.lay_out import (
    BREAK,
    END,
    HELD_UP,
    IS_MOVE,
    LATE,
    MISSED,
    MOVED,
    NEVER,
    NONE,
    RIG,
    SHOOT,
    STRIKE,
    WAITED,
    best_start,
    lay_out,
    missed_min,
    spans_of,
    weighed,
)

#: Nothing is planned beyond a day and a half.
_LAST_MIN = 36 * 60


@dataclass(frozen=True, slots=True, kw_only=True)
class Weights:
    """What a minute, a move or a piece counts against each other. Source: of the house; shown, and to be changed."""

    overtime: float = 3.0
    missed: float = 6.0
    waited: float = 0.5
    late: float = 10.0
    move: float = 30.0
    piece: float = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class DayRules:
    """Minutes from the midnight before. ``ends_min``: later is overtime; ``curfew_min``: nothing is shot after it, with
    the weight of what is fixed; ``move_min``: from one place to another; ``turn_round_min``: between two set-ups;
    a break of ``break_min`` comes before work has gone on for ``break_after_min``.
    """

    begins_min: int = 8 * 60
    ends_min: int = 18 * 60
    curfew_min: int | None = None
    move_min: int = 45
    turn_round_min: int = 5
    break_after_min: int = 360
    break_min: int = 30
    weights: Weights = field(default_factory=Weights)

    def __post_init__(self) -> None:
        for name in ("begins_min", "ends_min"):
            require_between(name, getattr(self, name), low=0, high=_LAST_MIN, unit="min")
        for name in ("move_min", "turn_round_min", "break_min"):
            require_between(name, getattr(self, name), low=0, high=600, unit="min")
        require_between("break_after_min", self.break_after_min, low=60, high=1440, unit="min")


@dataclass(frozen=True, slots=True, kw_only=True)
class Shot:
    """A pass to be put in order. ``width``: 0 the widest; ``held``: spans of minutes in which its light holds, None
    where nothing is asked of it; ``pinned_min``: its shoot begins then; ``overlap_min`` of its rig are pre-lit, while
    the one before is shot.
    """

    shot_id: int
    place_id: int
    rig_min: int
    shoot_min: int
    strike_min: int
    width: int = 0
    held: tuple[tuple[int, int], ...] | None = None
    pinned_min: int | None = None
    is_hero: bool = False
    overlap_min: int = 0

    @property
    def minutes(self) -> int:
        """All that it takes."""
        return self.rig_min + self.shoot_min + self.strike_min

    @property
    def pinned_at(self) -> int:
        """As the compiled layer wants it."""
        return NONE if self.pinned_min is None else self.pinned_min

    def missed_from(self, start_min: int) -> int:
        """Minutes of its shoot without its light, where that begins then."""
        return int(missed_min(start_min, self.shoot_min, spans_of([self.held])[0]))

    def best_start(self, earliest_min: int) -> int:
        """The first start from then on that misses least."""
        return int(best_start(earliest_min, self.shoot_min, spans_of([self.held])[0]))


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """Minutes at which its rig begins, it is shot, struck, and gone; ``moved``: pieces carried for it; ``late_min``
    behind what was fixed; ``held_up_min``: by what the one before leaves hot, or empty.
    """

    shot: Shot
    rig_min: int
    shoot_min: int
    strike_min: int
    end_min: int
    missed_min: int
    waited_min: int
    late_min: int
    moved: int
    is_move: bool
    break_min: int
    held_up_min: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Cost:
    """What a day costs, line by line, and ``total`` as it is weighed."""

    overtime_min: int
    missed_min: int
    waited_min: int
    late_min: int
    moves: int
    pieces: int
    total: float

    def over(self, other: "Cost") -> tuple[tuple[str, int], ...]:
        """What changes against another, in words, worse above 0; nothing that stays."""
        told = (
            ("min of overtime", self.overtime_min - other.overtime_min),
            ("min of light missed", self.missed_min - other.missed_min),
            ("min waited", self.waited_min - other.waited_min),
            ("min late", self.late_min - other.late_min),
            ("company moves", self.moves - other.moves),
            ("pieces carried", self.pieces - other.pieces),
        )
        return tuple(each for each in told if each[1])


@dataclass(frozen=True, slots=True, kw_only=True)
class DayOrder:
    """A whole day in order, and what it costs."""

    placed: tuple[Placed, ...]
    cost: Cost

    @property
    def ids(self) -> tuple[int, ...]:
        """In order."""
        return tuple(each.shot.shot_id for each in self.placed)

    def late_for(self, fixed: Collection[int], weights: Weights) -> "DayOrder":
        """The same, late for those that are fixed, by their ids, alone: everything else stands where it was put."""
        late = sum(each.late_min for each in self.placed if each.shot.shot_id in fixed)
        total = self.cost.total - (self.cost.late_min - late) * weights.late
        return replace(self, cost=replace(self.cost, late_min=late, total=total))


@dataclass(frozen=True, kw_only=True, eq=False)
class Day:
    """What is to be put in order. ``pieces``: how many are carried from one shot to another, by their places, the last
    row from nothing; ``gaps``: minutes from the cut of one to the shoot of the next at least. Shapes (N + 1, N).
    """

    shots: tuple[Shot, ...]
    pieces: Array
    rules: DayRules
    gaps: np.ndarray | None = None

    @cached_property
    def kernel(self) -> tuple[np.ndarray, np.ndarray, Array, np.ndarray, np.ndarray, Array]:
        """As the compiled layer wants it."""
        rules, weights = self.rules, self.rules.weights
        rows = [
            (each.place_id, each.rig_min, each.shoot_min, each.strike_min, each.pinned_at, each.overlap_min)
            for each in self.shots
        ]
        gaps = np.zeros(self.pieces.shape) if self.gaps is None else self.gaps
        return (
            np.array(rows, dtype=np.int64).reshape(-1, 6),
            spans_of([each.held for each in self.shots]),
            np.ascontiguousarray(self.pieces, dtype=float),
            np.ascontiguousarray(gaps, dtype=np.int64),
            np.array(
                [
                    rules.begins_min,
                    rules.ends_min,
                    NEVER if rules.curfew_min is None else rules.curfew_min,
                    rules.move_min,
                    rules.turn_round_min,
                    rules.break_after_min,
                    rules.break_min,
                ],
                dtype=np.int64,
            ),
            np.array(
                [weights.overtime, weights.missed, weights.waited, weights.late, weights.move, weights.piece],
                dtype=float,
            ),
        )

    def total(self, order: Sequence[int]) -> float:
        """What an order costs."""
        kernel = self.kernel
        return float(weighed(lay_out(np.array(order, dtype=np.int64), *kernel), self.rules.ends_min, kernel[-1]))

    def laid(self, order: Sequence[int]) -> DayOrder:
        """The shots one after the other, by their places."""
        told = lay_out(np.array(order, dtype=np.int64), *self.kernel)
        placed = tuple(
            Placed(
                shot=self.shots[at],
                rig_min=row[RIG],
                shoot_min=row[SHOOT],
                strike_min=row[STRIKE],
                end_min=row[END],
                missed_min=row[MISSED],
                waited_min=row[WAITED],
                late_min=row[LATE],
                moved=row[MOVED],
                is_move=bool(row[IS_MOVE]),
                break_min=row[BREAK],
                held_up_min=row[HELD_UP],
            )
            for at, row in zip(order, told.tolist(), strict=True)
        )
        cost = Cost(
            overtime_min=max(max((each.end_min for each in placed), default=0) - self.rules.ends_min, 0),
            missed_min=sum(each.missed_min for each in placed),
            waited_min=sum(each.waited_min for each in placed),
            late_min=sum(each.late_min for each in placed),
            moves=sum(each.is_move for each in placed),
            pieces=sum(each.moved for each in placed),
            total=self.total(order),
        )
        return DayOrder(placed=placed, cost=cost)

    def bound(self) -> float:
        """No order costs less: each shot in the best light there is, carried from whatever is nearest, one move a
        place, and all work one after the other.
        """
        weights, count = self.rules.weights, len(self.shots)
        if not count:
            return 0.0
        begins = self.rules.begins_min
        missed = sum(shot.missed_from(shot.best_start(begins + shot.rig_min)) for shot in self.shots)
        others = [[float(self.pieces[row, at]) for row in range(count + 1) if row != at] for at in range(count)]
        carried = sum(min(each) for each in others)
        moves = len({shot.place_id for shot in self.shots}) - 1
        worked = sum(shot.minutes for shot in self.shots) + moves * self.rules.move_min
        worked += (count - 1 - moves) * min(self.rules.turn_round_min, self.rules.move_min)
        worked -= sum(shot.overlap_min for shot in self.shots)
        overtime = max(begins + worked - self.rules.ends_min, 0)
        return missed * weights.missed + carried * weights.piece + moves * weights.move + overtime * weights.overtime

    def with_pins(self, pins: dict[int, int]) -> "Day":
        """Some shots fixed, by their ids."""
        shots = tuple(replace(each, pinned_min=pins.get(each.shot_id, each.pinned_min)) for each in self.shots)
        return replace(self, shots=shots)
