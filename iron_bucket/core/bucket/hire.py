"""Where each line of a kit comes from: our own, borrowed, hired for so many days, or nowhere yet."""

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bench.unit import Unit
from iron_bucket.core.bucket.availability import ready
from iron_bucket.core.bucket.bucket_plan import Borrowed
from iron_bucket.core.bucket.job_kit import KitLine

DAYS_A_WEEK = 7


def hire_price(item: Item, days: int) -> float | None:
    """Of one for so many days: whole weeks by the week, the rest by the day or one more week, whichever is less; never
    fewer days than the house charges. None where it is not for hire.
    """
    if item.day_price is None:
        return None
    charged = max(days, item.least_days)
    week = DAYS_A_WEEK * item.day_price if item.week_price is None else item.week_price
    weeks, rest = divmod(charged, DAYS_A_WEEK)
    return weeks * week + min(rest * item.day_price, week)


@dataclass(frozen=True, slots=True, kw_only=True)
class Source:
    """Of one line: ``units`` of ours that have a name, ready or not; ``lent``: by whom how many; ``hired`` at ``price``
    for the days, None where no price is known; ``short``: more than anybody has.
    """

    line: KitLine
    own: int
    lent: tuple[tuple[str, int], ...]
    hired: int
    short: int
    price: float | None
    units: tuple[Unit, ...]

    @property
    def lead_days(self) -> int:
        """Notice that the house wants."""
        return self.line.item.lead_days if self.hired else 0


def sources_of(
    lines: Iterable[KitLine], gear: Gear, borrowed: Iterable[Borrowed], days: int
) -> dict[tuple[str, float], Source]:
    """By the sort of each line: own first, then borrowed, then for hire."""
    lenders = _lenders(gear.units, borrowed)
    units: dict[str, list[Unit]] = {}
    for unit in gear.units:
        if not unit.is_retired:
            units.setdefault(unit.head_slug, []).append(unit)
    found = {}
    for line in lines:
        slug = line.item.slug
        lent_here = lenders.get(slug, Counter[str]())
        here = units.get(slug, ())
        broken = sum(unit.is_ours and not unit.condition.can_go for unit in here)
        own = min(ready(line.item, line.area_m2, {slug: broken}), line.quantity)
        left, lent = line.quantity - own, []
        for owner, count in lent_here.items():
            if taken := min(count, left):
                lent.append((owner, taken))
                left -= taken
        stock = line.item.hire_stock
        hired = 0 if line.item.day_price is None else left if stock is None else min(left, stock)
        price = hire_price(line.item, days)
        found[line.sort] = Source(
            line=line,
            own=own,
            lent=tuple(lent),
            hired=hired,
            short=left - hired,
            price=None if price is None else hired * line.area_m2 * price,
            units=tuple(units.get(slug, ())),
        )
    return found


def _lenders(units: Iterable[Unit], borrowed: Iterable[Borrowed]) -> dict[str, Counter[str]]:
    """By slug, who lends how many."""
    found: dict[str, Counter[str]] = {}
    for unit in units:
        if not unit.is_ours and unit.condition.can_go and not unit.is_retired:
            found.setdefault(unit.head_slug, Counter())[unit.owner] += 1
    for lent in borrowed:
        found.setdefault(lent.item, Counter())[lent.owner] += lent.count
    return found
