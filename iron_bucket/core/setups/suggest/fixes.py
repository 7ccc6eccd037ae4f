"""For a target that is missed: every single change that would meet it, with what else it does."""

from collections.abc import Iterator, Mapping

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.setups.evaluate.ladder import Rung, RungKind
from iron_bucket.core.setups.evaluate.lit_scene import LitScene, ResponseFor, fresh_response
from iron_bucket.core.setups.suggest.by_camera import by_camera_and_day
from iron_bucket.core.setups.suggest.by_lamps import by_lamps
from iron_bucket.core.setups.suggest.fix import Before, Fetch, Fix, tried
from iron_bucket.core.setups.suggest.shortfall import Proposal, Shortfall


def fixes_for(
    lit: LitScene,
    rung: Rung,
    gear: Gear,
    rules: HouseRules,
    response_for: ResponseFor = fresh_response,
    bucket: Mapping[str, int] | None = None,
) -> tuple[Fix, ...]:
    """All that meet the target of one rung: what is at hand before what must be fetched or hired, of that what a gaffer
    reaches for first, and of that what changes other marks least. None for a rung without a target, or one that is met.

    Every way is one change, computed in full before it is offered, but for those that are far off by what is roughly
    known; what does not meet the target in the end is left out.
    """
    if not rung.is_missed:
        return ()
    miss = Shortfall(lit=lit, rung=rung, gear=gear, rules=rules, response_for=response_for, bucket=bucket or {})
    before = Before.of(miss)
    ways = (tried(before, proposal) for proposal in filter(miss.may_be_met_by, _proposals(miss)))
    found = [way for way in ways if way is not None]
    nearest = list(Fetch)

    def order(way: Fix) -> tuple[float, ...]:
        return nearest.index(way.fetch), way.hand, sum(abs(each.stops) for each in way.others), abs(way.miss_stops)

    return tuple(sorted(found, key=order))


def _proposals(miss: Shortfall) -> Iterator[Proposal]:
    if miss.rung.kind is not RungKind.WINDOW:
        yield from by_lamps(miss)
    yield from by_camera_and_day(miss)
