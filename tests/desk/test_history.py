"""One history: undo is a change like any other, every state of 90 days comes back, gear that stands somewhere stays."""

import random
from datetime import timedelta

import pytest
from sqlalchemy import func, select, update

from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.roles import Role
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk import bench, crews, jobs, people
from iron_bucket.desk.bench.changes import step_bench
from iron_bucket.desk.bench.edit import create
from iron_bucket.desk.errors import ChangedMeanwhile, NotAllowed
from iron_bucket.desk.history import bring_back, step
from iron_bucket.desk.setups import edit
from iron_bucket.desk.thinning import thin_history
from iron_bucket.desk.transaction import all_or_nothing, now
from iron_bucket.store.bench import gear_by_slug
from iron_bucket.store.history import ChangeRow, Scope, ScopeKind
from iron_bucket.store.setups import SetupRow
from iron_bucket.store.states import StateRow
from tests.database import to_redo, to_undo


@pytest.fixture
def me(demo):
    return people.sign_in(demo, DEMO_SIGN_IN, DEMO_PASSWORD).person.person_id


@pytest.fixture
def at(demo, me):
    job_id = next(job.job_id for job in jobs.list_jobs(demo, me) if job.rules.voltage_v == 230)
    with demo.begin():
        return me, job_id, demo.scalars(select(SetupRow.id).where(SetupRow.job_id == job_id)).first()


def test_what_was_put_away_is_not_taken_out_by_undoing_it(demo, me, at):
    """Nor by any way but that of who settles it."""
    ilse, job = people.add_person(demo, name="Ilse", sign_in="il", password="three odd clocks tick").person_id, at[1]
    crews.put_on_job(demo, me, job, "il", Role.BEST_BOY)
    jobs.archive_job(demo, me, job, is_archived=True)
    away = to_undo(demo, ScopeKind.JOB, job)
    with pytest.raises(NotAllowed, match="here you are best boy; settling"):
        jobs.step_job(demo, ilse, job, away, is_back=True)
    assert [each.is_archived for each in jobs.list_jobs(demo, me) if each.job_id == job] == [True]
    jobs.step_job(demo, me, job, away, is_back=True)
    with pytest.raises(NotAllowed, match="settling"):
        jobs.step_job(demo, ilse, job, to_redo(demo, ScopeKind.JOB, job), is_back=False)


def dimmed(demo, at, level: float):
    row = {"operation": "set", "where": "lamps", "piece_id": "key", "to": {"level": level}}
    return edit.change_setup(demo, *at, [row])


def test_gear_that_stands_in_a_set_up_is_retired_by_undo_not_lost(demo, at, me):
    row = bench.shelf(demo).gear.heads[0]
    with demo.begin():
        item = dict(gear_by_slug(demo, row.slug).item)
    slug = create(demo, me, "heads", item | {"name": "Borrowed lamp"})
    made = to_undo(demo, ScopeKind.BENCH, me)
    lamp = {"operation": "set", "where": "lamps", "piece_id": "key", "to": {"configuration": f"{slug}.bare"}}
    view = edit.change_setup(demo, *at, [lamp])
    told = step_bench(demo, me, made, is_back=True)
    where = f"it stands in “{view.setup.name}” of {view.job.name}"
    assert told == f"made Borrowed lamp; {where}, so it stays on the bench as retired"
    gear = bench.shelf(demo).gear
    bare = next(each for each in gear.configurations if each.head_slug == slug)
    assert [gear.head(slug).is_retired, bare.is_retired] == [True, True]
    assert edit.open_setup(demo, *at).setup.lamps[0].configuration == f"{slug}.bare"
    step_bench(demo, me, to_redo(demo, ScopeKind.BENCH, me), is_back=False)
    assert not bench.shelf(demo).gear.head(slug).is_retired
    edit.step_setup(demo, *at, view.steps.undo.number, is_back=True)
    assert step_bench(demo, me, made, is_back=True) == "made Borrowed lamp"  # it stands nowhere now
    assert slug not in {each.slug for each in bench.shelf(demo).gear.heads}


def test_an_undo_names_what_it_undoes_and_is_told_for_ever(demo, at, me):
    first, second = (dimmed(demo, at, level).steps.undo.number for level in (0.3, 0.4))
    other = people.add_person(demo, name="Other", sign_in="other", password="long enough to pass").person_id
    with pytest.raises(ChangedMeanwhile, match="is not the last change any more"):
        edit.step_setup(demo, *at, first, is_back=True)
    edit.step_setup(demo, *at, second, is_back=True)
    with pytest.raises(ChangedMeanwhile, match="is not the last change any more"), demo.begin():
        step(demo, Scope(ScopeKind.SETUP, at[2]), other, second, is_back=True)
    with demo.begin():
        told = demo.execute(select(ChangeRow.kind, ChangeRow.of_id, ChangeRow.text).order_by(ChangeRow.id.desc())).all()
    assert told[0] == ("undo", second, "undid: dimmed Window key")
    assert [kind for kind, *_ in told[:3]] == ["undo", "change", "change"]


def test_every_state_comes_back_and_is_kept_by_its_difference(demo, at, me):
    """Thirty-six changes at random, then each state in any order; together far smaller than one after the other."""
    chance, seen, scope = random.Random(5), {}, Scope(ScopeKind.SETUP, at[2])
    for _ in range(36):
        view = dimmed(demo, at, round(chance.uniform(0.1, 1.0), 3))
        seen[view.steps.undo.number] = view.setup
        if chance.random() < 0.3:
            edit.step_setup(demo, *at, view.steps.undo.number, is_back=True)
    with demo.begin():
        count, size, depth = demo.execute(
            select(func.count(), func.sum(func.length(StateRow.data)), func.max(StateRow.depth))
        ).one()
        whole = demo.scalar(select(func.length(SetupRow.document)).where(SetupRow.id == at[2]))
    assert 24 < count < 60  # with those of the demo
    assert size < 0.1 * count * whole
    assert 10 <= depth <= 24
    for number in chance.sample(list(seen), 8):
        with all_or_nothing(demo):
            bring_back(demo, scope, me, demo.get_one(ChangeRow, number))
        assert edit.open_setup(demo, *at).setup == seen[number]


def test_older_history_is_thinned_to_a_state_a_day_and_newer_left_alone(demo, at, me):
    views = [dimmed(demo, at, level) for level in (0.2, 0.3, 0.4, 0.5)]
    numbers = [view.steps.undo.number for view in views]
    with demo.begin():
        demo.execute(update(ChangeRow).where(ChangeRow.id.in_(numbers[:3])).values(made_at=now() - timedelta(days=91)))
    thinned = thin_history(demo)
    assert (thinned.entries, thinned.states > 0) == (2, True)
    assert thin_history(demo).states == 0
    scope = Scope(ScopeKind.SETUP, at[2])
    for number, view in zip(numbers[2:], views[2:], strict=True):
        with all_or_nothing(demo):
            bring_back(demo, scope, me, demo.get_one(ChangeRow, number))
        assert edit.open_setup(demo, *at).setup == view.setup
    with demo.begin():
        demo.execute(StateRow.__table__.delete())
    with pytest.raises(BadValue, match="within the last 90 days"), all_or_nothing(demo):
        bring_back(demo, scope, me, demo.get_one(ChangeRow, numbers[3]))
