"""The work of a search: what is best for a job, what other ways of working come to, what each target costs; each way
looked at in full, as the whole kit that it makes.
"""

from collections.abc import Callable, Iterator
from dataclasses import asdict, replace
from typing import Any

from iron_bucket.core.bench.vehicle import Vehicle
from iron_bucket.core.bucket.best.candidates import on_heads
from iron_bucket.core.bucket.best.compared import TargetChange, line_changes, target_changes
from iron_bucket.core.bucket.best.job_problem import JobProblem, job_problem
from iron_bucket.core.bucket.best.optimum import Best, best_for, today_of
from iron_bucket.core.bucket.best.outcome import LampChange, lamp_changes
from iron_bucket.core.bucket.best.problem import Goal, Measure, Problem
from iron_bucket.core.bucket.best.target_price import target_prices
from iron_bucket.core.bucket.best.what_ifs import WhatIf, narrowed
from iron_bucket.core.bucket.load.hold import loaded
from iron_bucket.core.errors import NoAnswer
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.desk.bucket.best.scenes import scenes_of
from iron_bucket.desk.bucket.best.search import versions_of
from iron_bucket.desk.bucket.view import BucketView
from iron_bucket.desk.setups.kept import kept_evaluation
from iron_bucket.formats.change_json import with_changes
from iron_bucket.store.setups import SetupRow

Row = dict[str, Any]
#: Told what is being done, and how far all of it is.
Tell = Callable[[str, float], None]
#: Where the parts of the work begin, as shares of it.
_LOOKED, _CHOSEN, _WHAT_IFS = 0.55, 0.65, 0.85
BEST = "best"


def findings(view: BucketView, packed: PackedBench, goal: Goal, tell: Tell) -> Row:
    """As a document. Raises: NoAnswer where no choice holds every target."""
    contents, rules = view.contents, view.job.rules

    def looked_at(done: int, of: int) -> None:
        tell(f"finding lamps, pass {done + 1} of {of}", _LOOKED * done / max(of, 1))

    job = job_problem(scenes_of(view), view.kit, on_heads(packed), contents.gear, rules, view.days, looked_at)
    if not job.seats:
        raise NoAnswer("No lamp of this job may be exchanged: none burns, or all are locked.")
    tell("choosing", _LOOKED)
    today = today_of(job.problem)
    now = _figures(view, today[Measure.AMPS])
    rest = {measure: now[measure.value] - today[measure] for measure in Measure}  # what no lamp brings
    caps = {measure: max(cap - rest[measure], 0.0) for measure, cap in goal.caps.items()}
    goal = replace(goal, caps=caps).with_ties_broken()
    best = best_for(job.problem, goal, today=today)
    ways = [_way(view, job, BEST, job.problem, best)]
    for at, what_if in enumerate(WhatIf):
        tell(f"what if: {what_if.value}", _CHOSEN + (_WHAT_IFS - _CHOSEN) * at / len(WhatIf))
        ways.append(_what_if(view, job, goal, what_if, today, rest[Measure.WEIGHT]))

    def priced(done: int, of: int) -> None:
        tell(f"cost of each target, {done + 1} of {of}", _WHAT_IFS + (1.0 - _WHAT_IFS) * done / max(of, 1))

    prices = target_prices(job.problem, goal, best, job.target_names, priced)
    return {
        "versions": versions_of(view),
        "today": now,
        "ways": ways,
        "prices": [
            {
                "setup_id": each.pass_id,
                "name": each.name,
                "saved": {measure.value: figure for measure, figure in each.saved.items()},
            }
            for each in prices
        ],
    }


def _what_if(
    view: BucketView, job: JobProblem, goal: Goal, what_if: WhatIf, today: dict[Measure, float], rest_kg: float
) -> Row:
    van = _largest(view)
    van_kg = max(van.payload_kg - rest_kg, 0.0) if van else None
    try:
        problem, asked = narrowed(job.problem, goal, what_if, lift_kg=view.crew.lift_kg, van_kg=van_kg)
        best = best_for(problem, asked, today=today)
    except NoAnswer as none:
        return {"name": what_if.value, "refused": str(none)}
    return _way(view, job, what_if.value, problem, best)


def _way(view: BucketView, job: JobProblem, name: str, problem: Problem, best: Best) -> Row:
    changes = lamp_changes(job, problem, best)
    other = _changed(view, changes)
    return {
        "name": name,
        "refused": "",
        "gap": best.gap,
        "figures": _figures(other, best.measures[Measure.AMPS]),
        "changes": [asdict(each) for each in changes],
        "lines": [asdict(each) for each in line_changes(view.kit, other.kit, view.sources, other.sources)],
        "targets": [asdict(each) for each in _targets(view, other)],
    }


def _changed(view: BucketView, changes: tuple[LampChange, ...]) -> BucketView:
    """The bucket of the same job with some lamps exchanged; nothing is stored."""
    by_setup: dict[int, list[Row]] = {}
    for each in changes:
        row = {"operation": "set", "where": "lamps", "piece_id": each.piece_id, "to": each.to}
        by_setup.setdefault(each.setup_id, []).append(row)
    rows = [_with(row, by_setup.get(row.id)) for row in view.contents.setups]
    return BucketView(job=view.job, contents=replace(view.contents, setups=rows, _made={}))


def _with(row: SetupRow, changes: list[Row] | None) -> SetupRow:
    if not changes:
        return row
    values = {column.name: getattr(row, column.name) for column in SetupRow.__table__.columns}
    return SetupRow(**values | {"document": with_changes(row.document, changes)})


def _figures(view: BucketView, amps: float) -> Row:
    """What the whole kit comes to; amps of the lamps at the time that draws most."""
    largest = _largest(view)
    left = len(loaded(view.packed.boxes, (largest,)).left) if largest else None
    return {
        "money": view.hire_total,
        "weight": sum(line.weight_of(line.quantity) for line in view.kit.lines),
        "cases": len(view.packed.boxes),
        "amps": amps,
        "van": largest.name if largest else "",
        "left": left,
    }


def _largest(view: BucketView) -> Vehicle | None:
    vehicles = (each for each in view.gear.vehicles if not each.is_retired)
    return max(vehicles, key=lambda each: each.payload_kg, default=None)


def _targets(view: BucketView, other: BucketView) -> Iterator[TargetChange]:
    """Of the set-ups that change."""
    for row, changed in zip(view.contents.setups, other.contents.setups, strict=True):
        if row is not changed:
            around = view.contents.places[row.place_id]
            ladders = (
                kept_evaluation(each.document, around, view.gear, view.job.rules).ladder for each in (row, changed)
            )
            yield from target_changes(row.id, *ladders)
