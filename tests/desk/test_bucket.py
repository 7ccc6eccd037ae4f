"""What a crew says of its bucket, ticks, links, and whole jobs out and in: against the real database."""

from datetime import date, datetime
from uuid import uuid4

import pytest

from iron_bucket.core.bench.unit import Condition
from iron_bucket.core.bucket.kit_rules import OwnRule, RuleChange, Subject
from iron_bucket.core.bucket.ticks import Stage, Tick, Trouble
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk import bench, jobs, people
from iron_bucket.desk.bucket import open_bucket
from iron_bucket.desk.bucket.kit_share import kit_shares, open_kit_share, revoke_kit_share, shared_kit
from iron_bucket.desk.bucket.plan import change_plan, put_own_rule, remove_own_rule, set_packing, set_rule
from iron_bucket.desk.bucket.ticks import open_ticks, put_ticks
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.job_transfer import import_job, job_text
from iron_bucket.desk.power.days import day_view
from iron_bucket.desk.power.view import open_power
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.job_file import read_job
from iron_bucket.store.history import ScopeKind
from tests.database import to_undo


@pytest.fixture
def me(demo):
    return people.sign_in(demo, DEMO_SIGN_IN, DEMO_PASSWORD).person.person_id


@pytest.fixture
def other(demo):
    return people.add_person(demo, name="Other", sign_in="other", password="long enough to pass").person_id


@pytest.fixture
def job_id(demo, me):
    return next(job.job_id for job in jobs.list_jobs(demo, me) if job.rules.voltage_v == 230)


def test_a_crew_changes_its_rules_and_the_next_job_starts_with_them(demo, me, other, job_id):
    view = open_bucket(demo, me, job_id)
    assert view.kit.by_sort["gloves-heat", 1.0].quantity == 2
    off = set_rule(demo, me, job_id, view.job.version, RuleChange(rule_id="gloves", is_on=False))
    assert ("gloves-heat", 1.0) not in off.kit.by_sort
    with pytest.raises(ChangedMeanwhile):
        set_rule(demo, me, job_id, view.job.version, RuleChange(rule_id="gloves"))
    own = OwnRule(rule_id="own-1", says="A peg bag a lamp", of=Subject.LAMP, brings="peg", count=50.0)
    more = put_own_rule(demo, me, job_id, off.job.version, own)
    assert more.kit.by_sort["pegs", 1.0].quantity > 3
    packed = set_packing(demo, me, job_id, more.job.version, {"lift_kg": 15.0})
    job = jobs.create_job(demo, me, "Next", "", HouseRules())
    kit = open_bucket(demo, me, job).crew
    assert (kit.lift_kg, [each.rule_id for each in kit.changes], kit.own_rules) == (15.0, ["gloves"], (own,))
    jobs.change_job(demo, me, job, 1, "Renamed", "", HouseRules())
    assert open_bucket(demo, me, job).crew == kit  # its form says nothing of that
    back = set_rule(
        demo, me, job_id, packed.job.version, RuleChange(rule_id="gloves", is_on=True, count=2.0, least=1.0)
    )
    assert back.crew.changes == ()
    gone = remove_own_rule(demo, me, job_id, back.job.version, "own-1")
    with pytest.raises(NotFound, match="that rule is no longer there"):
        remove_own_rule(demo, me, job_id, gone.job.version, "own-1")
    for _ in range(5):
        jobs.step_job(demo, me, job_id, to_undo(demo, ScopeKind.JOB, job_id), is_back=True)
    assert open_bucket(demo, me, job_id).crew == view.crew
    with pytest.raises(NotFound):
        set_packing(demo, other, job_id, 1, {})


def test_what_is_out_together_and_lent_counts(demo, me, job_id):
    view = open_bucket(demo, me, job_id)
    shop, night = (
        next(each for each in view.kit.passes if word in each.name) for word in ("bench, wide", "counter at night")
    )
    stands = view.kit.by_sort["stand-medium", 1.0].peak.quantity
    together = {"piece_id": "t", "setup_id": shop.setup_id, "with_id": night.setup_id}
    up = change_plan(demo, me, job_id, [{"operation": "add", "where": "together", "to": together}], "x")
    assert up.kit.by_sort["stand-medium", 1.0].peak.quantity > stands
    lent = {"piece_id": "b", "item": "panel-200", "count": 1, "owner": "Ben"}
    found = change_plan(demo, me, job_id, [{"operation": "add", "where": "borrowed", "to": lent}], "x")
    source = found.sources["panel-200", 1.0]
    assert (source.lent, source.hired) == ((("Ben", 1),), 0)
    assert found.job.totals.day_price < up.job.totals.day_price
    bad = together | {"piece_id": "u", "with_id": shop.setup_id}
    with pytest.raises(BadValue, match="with is"):
        change_plan(demo, me, job_id, [{"operation": "add", "where": "together", "to": bad}], "x")
    with pytest.raises(ChangedMeanwhile):
        change_plan(demo, me, job_id, [{"operation": "remove", "where": "borrowed", "piece_id": "gone"}], "x")
    assert jobs.step_job(demo, me, job_id, to_undo(demo, ScopeKind.JOB, job_id), is_back=True) == "x"
    assert open_bucket(demo, me, job_id).sources["panel-200", 1.0].hired == 1


