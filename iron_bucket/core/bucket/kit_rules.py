"""Rules of the kit: what has to come along for whatever stands, burns or lies there. They are data; a crew has its own.

Each says for what it holds, when, and what it brings. Those that bring nothing by themselves stand for a choice of the
program's (a stand that carries, a lead that reaches), so that every line of a kit can name the rule that put it there.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache

from iron_bucket.core.checks import require_at_most, require_between, require_showable, require_word
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.rounding import at_most
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.typical import typical

LONGEST_RULE, LONGEST_ID = 120, 60
MOST_OWN_RULES, MOST_COUNT = 60, 1000.0
#: A share of a thing is brought whole; a hair of it is none.
_HAIR = 1e-3


class Subject(StrEnum):
    """For what a rule holds."""

    LAMP = "lamp"
    FRAME = "frame"
    BOARD = "board"
    FLAG = "flag"
    STAND = "stand"
    FILM = "film"
    LEAD = "lead"
    PASS = "pass"
    GLOBE = "globe"
    MOUNT = "mount"
    JOB = "job"


class BagSchool(StrEnum):
    """What holds a stand down where no wind blows. Source: docs/craft.md, section 7."""

    EVERY_STAND = "a bag on every stand"
    HANG_HEAVY = "hang what is heavy"


@dataclass(frozen=True, slots=True, kw_only=True)
class KitRule:
    """Fires where ``fact`` is ``least`` and more, always without a fact; brings ``count`` of what does the work of
    ``brings``, for each of the fact ``per``. ``bears``: the fact that it must hold; ``shows``: the facts of its figure;
    ``is_summed``: used up, pass by pass, and not the most at one time.
    """

    rule_id: str
    says: str
    of: Subject
    brings: str = ""
    fact: str = ""
    least: float = 1.0
    count: float = 1.0
    per: str = ""
    bears: str = ""
    shows: tuple[str, ...] = ()
    is_summed: bool = False
    is_on: bool = True
    is_fixed: bool = False
    is_own: bool = False

    def fires(self, facts: Mapping[str, float]) -> bool:
        """Whether it holds for that."""
        return self.is_on and (not self.fact or at_most(self.least, facts.get(self.fact, 0.0)))

    def pieces(self, facts: Mapping[str, float]) -> int:
        """How many it brings, rounded up."""
        return math.ceil(self.count * (facts.get(self.per, 0.0) if self.per else 1.0) - _HAIR)

    def figure(self, facts: Mapping[str, float], units: UnitSystem) -> str:
        """The facts that it fired by, in words."""
        shown = self.shows or ((self.fact,) if self.fact else ())
        return ", ".join(fact_words(name, facts[name], units) for name in shown if name in facts)


def fact_words(name: str, value: float, units: UnitSystem) -> str:
    """A fact as it reads."""
    row = typical("kit_facts")[name]
    match row["unit"]:
        case "length":
            said = str(display.length(value, units))
        case "mass":
            said = str(display.mass(value, units))
        case "area":
            said = str(display.area(value, units))
        case _:
            said = f"{value:.0f}"
    return str(row["one"] if said == "1" and "one" in row else row["says"]).format(said)


@dataclass(frozen=True, slots=True, kw_only=True)
class RuleChange:
    """What a crew does otherwise than the house: off, or with another count or threshold; None: as it is."""

    rule_id: str
    is_on: bool = True
    count: float | None = None
    least: float | None = None

    def __post_init__(self) -> None:
        if self.rule_id not in typical("kit_rules"):
            raise BadValue("rule", repr(self.rule_id), "one of the house's rules")
        _require_figures(self.count, self.least)


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnRule:
    """A rule of the crew's own; the fields are those of ``KitRule``."""

    rule_id: str
    says: str
    of: Subject
    brings: str
    fact: str = ""
    least: float = 1.0
    count: float = 1.0
    per: str = ""

    def __post_init__(self) -> None:
        require_word("id", self.rule_id, longest=LONGEST_ID)
        require_word("rule", self.says, longest=LONGEST_RULE)
        require_word("brings", self.brings, longest=LONGEST_RULE)
        _require_figures(self.count, self.least)
        for name in filter(None, (self.fact, self.per)):
            if self.of not in typical("kit_facts").get(name, {"of": ()})["of"]:
                raise BadValue("fact", repr(name), ", ".join(facts_of(self.of)) or "nothing: it always holds")


