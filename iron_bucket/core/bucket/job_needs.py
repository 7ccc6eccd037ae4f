"""What no single pass asks for: spares, batteries for the hours, what Power brings, gloves, tape."""

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import TypeGuard

from iron_bucket.core.bench.accessory import Accessory
from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.cable import Cable
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import BUILT_IN, POWER_STATION, Head
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bucket.accessories import Facts, Fetcher
from iron_bucket.core.bucket.kit_pass import KitPass
from iron_bucket.core.bucket.kit_rules import Subject
from iron_bucket.core.bucket.need import Need, Sort, need
from iron_bucket.core.bucket.peak import Peak
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.quantities.rounding import whole_up

#: Where plugs have fuses of their own.
_FUSED_V = 220


@dataclass(frozen=True, kw_only=True)
class JobNeeds:
    """``needs`` beside those of the passes; ``floors``: at least so many batteries of a kind, not on top of those;
    ``left_out`` in words.
    """

    needs: tuple[Need, ...]
    floors: tuple[Need, ...]
    left_out: tuple[str, ...]


def job_needs(
    passes: Sequence[KitPass], peaks: Mapping[Sort, Peak], power: JobPower, gear: Gear, rules: HouseRules
) -> JobNeeds:
    """From what is out at most, and from what Power says."""
    fetcher = Fetcher(gear, rules.kit, rules.units)
    floors = (*_said(power, gear, fetcher), *_by_hours(passes, power, gear, rules))
    needs = [*_of_power(power, gear, fetcher)]
    if passes:
        for facts in _facts(passes, peaks, floors, power, rules):
            needs += fetcher.brought(facts)
        needs += _spares(passes, peaks, rules)
    return JobNeeds(needs=tuple(needs), floors=floors, left_out=tuple(fetcher.left_out))


def _heads(peaks: Mapping[Sort, Peak]) -> Iterator[tuple[Head, Peak]]:
    for peak in peaks.values():
        item = peak.everywhere[0][1].entry.item
        if isinstance(item, Head):
            yield item, peak


def _leads(peaks: Mapping[Sort, Peak]) -> list[tuple[Cable, int]]:
    items = ((peak.everywhere[0][1].entry.item, peak.quantity) for peak in peaks.values())
    return [(item, count) for item, count in items if isinstance(item, Cable) and not item.is_adapter]


def _facts(
    passes: Sequence[KitPass], peaks: Mapping[Sort, Peak], floors: Sequence[Need], power: JobPower, rules: HouseRules
) -> Iterator[Facts]:
    heads = [(head, peak.quantity) for head, peak in _heads(peaks)]
    leads = sum(count for lead, count in _leads(peaks) if not lead.is_multiway)
    figures = {
        "heads": float(sum(count for _, count in heads)),
        "hot_heads": float(sum(count for head, count in heads if head.is_hot)),
        "steered_heads": float(sum(count for head, count in heads if head.control)),
        "leads": float(leads),
        "fused_leads": float(leads if rules.voltage_v >= _FUSED_V else 0),
        "passes": float(len(passes)),
        "days": float(len({each.day for each in passes})),
    }
    yield Facts(subject=Subject.JOB, holder="job", name="the whole job", figures=figures)
    globes: Counter[str] = Counter()
    for head, count in heads:
        globes[head.globe] += count if head.globe else 0
    for globe, count in globes.items():
        if count:
            yield Facts(subject=Subject.GLOBE, holder=globe, name=globe, figures={"heads": float(count)}, fits=globe)
    yield from _mounts(peaks, floors, power)


def _mounts(peaks: Mapping[Sort, Peak], floors: Sequence[Need], power: JobPower) -> Iterator[Facts]:
    """Batteries by their mounts, unless Power says what charges them."""
    counts: Counter[Item] = Counter()
    told = [(peak.everywhere[0][1].entry.item, peak.quantity) for peak in peaks.values()]
    for item, count in (*told, *((floor.entry.item, floor.pieces) for floor in floors)):
        counts[item] = max(count, counts[item])
    charged = {slug for charger in power.chargers for slug in charger.kinds}
    mounts: Counter[str] = Counter()
    for kind, count in counts.items():
        if _is_charged_apart(kind) and kind.slug not in charged:
            mounts[kind.mount] += count
    for mount, count in mounts.items():
        yield Facts(subject=Subject.MOUNT, holder=mount, name=mount, figures={"batteries": float(count)}, fits=mount)


