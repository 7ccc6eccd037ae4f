"""Which accessory of the bench does the work that a rule asks for."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from operator import attrgetter

from iron_bucket.core.bench.accessory import Accessory
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bucket.kit_rules import CrewKit, KitRule, Subject
from iron_bucket.core.bucket.need import Need, need
from iron_bucket.core.quantities.units import UnitSystem


@dataclass(frozen=True, slots=True, kw_only=True)
class Facts:
    """What is known of a ``subject``, for the rules: figures, and ``fits``, which an accessory must go with;
    ``length_m`` of one, where it matters.
    """

    subject: Subject
    holder: str
    name: str
    figures: Mapping[str, float]
    fits: str = ""
    length_m: float | None = None


@dataclass(eq=False)
class Fetcher:
    """Looks accessories of one bench up for a crew's rules; ``left_out``: what no accessory does, in words."""

    gear: Gear
    crew: CrewKit
    units: UnitSystem = UnitSystem.METRIC
    left_out: list[str] = field(default_factory=list)
    _by_role: dict[str, list[Accessory]] = field(init=False, default_factory=dict)

    def __post_init__(self) -> None:
        for each in sorted(self.gear.accessories, key=lambda each: (not each.is_owned, each.weight_kg, each.slug)):
            if not each.is_retired:
                self._by_role.setdefault(each.role, []).append(each)

    def brought(self, facts: Facts) -> Iterator[Need]:
        """What all rules bring for that."""
        for rule in self.crew.rules_of(facts.subject):
            pieces = rule.pieces(facts.figures) if rule.fires(facts.figures) else 0
            if pieces <= 0:
                continue
            found = self.accessory(rule, facts)
            figure = rule.figure(facts.figures, self.units)
            if found is None:
                self.left_out.append(f"{rule.says} ({facts.name}): {pieces} × {_asked(rule, facts)}, not on the bench")
                continue
            yield need(
                "accessories",
                found,
                rule.rule_id,
                facts.holder,
                pieces=pieces,
                figure=f"{facts.name}: {figure}" if figure else facts.name,
                is_summed=rule.is_summed,
            )

    def accessory(self, rule: KitRule, facts: Facts) -> Accessory | None:
        """Ours before hired ones, of those the lightest that holds what hangs on it, is rated for what it feeds, and
        goes with it.
        """
        bears = facts.figures.get(rule.bears, 0.0) if rule.bears else 0.0
        limit = attrgetter("rated_w" if rule.bears.endswith("_w") else "holds_kg")
        return next(
            (
                each
                for each in self._by_role.get(rule.brings, ())
                if (not limit(each) or limit(each) >= bears)
                and (not each.fits or not facts.fits or each.fits == facts.fits)
                and (not facts.length_m or not each.length_m or abs(each.length_m - facts.length_m) < _SAME_M)
            ),
            None,
        )


#: Tubes of one length.
_SAME_M = 0.02


def _asked(rule: KitRule, facts: Facts) -> str:
    return f"{rule.brings} for {facts.fits}" if facts.fits else rule.brings
