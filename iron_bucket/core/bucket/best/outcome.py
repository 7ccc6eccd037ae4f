"""What a best choice changes, lamp by lamp, as a set-up takes it."""

from dataclasses import dataclass
from typing import Any

from iron_bucket.core.bucket.best.job_problem import JobProblem
from iron_bucket.core.bucket.best.optimum import Best
from iron_bucket.core.bucket.best.problem import Problem
from iron_bucket.core.setups.plan.written import dialled

#: A level that moves by less is left.
_SAME_LEVEL = 0.02


@dataclass(frozen=True, slots=True, kw_only=True)
class LampChange:
    """``was`` and ``to``: the fields of a lamp that change, as they are written."""

    setup_id: int
    piece_id: str
    name: str
    was: dict[str, Any]
    to: dict[str, Any]


def lamp_changes(job: JobProblem, problem: Problem, best: Best) -> tuple[LampChange, ...]:
    """``problem``: the one that was solved, perhaps with fewer choices than the job's."""
    found = []
    for at, (seat, of) in enumerate(zip(problem.seats, job.seats, strict=True)):
        choice = seat.choices[best.chosen[at]]
        place = next(place for place, each in enumerate(job.problem.seats[at].choices) if each is choice)
        level = best.levels[at]
        fields = of.fields[place] | {"level": dialled(level)}
        if abs(level / of.placed.level - 1.0) < _SAME_LEVEL:
            del fields["level"]
        to = {name: _written(value) for name, value in fields.items() if value != getattr(of.placed, name)}
        if to:
            was = {name: _written(getattr(of.placed, name)) for name in to}
            found.append(
                LampChange(setup_id=of.setup_id, piece_id=of.placed.piece_id, name=of.placed.name, was=was, to=to)
            )
    return tuple(found)


def _written(value: Any) -> Any:
    return list(value) if isinstance(value, tuple) else value
