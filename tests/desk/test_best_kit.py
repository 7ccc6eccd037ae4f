"""The search for the best kit of the demo's film: begun, worked on, taken over by set-up and whole, undone."""

import pytest

from iron_bucket.core.bucket.best.problem import Goal, Measure
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk import jobs, people
from iron_bucket.desk.bucket.best.apply import apply_way
from iron_bucket.desk.bucket.best.search import SearchState, begin_search, open_search, stop_search
from iron_bucket.desk.bucket.best.work import work_on
from iron_bucket.desk.errors import ChangedMeanwhile
from iron_bucket.desk.jobs import step_job
from iron_bucket.store.best_kits import put_progress
from iron_bucket.store.history import ScopeKind
from tests.database import to_undo


@pytest.fixture
def me(demo):
    return people.sign_in(demo, DEMO_SIGN_IN, DEMO_PASSWORD).person.person_id


@pytest.fixture
def job_id(demo, me):
    return next(job.job_id for job in jobs.list_jobs(demo, me) if job.rules.voltage_v == 230)


CHEAP = Goal(weights={Measure.MONEY: 10.0, Measure.WEIGHT: 3.0, Measure.AMPS: 1.0})


def test_what_is_found_is_taken_over_and_undone(demo, me, job_id):
    session, person, job = demo, me, job_id
    run = begin_search(session, person, job, CHEAP)
    session.commit()
    work_on(session.get_bind(), job, run)
    session.expire_all()
    view, search = open_search(session, person, job)
    assert (search.state, search.goal, search.is_outdated) == (SearchState.DONE, CHEAP, False)
    ways = {each["name"]: each for each in search.result["ways"]}
    best, today = ways["best"], search.result["today"]
    assert today["money"] == pytest.approx(view.hire_total)
    assert best["figures"]["money"] < today["money"]
    assert best["gap"] <= 0.01
    assert [each for each in best["targets"] if each["is_lost"]] == []
    assert ways["all from batteries"]["figures"]["amps"] == 0.0
    assert "no such lamp can replace" in ways["tungsten only"]["refused"]
    asked = {(row.id, each["mark"]) for row in view.contents.setups for each in row.document["targets"]}
    assert len(search.result["prices"]) == len(asked) - sum("window" in mark for _, mark in asked)
    one = best["changes"][0]["setup_id"]
    assert apply_way(session, person, job, run, "best", one) == 1
    with pytest.raises(ChangedMeanwhile):
        apply_way(session, person, job, run, "best")  # that set-up stands otherwise now
    step_job(session, person, job, to_undo(session, ScopeKind.JOB, job), is_back=True)
    assert apply_way(session, person, job, run, "best") == len({each["setup_id"] for each in best["changes"]})
    view, search = open_search(session, person, job)
    assert search.is_outdated
    assert view.hire_total == pytest.approx(best["figures"]["money"])  # as was foretold, in the whole kit
    for each in best["lines"]:
        line = view.kit.by_sort.get((each["slug"], each["area_m2"]))
        assert (line.quantity if line else 0) == each["then"]
    step_job(session, person, job, to_undo(session, ScopeKind.JOB, job), is_back=True)
    view, search = open_search(session, person, job)
    assert view.hire_total == pytest.approx(today["money"])


def test_a_search_that_was_stopped_writes_nothing_more(demo, me, job_id):
    session, person, job = demo, me, job_id
    assert open_search(session, person, job)[1] is None
    run = begin_search(session, person, job, CHEAP)
    stop_search(session, person, job)
    assert open_search(session, person, job)[1].state is SearchState.STOPPED
    session.commit()
    with session.begin():
        assert not put_progress(session, job, run, SearchState.RUNNING, share=0.5)
    with pytest.raises(ChangedMeanwhile):
        apply_way(session, person, job, run, "best")