def _is_charged_apart(item: Item) -> TypeGuard[BatteryKind]:
    """Whether it is a battery that goes into a charger."""
    return isinstance(item, BatteryKind) and item.mount not in (POWER_STATION, BUILT_IN)


def _said(power: JobPower, gear: Gear, fetcher: Fetcher) -> Iterator[Need]:
    """The batteries that Power says for the days."""
    for row in power.batteries:
        kind = gear.find(BatteryKind, row.kind)
        if kind is None:
            fetcher.left_out.append(f"batteries: {row.kind} is not on the bench")
        elif row.count:
            yield need("batteries", kind, "battery-day", row.piece_id, pieces=row.count, figure="said in Power")


def _by_hours(passes: Sequence[KitPass], power: JobPower, gear: Gear, rules: HouseRules) -> Iterator[Need]:
    """Of the day that takes most: its watt-hours by what one battery gives. Nothing of it is taken for charged
    again.
    """
    if not rules.kit.rule("battery-hours").is_on:
        return
    said = {row.kind for row in power.batteries}
    watt_hours: dict[BatteryKind, Counter[date]] = defaultdict(Counter)
    for each in passes:
        for kind, watts in _on_batteries(each):
            if kind.slug not in said:
                watt_hours[kind][each.day] += watts * each.lit_h  # type: ignore[assignment]
    for kind, by_day in watt_hours.items():
        most_wh, one_wh = float(max(by_day.values())), kind.supply(1).energy_wh
        figure = f"{most_wh:.0f} Wh on the longest day, {one_wh:.0f} from each, none charged again"
        yield need("batteries", kind, "battery-hours", "hours", pieces=whole_up(most_wh / one_wh), figure=figure)


def _on_batteries(each: KitPass) -> Iterator[tuple[BatteryKind, float]]:
    """Kinds that feed lamps of a pass, with the watts."""
    needs = [need for kit in each.kits for need in kit.needs]
    heads = {need.holder: need.entry for need in needs if need.rule == "head"}
    for fed in needs:
        kind, lamp = fed.entry.item, heads.get(fed.holder)
        if fed.rule != "battery-set" or not _is_charged_apart(kind) or lamp is None or lamp.level <= 0.0:
            continue
        if isinstance(lamp.item, Head):
            yield kind, float(lamp.item.draw.watts(lamp.level))


def _of_power(power: JobPower, gear: Gear, fetcher: Fetcher) -> Iterator[Need]:
    """Generators, boxes and chargers, as far as it is said which piece of the bench they are."""
    for each in (*power.generators, *power.boards, *power.chargers):
        found = gear.find(Accessory, each.item) if each.item else None
        if found is not None:
            yield need("accessories", found, "plan-source", each.piece_id, pieces=found.pack, figure=each.name)
        elif each.is_carried:
            fetcher.left_out.append(
                f"{each.name}: Power does not say which piece of the bench it is, so it has no weight and no price"
            )


def _spares(passes: Sequence[KitPass], peaks: Mapping[Sort, Peak], rules: HouseRules) -> Iterator[Need]:
    """One more of the head that gives the key, and of the lead that most are of."""
    key, lead = rules.kit.rule("spare-key"), rules.kit.rule("spare-lead")
    heads = [(each.name, need) for each in passes for need in _keys(each)]
    if key.is_on and heads:
        counts = Counter(need.entry.item.slug for _, need in heads)
        name, best = max(heads, key=lambda pair: counts[pair[1].entry.item.slug])
        yield need("heads", best.entry.item, key.rule_id, "spare", figure=f"the key of {name}", level=0.0)
    leads = [(item, count) for item, count in _leads(peaks) if not item.is_multiway]
    figures = {"leads": float(sum(count for _, count in leads))}
    if leads and lead.fires(figures) and lead.pieces(figures):
        most = max(leads, key=lambda pair: (pair[1], pair[0].length_m))[0]
        yield need(
            "cables", most, lead.rule_id, "spare", pieces=lead.pieces(figures), figure=lead.figure(figures, rules.units)
        )


def _keys(each: KitPass) -> list[Need]:
    """The lamp that is called a key, else the first: in the order of a set-up that is it."""
    heads = [need for kit in each.kits for need in kit.needs if need.rule == "head"]
    return [need for need in heads if "key" in need.figure.casefold()][:1] or heads[:1]