def a_tick(thing: str, **changes) -> Tick:
    made = {"tick_id": str(uuid4()), "thing": thing, "stage": Stage.PULLED, "made_at": datetime(2026, 11, 27, 9, 0, 5)}
    return Tick(**(made | changes))


def test_ticks_are_taken_once_and_what_comes_back_otherwise_feeds_the_bench(demo, me, other, job_id):
    tick = a_tick("day-led-60")
    before = open_ticks(demo, me, job_id)
    view = put_ticks(demo, me, job_id, [tick, tick, a_tick("stand-medium", count=2)])
    again = put_ticks(demo, me, job_id, [tick])
    assert (again.tallies["day-led-60"].at(Stage.PULLED), len(again.rows)) == (1, 2)
    assert before.mark != view.mark == again.mark
    assert (again.last_of("day-led-60"), again.last_of("pegs")) == (again.people[me], "")
    back = {"stage": Stage.RETURNED}
    tube = next(head.owned for head in bench.shelf(demo).gear.heads if head.slug == "tube-60")
    found = put_ticks(
        demo,
        me,
        job_id,
        [
            a_tick("day-led-300#day-led-300-no-1", **back, trouble=Trouble.DAMAGED, note="cracked lens"),
            a_tick("tube-60", **back, trouble=Trouble.MISSING),
        ],
    )
    gear = bench.shelf(demo).gear
    unit = next(unit for unit in gear.units if unit.slug == "day-led-300-no-1")
    assert (unit.condition, unit.faults) == (Condition.DAMAGED, ("cracked lens",))
    assert next(head.owned for head in gear.heads if head.slug == "tube-60") == tube - 1
    assert (found.tallies["day-led-300"].damaged, found.tallies["tube-60"].gone) == (1, 1)
    put_ticks(demo, me, job_id, [a_tick("tube-60", **back, trouble=Trouble.MISSING, count=-1)])
    assert next(head.owned for head in bench.shelf(demo).gear.heads if head.slug == "tube-60") == tube
    with pytest.raises(NotFound):
        put_ticks(demo, other, job_id, [])
    with pytest.raises(BadValue, match="up to 500 at once"):
        put_ticks(demo, me, job_id, [tick] * 501)


def test_a_link_shows_the_kit_until_it_is_off(demo, me, other, job_id):
    token = open_kit_share(demo, me, job_id, has_prices=False)
    assert open_kit_share(demo, me, job_id, has_prices=False) == token
    dear = open_kit_share(demo, me, job_id, has_prices=True)
    shares = kit_shares(demo, me, job_id)
    assert {has: found for has, (found, _) in shares.items()} == {False: token, True: dear}
    assert [shared_kit(demo, each)[1] for each in (token, dear)] == [False, True]
    revoke_kit_share(demo, me, job_id, has_prices=False)
    with pytest.raises(NotFound, match="this link is off"):
        shared_kit(demo, token)
    with pytest.raises(NotFound):
        open_kit_share(demo, other, job_id, has_prices=True)


def test_whole_jobs_go_out_and_in_byte_for_byte_and_never_twice(demo, me, other):
    for job in jobs.list_jobs(demo, me):
        put_ticks(demo, me, job.job_id, [a_tick("pegs")])
        text = job_text(demo, me, job.job_id)
        assert not import_job(demo, me, text).is_new
        taken = import_job(demo, other, text)
        assert (taken.is_new, taken.pieces) == (True, 0)
        assert job_text(demo, other, taken.job_id) == text
        here, there = (open_bucket(demo, who, number) for who, number in ((me, job.job_id), (other, taken.job_id)))
        assert {sort: line.quantity for sort, line in here.kit.by_sort.items()} == {
            sort: line.quantity for sort, line in there.kit.by_sort.items()
        }
        copy = import_job(demo, me, text, is_copy=True)
        assert read_job(job_text(demo, me, copy.job_id)).uid != read_job(text).uid
        assert open_ticks(demo, me, copy.job_id).rows == []
    assert len(jobs.list_jobs(demo, other)) == 2
    with pytest.raises(FormatError, match="job file"):
        import_job(demo, me, "{}")


def test_what_did_not_change_is_made_once(demo, me, job_id):
    """The kit of a job and what is said of its batteries, opened twice; another kit after a change."""
    first, second = (open_bucket(demo, me, job_id) for _ in range(2))
    assert first.kit is second.kit
    night = date(2026, 5, 20)
    one, other = (day_view(open_power(demo, me, job_id), night) for _ in range(2))
    assert len(one.savings) > 0
    assert all(getattr(one, name) is getattr(other, name) for name in ("savings", "charging", "enough"))
    set_rule(demo, me, job_id, first.job.version, RuleChange(rule_id="gloves", is_on=False))
    assert open_bucket(demo, me, job_id).kit is not first.kit