def _require_figures(count: float | None, least: float | None) -> None:
    require_between("count", 1.0 if count is None else count, low=0.0, high=MOST_COUNT, unit="pieces")
    require_between("least", 1.0 if least is None else least, low=0.0, high=1e6, unit="")


def facts_of(subject: Subject) -> tuple[str, ...]:
    """What a rule for that may ask for."""
    return tuple(name for name, row in typical("kit_facts").items() if subject in row["of"])


@dataclass(frozen=True, slots=True, kw_only=True)
class CrewKit:
    """How a crew packs. ``wind_m_s``: what stands outdoors is held for that; ``lift_kg``: the most that one person
    lifts; ``hire_days``: 0 for the days that are shot; ``currency``: before a price.
    """

    bag_school: BagSchool = BagSchool.EVERY_STAND
    wind_m_s: float = 8.0
    lift_kg: float = 25.0
    hire_days: int = 0
    currency: str = ""
    changes: tuple[RuleChange, ...] = ()
    own_rules: tuple[OwnRule, ...] = ()

    def __post_init__(self) -> None:
        require_between("wind_m_s", self.wind_m_s, low=0.0, high=30.0, unit="m/s")
        require_between("lift_kg", self.lift_kg, low=5.0, high=100.0, unit="kg")
        require_between("hire_days", self.hire_days, low=0, high=365, unit="days")
        require_showable("currency", self.currency, longest=8)
        require_at_most("own rules", len(self.own_rules), MOST_OWN_RULES)
        ids = [*(each.rule_id for each in self.changes), *(each.rule_id for each in self.own_rules)]
        if len(set(ids)) < len(ids):
            raise BadValue("rule", repr(max(ids, key=ids.count)), "a rule that is named once")

    @property
    def rules(self) -> tuple[KitRule, ...]:
        """The house's as this crew has them, then its own."""
        return _rules(self)

    def rule(self, rule_id: str) -> KitRule:
        """One of them. Raises: KeyError."""
        return _by_id(self)[rule_id]

    def rules_of(self, subject: Subject) -> tuple[KitRule, ...]:
        """Those that bring something for that."""
        return _by_subject(self).get(subject, ())


@lru_cache(32)
def _rules(crew: CrewKit) -> tuple[KitRule, ...]:
    changed = {each.rule_id: each for each in crew.changes}
    own = (
        KitRule(
            rule_id=each.rule_id,
            says=each.says,
            of=each.of,
            brings=each.brings,
            fact=each.fact,
            least=each.least,
            count=each.count,
            per=each.per,
            is_own=True,
        )
        for each in crew.own_rules
    )
    return (*(_as_changed(rule, changed.get(rule.rule_id)) for rule in _house_rules()), *own)


@lru_cache(1)
def _house_rules() -> tuple[KitRule, ...]:
    return tuple(
        KitRule(**{**row, "rule_id": rule_id, "of": Subject(row["of"]), "shows": tuple(row.get("shows", ()))})
        for rule_id, row in typical("kit_rules").items()
    )


def _as_changed(rule: KitRule, change: RuleChange | None) -> KitRule:
    if change is None or rule.is_fixed:
        return rule
    count = rule.count if change.count is None else change.count
    return replace(rule, is_on=change.is_on, count=count, least=rule.least if change.least is None else change.least)


@lru_cache(32)
def _by_id(crew: CrewKit) -> dict[str, KitRule]:
    return {rule.rule_id: rule for rule in crew.rules}


@lru_cache(32)
def _by_subject(crew: CrewKit) -> dict[Subject, tuple[KitRule, ...]]:
    bringing = [rule for rule in crew.rules if rule.brings]
    return {subject: tuple(rule for rule in bringing if rule.of is subject) for subject in Subject}
