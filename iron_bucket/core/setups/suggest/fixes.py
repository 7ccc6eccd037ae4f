"""For a target that is missed: every single change that would meet it, with what else it does."""

from collections.abc import Iterator
from dataclasses import dataclass

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.setups.evaluate.faces import lit_faces
from iron_bucket.core.setups.evaluate.ladder import Rung, RungKind, ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import LitScene, ResponseFor, fresh_response
from iron_bucket.core.setups.plan.changes import Change, changed
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.sheet.load_summary import load_summary
from iron_bucket.core.setups.suggest.by_camera import by_camera_and_day
from iron_bucket.core.setups.suggest.by_lamps import by_lamps
from iron_bucket.core.setups.suggest.shortfall import Hand, Proposal, Shortfall


@dataclass(frozen=True, slots=True, kw_only=True)
class Effect:
    """What a way out does to another mark of the ladder, in stops of where it lies."""

    name: str
    stops: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Fix:
    """``miss_stops`` is what is left of the miss.

    ``softness_deg``: change of the key's apparent size on the first person. Amps, kilos and money are changes too.
    """

    text: str
    changes: tuple[Change, ...]
    hand: Hand
    stops: float
    miss_stops: float
    others: tuple[Effect, ...]
    softness_deg: float
    amps: float
    weight_kg: float
    day_price: float


def fixes_for(
    lit: LitScene, rung: Rung, gear: Gear, rules: HouseRules, response_for: ResponseFor = fresh_response
) -> tuple[Fix, ...]:
    """All that meet the target of one rung, what a gaffer reaches for first first, and of that what changes other marks
    least. None for a rung without a target, or one that is met.

    Every way is one change, computed in full before it is offered; what does not meet the target in the end is left
    out.
    """
    if not rung.is_missed:
        return ()
    miss = Shortfall(lit=lit, rung=rung, gear=gear, rules=rules, response_for=response_for)
    found: list[Fix] = []
    for proposal in _proposals(miss):
        way = _tried(miss, proposal)
        if way is not None and rung.target is not None and abs(way.miss_stops) <= rung.target.tolerance + 1e-9:
            found.append(way)
    return tuple(
        sorted(found, key=lambda way: (way.hand, sum(abs(each.stops) for each in way.others), abs(way.miss_stops)))
    )


def _proposals(miss: Shortfall) -> Iterator[Proposal]:
    if miss.rung.kind is not RungKind.WINDOW:
        yield from by_lamps(miss)
    yield from by_camera_and_day(miss)


def _tried(miss: Shortfall, proposal: Proposal) -> Fix | None:
    """Evaluation in full; None where it cannot be."""
    old = miss.lit
    try:
        setup = changed(miss.setup, proposal.changes)
        built = build_scene(setup, old.built.surroundings, miss.gear, miss.rules)
        weighs = load_summary(setup, miss.gear, miss.rules)
    except BadValue:
        return None
    new = LitScene(built=built, response=miss.response_for(built))
    ladder = ladder_of(new, miss.rules.receptor)
    rung = ladder.rung(miss.rung.mark_id)
    if rung is None:  # turned out of the picture
        return _out_of_picture(miss, proposal, new)
    weighed = load_summary(miss.setup, miss.gear, miss.rules)
    return Fix(
        text=proposal.text,
        changes=proposal.changes,
        hand=proposal.hand,
        stops=rung.stops,
        miss_stops=rung.miss_stops or 0.0,
        others=_others(miss, new),
        softness_deg=_softness(new) - _softness(old),
        amps=weighs.amps - weighed.amps,
        weight_kg=weighs.weight_kg - weighed.weight_kg,
        day_price=weighs.day_price - weighed.day_price,
    )


def _out_of_picture(miss: Shortfall, proposal: Proposal, new: LitScene) -> Fix:
    target = miss.rung.target
    return Fix(
        text=proposal.text,
        changes=proposal.changes,
        hand=proposal.hand,
        stops=target.stops if target else 0.0,
        miss_stops=0.0,
        others=_others(miss, new),
        softness_deg=0.0,
        amps=0.0,
        weight_kg=0.0,
        day_price=0.0,
    )


def _others(miss: Shortfall, new: LitScene) -> tuple[Effect, ...]:
    """The rungs that move by a tenth of a stop and more."""
    before = {each.mark_id: each for each in ladder_of(miss.lit, miss.rules.receptor).rungs}
    after = ladder_of(new, miss.rules.receptor)
    return tuple(
        Effect(name=each.name, stops=each.stops - before[each.mark_id].stops)
        for each in after.rungs
        if each.mark_id != miss.rung.mark_id
        and each.mark_id in before
        and abs(each.stops - before[each.mark_id].stops) >= 0.1
    )


def _softness(lit: LitScene) -> float:
    faces = lit_faces(lit)
    return faces[0].apparent_deg if faces else 0.0
