from dataclasses import replace

import pytest
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.selection.ranking import SortBy
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk import bucket, jobs, people
from iron_bucket.desk import pick as desk_pick
from iron_bucket.desk.demo import load_demo
from iron_bucket.desk.errors import ChangedMeanwhile, NotAllowed, NotFound
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.store.history import ScopeKind
from tests.database import to_redo, to_undo
from tests.made_up import a_need
from tests.tables import tabled

JOB = ScopeKind.JOB


@pytest.fixture
def gaffer(demo):
    return people.sign_in(demo, DEMO_SIGN_IN, DEMO_PASSWORD).person


@pytest.fixture
def job(demo, gaffer):
    return next(job for job in jobs.list_jobs(demo, gaffer.person_id) if job.rules.voltage_v == 230)


def test_the_demo_is_loaded_once(demo, gaffer):
    assert not load_demo(demo)
    both = jobs.list_jobs(demo, gaffer.person_id)
    assert sorted(job.totals.heads for job in both) == [6, 13]  # picked, and placed beyond that
    assert all(job.totals.weight_kg > 10 for job in both)


@pytest.mark.parametrize(("name", "password"), [(DEMO_SIGN_IN, "wrong password"), ("nobody", DEMO_PASSWORD), ("", "")])
def test_a_wrong_sign_in_does_not_say_which(demo, name, password):
    with pytest.raises(NotAllowed, match="wrong sign-in or password"):
        people.sign_in(demo, name, password)


@tabled
def test_new_people_are_checked(demo, change, field):
    with pytest.raises(BadValue, match=f"^{field} is"):
        people.add_person(demo, **({"name": "Somebody", "sign_in": "some", "password": "long enough to pass"} | change))


def test_a_job_is_seen_only_by_its_crew(demo, job):
    other = people.add_person(demo, name="Other", sign_in="other", password="long enough to pass")
    assert jobs.list_jobs(demo, other.person_id) == ()
    for use_case in (
        lambda: jobs.open_job(demo, other.person_id, job.job_id),
        lambda: jobs.step_job(demo, other.person_id, job.job_id, 1, is_back=True),
        lambda: jobs.archive_job(demo, other.person_id, job.job_id, is_archived=True),
        lambda: jobs.change_job(demo, other.person_id, job.job_id, job.version, "Mine", "", job.rules),
        lambda: bucket.open_bucket(demo, other.person_id, job.job_id),
        lambda: bucket.take_out(demo, other.person_id, job.job_id, job.version, 1),
    ):
        with pytest.raises(NotFound):
            use_case()


def test_a_job_is_renamed_and_every_change_undone(demo, gaffer, job):
    jobs.change_job(
        demo, gaffer.person_id, job.job_id, job.version, "Renamed", "", replace(job.rules, planned_share=0.7)
    )
    changed = jobs.open_job(demo, gaffer.person_id, job.job_id)
    assert (changed.name, changed.rules.planned_share, changed.version) == ("Renamed", 0.7, job.version + 1)
    jobs.archive_job(demo, gaffer.person_id, job.job_id, is_archived=True)
    me, number = gaffer.person_id, job.job_id
    texts = ["archived the job", "changed the job's name or rules"]
    assert [jobs.step_job(demo, me, number, to_undo(demo, JOB, number), is_back=True) for _ in texts] == texts
    back = jobs.open_job(demo, gaffer.person_id, job.job_id)
    assert (back.name, back.rules, back.is_archived) == (job.name, job.rules, False)
    assert [jobs.step_job(demo, me, number, to_redo(demo, JOB, number), is_back=False) for _ in texts] == texts[::-1]
    assert jobs.open_job(demo, gaffer.person_id, job.job_id).name == "Renamed"


def test_two_people_do_not_overwrite_each_other(demo, gaffer, job):
    jobs.change_job(demo, gaffer.person_id, job.job_id, job.version, "First", "", job.rules)
    with pytest.raises(ChangedMeanwhile, match="“First” was changed meanwhile"):
        jobs.change_job(demo, gaffer.person_id, job.job_id, job.version, "Second", "", job.rules)
    assert jobs.open_job(demo, gaffer.person_id, job.job_id).name == "First"


@pytest.mark.parametrize(
    ("name", "places", "field"), [("", "", "name"), ("x" * 121, "", "name"), ("fine", "x" * 301, "places")]
)
def test_jobs_are_checked_before_anything_is_written(demo, gaffer, name, places, field):
    with pytest.raises(BadValue, match=f"^{field} is"):
        jobs.create_job(demo, gaffer.person_id, name, places, HouseRules())
    assert len(jobs.list_jobs(demo, gaffer.person_id)) == 2


def hand(view):
    """Lines as they were put in, in their order."""
    lines = [line for several in view.by_hand.values() for line in several]
    return sorted(lines, key=lambda line: line.entry.entry_id)


