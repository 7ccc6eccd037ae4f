"""What a crew says of its bucket, and by which rules it packs: changed here, undone with the job."""

from dataclasses import replace
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.bucket.bucket_plan import BucketPlan
from iron_bucket.core.bucket.kit_rules import CrewKit, OwnRule, RuleChange
from iron_bucket.desk.bucket.view import BucketView, bucket_view
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.history import Touch
from iron_bucket.desk.job_contents import kept_plan
from iron_bucket.desk.jobs import lock_job, record_job, rules_from
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.change_json import Outdated, with_changes
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.store.bucket import BucketPlanRow
from iron_bucket.store.history import row_state

Row = dict[str, Any]


@one_transaction
def change_plan(session: Session, person_id: int, job_id: int, changes: list[Row], text: str) -> BucketView:
    """Some changes to what the crew says, or none of them. Raises: NotFound, BadValue, ChangedMeanwhile."""
    row = lock_job(session, person_id, job_id)
    touch = put_plan(session, job_id, changes)
    record_job(session, row, person_id, text, touch)
    session.flush()
    return bucket_view(session, row)


def put_plan(session: Session, job_id: int, changes: list[Row]) -> Touch:
    """Written down within an open transaction; what it touched still has to be noted."""
    row = session.get(BucketPlanRow, job_id, with_for_update=True)
    before = row_state(row) if row else None
    old = kept_plan(row.document) if row else BucketPlan()
    try:
        plan = read_record(BucketPlan, with_changes(write_record(old), changes))
    except Outdated as outdated:
        raise ChangedMeanwhile(str(outdated)) from outdated
    if row is None:
        row = BucketPlanRow(job_id=job_id, document={}, version=0, changed_at=now())
        session.add(row)
    row.document, row.version, row.changed_at = write_record(plan), row.version + 1, now()
    session.flush()
    return Touch(table="bucket_plans", key=job_id, before=before, after=row_state(row))


def _with_crew(session: Session, person_id: int, job_id: int, version: int, text: str, **changes: Any) -> BucketView:
    row = lock_job(session, person_id, job_id, version)
    before, rules = row_state(row), rules_from(row.rules)
    row.rules = write_record(replace(rules, kit=replace(rules.kit, **changes)))
    if (after := row_state(row)) != before:
        record_job(session, row, person_id, text, Touch(table="jobs", key=row.id, before=before, after=after))
    session.flush()
    return bucket_view(session, row)


def _crew(session: Session, person_id: int, job_id: int) -> CrewKit:
    return rules_from(lock_job(session, person_id, job_id).rules).kit


@one_transaction
def set_packing(session: Session, person_id: int, job_id: int, version: int, changes: Row) -> BucketView:
    """School, wind, lifting limit, days, currency. Raises: NotFound, BadValue, ChangedMeanwhile."""
    return _with_crew(session, person_id, job_id, version, "changed how the crew packs", **changes)


@one_transaction
def set_rule(session: Session, person_id: int, job_id: int, version: int, change: RuleChange) -> BucketView:
    """One of the house's rules, as this crew has it. Raises: NotFound, ChangedMeanwhile."""
    crew = _crew(session, person_id, job_id)
    house = CrewKit().rule(change.rule_id)
    is_as_house = (change.is_on, change.count, change.least) == (house.is_on, house.count, house.least)
    others = tuple(each for each in crew.changes if each.rule_id != change.rule_id)
    changes = others if is_as_house else (*others, change)
    text = f"changed the rule “{house.says}”"
    return _with_crew(session, person_id, job_id, version, text, changes=changes)


@one_transaction
def put_own_rule(session: Session, person_id: int, job_id: int, version: int, rule: OwnRule) -> BucketView:
    """A rule of the crew's own, new or changed. Raises: NotFound, ChangedMeanwhile, BadValue."""
    crew = _crew(session, person_id, job_id)
    others = tuple(each for each in crew.own_rules if each.rule_id != rule.rule_id)
    return _with_crew(session, person_id, job_id, version, f"kept the rule “{rule.says}”", own_rules=(*others, rule))


@one_transaction
def remove_own_rule(session: Session, person_id: int, job_id: int, version: int, rule_id: str) -> BucketView:
    """Raises: NotFound where there is none, ChangedMeanwhile."""
    crew = _crew(session, person_id, job_id)
    rule = next((each for each in crew.own_rules if each.rule_id == rule_id), None)
    if rule is None:
        raise NotFound("that rule is no longer there")
    others = tuple(each for each in crew.own_rules if each is not rule)
    return _with_crew(session, person_id, job_id, version, f"removed the rule “{rule.says}”", own_rules=others)
