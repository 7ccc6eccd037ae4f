"""A change tried in full: where its mark lands, and what else it does."""

from collections import Counter
from dataclasses import dataclass
from enum import StrEnum

from iron_bucket.core.bucket.pass_kit import PassKit, pass_kit
from iron_bucket.core.errors import BadValue
from iron_bucket.core.setups.evaluate.faces import lit_faces
from iron_bucket.core.setups.evaluate.ladder import Ladder, Rung, ladder_of
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.changes import Change, changed
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.sheet.amps import circuit_amps
from iron_bucket.core.setups.sheet.load_summary import LoadSummary, load_summary
from iron_bucket.core.setups.suggest.shortfall import Hand, Proposal, Shortfall

_LEAST_A = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Effect:
    """What a way out does to another mark of the ladder, in stops of where it lies."""

    name: str
    stops: float


class Fetch(StrEnum):
    """Where what a way out needs has to come from, the nearest first."""

    NOTHING = "at hand"
    BUCKET = "in the bucket"
    OURS = "from our own kit"
    HIRE = "to hire"


@dataclass(frozen=True, slots=True, kw_only=True)
class Fix:
    """``miss_stops`` is what is left of the miss.

    ``softness_deg``: change of the key's apparent size on the first person. Amps, kilos and money are changes too;
    ``circuits``: by the name of each whose amps change, by how much.
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
    circuits: tuple[tuple[str, float], ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Before:
    """How the set-up stands, told once for all that is tried on it."""

    miss: Shortfall
    rungs: dict[str, Rung]
    load: LoadSummary
    pieces: Counter[str]
    softness_deg: float
    circuits: dict[str, float]

    @classmethod
    def of(cls, miss: Shortfall) -> "Before":
        """As it was computed."""
        rungs = {each.mark_id: each for each in ladder_of(miss.lit, miss.rules.receptor).rungs}
        brought = _kit(miss.setup, miss)
        load, pieces = load_summary(brought, miss.rules), _counted(brought)
        amps = circuit_amps(miss.lit, miss.gear, miss.rules)
        return cls(
            miss=miss, rungs=rungs, load=load, pieces=pieces, softness_deg=_softness_deg(miss.lit), circuits=amps
        )


def _kit(setup: Setup, miss: Shortfall) -> PassKit:
    return pass_kit(setup, miss.gear, miss.rules, miss.lit.built.surroundings)


def _counted(brought: PassKit) -> Counter[str]:
    """How many of each piece of gear, by slug."""
    found: Counter[str] = Counter()
    for each in brought.entries:
        found[each.item.slug] += each.quantity
    return found


def _fetch(before: Before, brought: PassKit) -> Fetch:
    """Stands and bags, flags, and what holds and pegs are on every truck: they alone send nobody to the bench."""
    needed, owned = _counted(brought), {each.item.slug: each.item.owned for each in brought.entries}
    gear, bucket = before.miss.gear, before.miss.bucket
    more = needed - before.pieces
    if any(needed[slug] > owned[slug] for slug in more if bucket.get(slug, 0) < needed[slug]):
        return Fetch.HIRE
    on_truck = {each.slug for each in (*gear.stands, *gear.bags, *gear.flags, *gear.accessories)}
    fetched = set(more) - on_truck
    if not fetched:
        return Fetch.NOTHING
    return Fetch.BUCKET if all(bucket.get(slug, 0) >= needed[slug] for slug in fetched) else Fetch.OURS


def tried(before: Before, proposal: Proposal) -> Fix | None:
    """Evaluation in full; None where it cannot be, or the target is missed all the same."""
    miss = before.miss
    try:
        setup = changed(miss.setup, proposal.changes)
        built = build_scene(setup, miss.lit.built.surroundings, miss.gear, miss.rules)
        brought = _kit(setup, miss)
        load = load_summary(brought, miss.rules)
    except BadValue:
        return None
    new = LitScene(built=built, banded=miss.response_for(built))
    ladder = ladder_of(new, miss.rules.receptor)
    rung = ladder.rung(miss.rung.mark_id)
    others = _others(before, ladder)
    if rung is None:  # turned out of the picture
        return _out_of_picture(miss, proposal, others)
    target = miss.rung.target
    if target is not None and abs(rung.stops - target.stops) > target.tolerance:
        return None
    return Fix(
        text=proposal.text,
        changes=proposal.changes,
        hand=proposal.hand,
        fetch=_fetch(before, brought),
        stops=rung.stops,
        miss_stops=rung.stops - target.stops if target else 0.0,
        others=others,
        softness_deg=_softness_deg(new) - before.softness_deg,
        amps=load.amps - before.load.amps,
        weight_kg=load.weight_kg - before.load.weight_kg,
        day_price=load.day_price - before.load.day_price,
        circuits=_by_circuit(before.circuits, circuit_amps(new, miss.gear, miss.rules)),
    )


def _by_circuit(before: dict[str, float], after: dict[str, float]) -> tuple[tuple[str, float], ...]:
    """Where it makes a twentieth of an amp and more."""
    changes = {name: after.get(name, 0.0) - before.get(name, 0.0) for name in {**before, **after}}
    return tuple((name, amps) for name, amps in changes.items() if abs(amps) >= _LEAST_A)


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


def _others(before: Before, after: Ladder) -> tuple[Effect, ...]:
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