def test_a_fit_goes_into_the_bucket_with_all_that_hangs_on_it(demo, gaffer):
    number = jobs.create_job(demo, gaffer.person_id, "Empty", "", HouseRules())
    need = a_need(illuminance_lx=200.0, least_apparent_deg=10.0)
    view = bucket.put_in(demo, gaffer.person_id, number, need, "day-led-300.bare~dome-0.9~none", "  key   light ")
    (branch,) = hand(view)
    assert branch.entry.item.slug == "day-led-300"
    assert branch.entry.purpose == "key   light"
    assert 0 < branch.entry.level < 1
    assert branch.entry.setting
    kinds = [entry.kind for entry in branch.hanging]
    assert "stands" in kinds
    assert view.job.totals.heads == 1
    assert view.job.steps.undo.text == "put day LED 300 in the bucket"
    for key in ("gone~open~none", "", "day-led-300.bare~gone~none"):
        with pytest.raises(NotFound, match="no longer on the bench"):
            bucket.put_in(demo, gaffer.person_id, number, need, key, "")
    with pytest.raises(BadValue, match="purpose is 201 letters long"):
        bucket.put_in(demo, gaffer.person_id, number, need, "day-led-300.bare~open~none", "x" * 201)


def test_counts_purposes_taking_out_and_undo(demo, gaffer, job):
    number = (gaffer.person_id, job.job_id)
    view = bucket.open_bucket(demo, *number)
    line = hand(view)[0].entry.entry_id
    more = bucket.set_quantity(demo, *number, view.job.version, line, 3)
    assert hand(more)[0].entry.quantity == 3
    assert more.job.totals.heads == view.job.totals.heads + 2
    noted = bucket.set_purpose(demo, *number, more.job.version, line, " two \n lines ")
    assert hand(noted)[0].entry.purpose == "two lines"
    out = bucket.take_out(demo, *number, noted.job.version, line)
    assert line not in [branch.entry.entry_id for branch in hand(out)]
    assert not [entry for entry in out.entries if entry.parent_id == line]
    while step := to_undo(demo, JOB, job.job_id):
        jobs.step_job(demo, *number, step, is_back=True)
    assert all(entry.entry_id < 0 for entry in bucket.open_bucket(demo, *number).entries)  # placed in set-ups


def test_an_unchanged_value_is_no_change(demo, gaffer, job):
    view = bucket.open_bucket(demo, gaffer.person_id, job.job_id)
    entry = hand(view)[0].entry
    same = bucket.set_quantity(demo, gaffer.person_id, job.job_id, view.job.version, entry.entry_id, entry.quantity)
    same = bucket.set_purpose(demo, gaffer.person_id, job.job_id, same.job.version, entry.entry_id, entry.purpose)
    assert same.job.version == view.job.version


@pytest.mark.parametrize("quantity", [0, 1000, -1])
def test_counts_that_cannot_be(demo, gaffer, job, quantity):
    line = hand(bucket.open_bucket(demo, gaffer.person_id, job.job_id))[0].entry.entry_id
    with pytest.raises(BadValue, match="^quantity is"):
        bucket.set_quantity(demo, gaffer.person_id, job.job_id, job.version, line, quantity)
    with pytest.raises(NotFound, match="that line is no longer in the bucket"):
        bucket.set_quantity(demo, gaffer.person_id, job.job_id, job.version, 9999, 2)
    with pytest.raises(ChangedMeanwhile):
        bucket.set_quantity(demo, gaffer.person_id, job.job_id, job.version - 1, line, 2)


def test_one_candidate_alone_says_what_the_whole_list_said(demo):
    need = a_need(illuminance_lx=300.0, cct_k=5600.0)
    whole = desk_pick.answer(demo, need, SortBy.RANK, UnitSystem.METRIC)
    (alone,) = desk_pick.compare(demo, need, (whole.rows[0].fit.key,), UnitSystem.METRIC)
    assert alone.fit.headroom_stops == pytest.approx(whole.rows[0].fit.headroom_stops, abs=1e-4)
    assert [step.label for step in alone.chain.steps] == [step.label for step in whole.rows[0].chain.steps]
    keys = tuple(row.fit.key for row in whole.rows[:4])
    assert [view.fit.key for view in desk_pick.compare(demo, need, ("gone~x~y", *keys), UnitSystem.METRIC)] == list(
        keys[:2]
    )


class _Trouble(Exception):
    pass


@pytest.mark.parametrize(("code", "tries"), [(1213, 2), (1205, 2), (2006, 1)])
def test_a_deadlock_is_tried_once_more(engine, code, tries):
    seen = []

    @one_transaction
    def use_case(session: Session) -> str:
        seen.append(1)
        if len(seen) < 2:
            raise OperationalError("x", {}, _Trouble(code, "trouble"))
        return "done"

    with Session(engine) as session:
        if tries == 2:
            assert use_case(session) == "done"
        else:
            with pytest.raises(OperationalError):
                use_case(session)
    assert len(seen) == tries
