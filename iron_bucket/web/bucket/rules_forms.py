"""Forms of how a crew packs: its school, its rules, what is out together, what is lent."""

from collections.abc import Iterable, Mapping
from typing import Any

from iron_bucket.core.bucket.bucket_plan import BucketPlan
from iron_bucket.core.bucket.kit_rules import BagSchool, CrewKit, KitRule, OwnRule, RuleChange, Subject, facts_of
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.typical import typical
from iron_bucket.desk.bucket import BucketView
from iron_bucket.desk.errors import NotFound
from iron_bucket.web.shared.typed_fields import Row, Takes, TypedField, field, read_row

PACKING_FIELDS = (
    field("bag_school", "Bags", Takes.CHOICE, [each.value for each in BagSchool]),
    field("wind_m_s", "Wind that stands hold, m/s", is_fine=True),
    field("lift_kg", "One person lifts", Takes.MASS),
    field("hire_days", "Hired for so many days", hint="0: the days that are shot"),
    field("currency", "Currency", Takes.TEXT, hint="before prices"),
)
#: What facts are measured in, where a rule's threshold is typed.
_TAKES = {"length": Takes.LENGTH, "mass": Takes.MASS}


def rule_fields(rule: KitRule) -> tuple[TypedField, ...]:
    """What of a rule of the house can be changed."""
    found = [field("is_on", "in force", Takes.YES)]
    if rule.brings or rule.per:
        found.append(field("count", "brings", is_fine=True))
    if rule.fact:
        unit = typical("kit_facts")[rule.fact]["unit"]
        if unit != "yes":
            found.append(field("least", "from", _TAKES.get(unit, Takes.NUMBER), is_fine=True))
    return tuple(found)


def read_rule(rule: KitRule, form: Any, units: UnitSystem) -> RuleChange:
    """Raises: BadValue."""
    row = read_row(rule_fields(rule), form, units)
    return RuleChange(
        rule_id=rule.rule_id,
        is_on=bool(row.get("is_on", rule.is_on)),
        count=row.get("count", rule.count),
        least=row.get("least", rule.least),
    )


def read_packing(form: Any, units: UnitSystem) -> Row:
    """Changes to how the crew packs. Raises: BadValue."""
    row = read_row(PACKING_FIELDS, form, units)
    if "bag_school" in row:
        row["bag_school"] = BagSchool(row["bag_school"])
    if "hire_days" in row:
        row["hire_days"] = int(row["hire_days"])
    return row


def own_fields(view: BucketView) -> tuple[TypedField, ...]:
    """Of a rule of the crew's own."""
    roles = sorted({each.role for each in view.gear.accessories if not each.is_retired})
    subjects = [each for each in Subject if facts_of(each)]
    facts = {name: _fact_name(name) for subject in subjects for name in facts_of(subject)}
    return (
        field("says", "The rule, in a sentence", Takes.TEXT),
        field("of", "For every", Takes.CHOICE, [each.value for each in subjects]),
        field("fact", "Where its", Takes.CHOICE, [("", "no condition"), *facts.items()]),
        field("least", "is at least", is_fine=True),
        field("brings", "Brings", Takes.CHOICE, roles),
        field("count", "So many", is_fine=True),
        field("per", "For each of its", Takes.CHOICE, [("", "once"), *facts.items()]),
    )


def _fact_name(name: str) -> str:
    return name.removesuffix("_m2").removesuffix("_kg").removesuffix("_m").removeprefix("is_").replace("_", " ")


def read_own(view: BucketView, form: Any) -> OwnRule:
    """Raises: BadValue."""
    row = read_row(own_fields(view), form, view.job.rules.units)
    row["of"] = Subject(row["of"])
    return OwnRule(rule_id=form.get("rule_id") or next_id(view.crew.own_rules, "own"), **row)


def next_id(there: Iterable[Any], word: str) -> str:
    """An id that none of those bears."""
    taken = {getattr(each, "rule_id", "") or getattr(each, "piece_id", "") for each in there}
    return next(f"{word}-{at}" for at in range(1, len(taken) + 2) if f"{word}-{at}" not in taken)


def plan_fields(view: BucketView) -> Mapping[str, tuple[TypedField, ...]]:
    """Of what is said of the bucket, list by list."""
    passes = [(str(each.setup_id), each.name) for each in view.kit.passes]
    items = {line.item.slug: line.item.name for line in view.kit.lines}
    return {
        "together": (
            field("setup_id", "The kit of", Takes.CHOICE, passes),
            field("with_id", "is still out with", Takes.CHOICE, passes),
        ),
        "borrowed": (
            field("item", "What", Takes.CHOICE, list(items.items())),
            field("count", "How many"),
            field("owner", "From", Takes.TEXT),
        ),
    }


def list_change(view: BucketView, where: str, fields: Iterable[TypedField] | None, form: Any) -> Row:
    """One more in a list of the plan, or one out. Raises: BadValue; NotFound for a list that there is not."""
    if fields is None:
        raise NotFound("a bucket has no such list")
    if piece_id := form.get("out"):
        return {"operation": "remove", "where": where, "piece_id": piece_id}
    return _added(view.plan, where, read_row(fields, form, view.job.rules.units))


def _added(plan: BucketPlan, where: str, row: Row) -> Row:
    numbers = {key: int(row[key]) for key in ("setup_id", "with_id", "count") if key in row}
    lists = [each for name in ("together", "borrowed", "cases", "vehicles", "stowed") for each in getattr(plan, name)]
    piece = row | numbers | {"piece_id": next_id(lists, where)}
    return {"operation": "add", "where": where, "to": piece}


def house_rules(crew: CrewKit) -> list[tuple[Subject, list[KitRule]]]:
    """By what they hold for; the crew's own last."""
    by_subject = [(each, [rule for rule in crew.rules if rule.of is each and not rule.is_own]) for each in Subject]
    return [pair for pair in by_subject if pair[1]]
