"""For a target that is missed: every single change that would meet it, with what else it does."""

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.setups.evaluate.faces import lit_faces
from iron_bucket.core.setups.evaluate.ladder import Ladder, Rung, RungKind, ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import LitScene, ResponseFor, fresh_response
from iron_bucket.core.setups.plan.changes import Change, changed
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.sheet.load_summary import LoadSummary, load_summary
from iron_bucket.core.setups.sheet.pieces import pieces_of
from iron_bucket.core.setups.suggest.by_camera import by_camera_and_day
from iron_bucket.core.setups.suggest.by_lamps import by_lamps
from iron_bucket.core.setups.suggest.shortfall import Hand, Proposal, Shortfall


@dataclass(frozen=True, slots=True, kw_only=True)
class Effect:
    """What a way out does to another mark of the ladder, in stops of where it lies."""

    name: str
    stops: float


class Fetch(StrEnum):
    """Where what a way out needs has to come from, the nearest first; black, nets and flags are always at hand."""

    NOTHING = "at hand"
    OURS = "from our own kit"
    HIRE = "to hire"


@dataclass(frozen=True, slots=True, kw_only=True)
class Fix:
    """``miss_stops`` is what is left of the miss.

    ``softness_deg``: change of the key's apparent size on the first person. Amps, kilos and money are changes too.
    """

    text: str
    changes: tuple[Change, ...]
    hand: Hand
    fetch: Fetch
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
    """All that meet the target of one rung: what is at hand before what must be fetched or hired, of that what a gaffer
    reaches for first, and of that what changes other marks least. None for a rung without a target, or one that is met.

    Every way is one change, computed in full before it is offered, but for those that are far off by what is roughly
    known; what does not meet the target in the end is left out.
    """
    if not rung.is_missed:
        return ()
    miss = Shortfall(lit=lit, rung=rung, gear=gear, rules=rules, response_for=response_for)
    before = _Before.of(miss)
    ways = (_tried(before, proposal) for proposal in filter(miss.may_be_met_by, _proposals(miss)))
    found = [way for way in ways if way is not None]
    nearest = list(Fetch)

    def order(way: Fix) -> tuple[float, ...]:
        return nearest.index(way.fetch), way.hand, sum(abs(each.stops) for each in way.others), abs(way.miss_stops)

    return tuple(sorted(found, key=order))


def _proposals(miss: Shortfall) -> Iterator[Proposal]:
    if miss.rung.kind is not RungKind.WINDOW:
        yield from by_lamps(miss)
    yield from by_camera_and_day(miss)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Before:
    """How the set-up stands, told once for all ways out of one miss."""

    miss: Shortfall
    rungs: dict[str, Rung]
    load: LoadSummary
    pieces: Counter[str]
    softness_deg: float

    @classmethod
    def of(cls, miss: Shortfall) -> "_Before":
        rungs = {each.mark_id: each for each in ladder_of(miss.lit, miss.rules.receptor).rungs}
        load = load_summary(miss.setup, miss.gear, miss.rules)
        pieces, _ = _pieces(miss.setup, miss)
        return cls(miss=miss, rungs=rungs, load=load, pieces=pieces, softness_deg=_softness_deg(miss.lit))


def _pieces(setup: Setup, miss: Shortfall) -> tuple[Counter[str], dict[str, int]]:
    """How many of each piece of gear a set-up needs, and how many are ours."""
    entries = pieces_of(setup, miss.gear, miss.rules.scrim_school).entries
    return Counter(each.item.slug for each in entries), {each.item.slug: each.item.owned for each in entries}


def _fetch(before: _Before, setup: Setup) -> Fetch:
    needed, owned = _pieces(setup, before.miss)
    more = needed - before.pieces
    if any(needed[slug] > owned[slug] for slug in more):
        return Fetch.HIRE
    return Fetch.OURS if more else Fetch.NOTHING


def _tried(before: _Before, proposal: Proposal) -> Fix | None:
    """Evaluation in full; None where it cannot be, or the target is missed all the same."""
    miss = before.miss
    try:
        setup = changed(miss.setup, proposal.changes)
        built = build_scene(setup, miss.lit.built.surroundings, miss.gear, miss.rules)
        load = load_summary(setup, miss.gear, miss.rules)
    except BadValue:
        return None
    new = LitScene(built=built, response=miss.response_for(built))
    ladder = ladder_of(new, miss.rules.receptor)
    rung = ladder.rung(miss.rung.mark_id)
    others = _others(before, ladder)
    if rung is None:  # turned out of the picture
        return _out_of_picture(miss, proposal, others)
    if rung.is_missed:
        return None
    return Fix(
        text=proposal.text,
        changes=proposal.changes,
        hand=proposal.hand,
        fetch=_fetch(before, setup),
        stops=rung.stops,
        miss_stops=rung.miss_stops or 0.0,
        others=others,
        softness_deg=_softness_deg(new) - before.softness_deg,
        amps=load.amps - before.load.amps,
        weight_kg=load.weight_kg - before.load.weight_kg,
        day_price=load.day_price - before.load.day_price,
    )


def _out_of_picture(miss: Shortfall, proposal: Proposal, others: tuple[Effect, ...]) -> Fix:
    target = miss.rung.target
    return Fix(
        text=proposal.text,
        changes=proposal.changes,
        hand=proposal.hand,
        fetch=Fetch.NOTHING,
        stops=target.stops if target else 0.0,
        miss_stops=0.0,
        others=others,
        softness_deg=0.0,
        amps=0.0,
        weight_kg=0.0,
        day_price=0.0,
    )


def _others(before: _Before, after: Ladder) -> tuple[Effect, ...]:
    """The rungs that move by a tenth of a stop and more."""
    moved = (
        Effect(name=each.name, stops=each.stops - before.rungs[each.mark_id].stops)
        for each in after.rungs
        if each.mark_id != before.miss.rung.mark_id and each.mark_id in before.rungs
    )
    return tuple(each for each in moved if abs(each.stops) >= 0.1)


def _softness_deg(lit: LitScene) -> float:
    faces = lit_faces(lit)
    return faces[0].apparent_deg if faces else 0.0
