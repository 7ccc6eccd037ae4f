"""What a set-up's own gear draws, weighs and costs."""

from dataclasses import dataclass

from iron_bucket.core.bucket.pass_kit import PassKit
from iron_bucket.core.bucket.totals import hired_of
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.power.apparent import a_from_va


@dataclass(frozen=True, slots=True, kw_only=True)
class LoadSummary:
    """``amps`` at the job's voltage, of lamps that burn and have no battery;

    ``day_price`` of what is not ours. ``left_out``: what is not counted, and why.
    """

    amps: float
    weight_kg: float
    day_price: float
    left_out: tuple[str, ...]


def load_summary(kit: PassKit, rules: HouseRules) -> LoadSummary:
    """Sums over the kit of one pass."""
    return LoadSummary(
        amps=float(a_from_va(sum(entry.mains_va for entry in kit.entries), rules.voltage_v)),
        weight_kg=sum(entry.weight_kg for entry in kit.entries),
        day_price=sum(each.day_price or 0.0 for each in hired_of(kit.entries, kit.away).values()),
        left_out=kit.left_out,
    )
