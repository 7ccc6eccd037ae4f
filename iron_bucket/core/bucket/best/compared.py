"""Two kits of one job beside each other, line by line and target by target."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from iron_bucket.core.bucket.hire import Source
from iron_bucket.core.bucket.job_kit import JobKit
from iron_bucket.core.bucket.need import Sort
from iron_bucket.core.setups.evaluate.ladder import Ladder


@dataclass(frozen=True, slots=True, kw_only=True)
class LineChange:
    """``now`` and ``then``: how many; ``price`` for all days and ``weight`` in kg: then more than now."""

    slug: str
    area_m2: float
    name: str
    kind: str
    now: int
    then: int
    price: float
    weight: float


@dataclass(frozen=True, slots=True, kw_only=True)
class TargetChange:
    """``now`` and ``then`` in stops; ``is_lost``: held now, missed then."""

    setup_id: int
    name: str
    now: float
    then: float
    is_lost: bool


def line_changes(
    now: JobKit, then: JobKit, sources_now: Mapping[Sort, Source], sources_then: Mapping[Sort, Source]
) -> Iterator[LineChange]:
    """What there is more or less of."""
    for sort in dict.fromkeys((*now.by_sort, *then.by_sort)):
        before, after = now.by_sort.get(sort), then.by_sort.get(sort)
        line = after or before
        counts = [each.quantity if each else 0 for each in (before, after)]
        if line is None or counts[0] == counts[1]:
            continue
        prices = [each[sort].price or 0.0 if sort in each else 0.0 for each in (sources_now, sources_then)]
        yield LineChange(
            slug=sort[0],
            area_m2=sort[1],
            name=line.item.name,
            kind=line.kind,
            now=counts[0],
            then=counts[1],
            price=prices[1] - prices[0],
            weight=line.weight_of(counts[1]) - line.weight_of(counts[0]),
        )


def target_changes(setup_id: int, now: Ladder, then: Ladder) -> Iterator[TargetChange]:
    """Every target as it lies now and as it would."""
    for rung in now.rungs:
        after = then.rung(rung.mark_id)
        if rung.target is not None and after is not None:
            yield TargetChange(
                setup_id=setup_id,
                name=rung.name,
                now=rung.stops,
                then=after.stops,
                is_lost=after.is_missed and not rung.is_missed,
            )
