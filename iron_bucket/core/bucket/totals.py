"""What a bucket adds up to."""

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bucket.availability import ready
from iron_bucket.core.bucket.entry import Entry
from iron_bucket.core.cautions.rules import Caution, battery_cautions, circuit_cautions, lamp_cautions, not_counted
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import Cloth
from iron_bucket.core.power.apparent import a_from_va


@dataclass(frozen=True, slots=True, kw_only=True)
class Hired:
    """``pieces`` that are not ours, and what they cost together; None where no price is known."""

    pieces: int
    day_price: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Totals:
    """``mains_a`` at the job's voltage;

    ``planned_a`` is one circuit under the house rule; ``day_price`` only for what is not ours, entry by entry in
    ``hired``.
    """

    heads: int
    mains_w: float
    mains_a: float
    planned_a: float
    battery_wh: float
    weight_kg: float
    day_price: float
    hired: Mapping[int, Hired]
    cautions: tuple[Caution, ...]


def totals_of(
    entries: tuple[Entry, ...], rules: HouseRules, left_out: tuple[str, ...] = (), away: Mapping[str, int] | None = None
) -> Totals:
    """Sums over all entries, and the cautions of every lamp with what hangs on it;

    ``left_out`` is what could not be counted, in words; ``away``: of ours that cannot go, by slug.
    """
    mains_a = float(a_from_va(sum(entry.mains_va for entry in entries), rules.voltage_v))
    hired = hired_of(entries, away)
    return Totals(
        heads=sum(entry.quantity for entry in entries if isinstance(entry.item, Head)),
        mains_w=sum(entry.mains_w for entry in entries),
        mains_a=mains_a,
        planned_a=rules.planned_a,
        battery_wh=sum(entry.battery_wh for entry in entries),
        weight_kg=sum(entry.weight_kg for entry in entries),
        day_price=sum(each.day_price or 0.0 for each in hired.values()),
        hired=hired,
        cautions=(*not_counted(left_out), *_cautions(entries, mains_a, rules)),
    )


def hired_of(entries: tuple[Entry, ...], away: Mapping[str, int] | None = None) -> dict[int, Hired]:
    """What each entry hires, by its id: of each thing, as many as the bucket holds beyond those that are ours.

    Where nobody has said which size of a cloth is ours, the smallest is taken for it: the sum is rather too high than
    too low.
    """
    alike_of: dict[tuple[str, float], list[Entry]] = defaultdict(list)
    for entry in entries:
        is_sized = isinstance(entry.item, Cloth) and bool(entry.item.sizes)
        alike_of[entry.item.slug, round(entry.area_m2, 3) if is_sized else 0.0].append(entry)
    hired: dict[int, Hired] = {}
    for alike in alike_of.values():
        last = max(alike, key=lambda entry: entry.entry_id)  # as last put in
        ours = ready(last.item, last.area_m2, away or {})
        for entry in sorted(alike, key=lambda entry: (entry.area_m2, entry.entry_id)):
            pieces = max(0, entry.quantity - ours)
            ours = max(0, ours - entry.quantity)
            price = None if entry.item.day_price is None else pieces * entry.area_m2 * entry.item.day_price
            hired[entry.entry_id] = Hired(pieces=pieces, day_price=price)
    return hired


def _cautions(entries: tuple[Entry, ...], mains_a: float, rules: HouseRules) -> tuple[Caution, ...]:
    found: list[Caution] = [*circuit_cautions(mains_a, rules)]
    for entry in entries:
        if not entry.quantity:
            continue
        if isinstance(entry.item, Head):
            parts = tuple(each.item for each in entries if each.parent_id == entry.entry_id and each.quantity)
            found += lamp_cautions(entry.item, parts, units=rules.units)
        elif isinstance(entry.item, BatteryKind):
            found += battery_cautions(entry.item, entry.quantity)
    return tuple(dict.fromkeys(found))
