"""Who may sign in and how; crews; what is somebody's own: against the real database."""

import contextlib
from dataclasses import replace
from datetime import timedelta

import pytest
from argon2 import PasswordHasher
from hypothesis import given, settings
from hypothesis import strategies as st
from sqlalchemy import func, select, update

from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.jobs.roles import Role
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk import bench, crews, jobs, people, places
from iron_bucket.desk.bench.edit import create
from iron_bucket.desk.errors import NotAllowed, NotFound, TooManyTries
from iron_bucket.desk.people import administration as admin
from iron_bucket.desk.people import signing_in
from iron_bucket.desk.people.own_data import delete_person, own_data
from iron_bucket.desk.people.passwords import require_password
from iron_bucket.desk.people.signing_in import Device, SignInRules
from iron_bucket.desk.trail import read_trail
from iron_bucket.desk.transaction import now
from iron_bucket.store.bench import gear_by_slug
from iron_bucket.store.crews import CrewRow, enter_crew
from iron_bucket.store.people import PersonRow
from iron_bucket.store.sign_ins import CodeRow, SignInRow
from tests.tables import tabled

RULES = SignInRules()
PHONE = Device(address="192.0.2.7", name="a phone")
GOOD = "four odd words here"


@pytest.fixture
def me(demo):
    return people.sign_in(demo, DEMO_SIGN_IN, DEMO_PASSWORD).person.person_id


@pytest.fixture
def other(demo):
    return people.add_person(demo, name="Other", sign_in="other", password=GOOD)


def is_in(demo, token: str) -> bool:
    return signing_in.signed_in_person(demo, token, RULES) is not None


def test_a_sign_in_stands_until_it_is_ended_or_has_lain_or_lasted_too_long(demo, other):
    tokens = [people.sign_in(demo, "other", GOOD, PHONE).token for _ in range(4)]
    assert all(is_in(demo, token) for token in tokens)
    assert len(set(tokens)) == 4
    signing_in.sign_out(demo, other.person_id, tokens[0])
    assert [is_in(demo, token) for token in tokens] == [False, True, True, True]
    listed = signing_in.list_sign_ins(demo, other.person_id, tokens[3], RULES)
    assert [(each.device, each.address, each.is_this) for each in listed].count(("a phone", "192.0.2.7", True)) == 1
    for change, at in ((timedelta(hours=25), "seen_at"), (timedelta(days=15), "began_at")):
        digest = signing_in._digest(tokens[1 if at == "seen_at" else 2])
        with demo.begin():
            demo.execute(update(SignInRow).where(SignInRow.token_digest == digest).values({at: now() - change}))
    assert [is_in(demo, token) for token in tokens] == [False, False, False, True]
    again = people.sign_in(demo, "other", GOOD, PHONE).token
    assert signing_in.end_other_sign_ins(demo, other.person_id, again) >= 1
    assert [is_in(demo, token) for token in (tokens[3], again)] == [False, True]
    with pytest.raises(NotFound):
        signing_in.end_other_sign_ins(demo, other.person_id, again, 999_999)
    with demo.begin():  # what stands in the database lets nobody in
        assert not {*demo.scalars(select(SignInRow.token_digest))} & {*tokens, again}


def test_tries_are_counted_for_the_account_and_the_address_and_a_known_device_gets_in(demo, other):
    rules = replace(RULES, limit="3 per hour")
    guesser, owner = Device(address="198.51.100.1"), Device(address="192.0.2.7", known="other 1")
    for _ in range(3):
        signing_in.count_try(demo, "Other ", guesser, rules)
    with pytest.raises(TooManyTries) as refused:
        signing_in.count_try(demo, "other", replace(guesser, address="198.51.100.2"), rules)
    assert 0 < refused.value.seconds <= 3600
    signing_in.count_try(demo, "other", owner, rules)  # nobody is locked out by others who try
    for at in range(12):
        signing_in.count_try(demo, f"somebody {at}", guesser, rules)
    with pytest.raises(TooManyTries):  # fifteen for an address, three were the first account's
        signing_in.count_try(demo, "somebody else", guesser, rules)
    people.sign_in(demo, "other", GOOD, owner)
    signing_in.count_try(demo, "other", Device(address="203.0.113.5"), rules)  # who got in may err again


@tabled
def test_a_password_is_judged_by_length_and_by_who_else_uses_it(password, accepted):
    said = pytest.raises(BadValue, match=accepted) if accepted else contextlib.nullcontext()
    with said:
        require_password(password, sign_in="gaffer", name="Demo Gaffer")


@settings(max_examples=60, deadline=None, derandomize=True, database=None)
@given(st.text(alphabet="abcdefghijklmnopqrstuvwxyz0123456789 -", min_size=12, max_size=128))
def test_what_is_long_and_odd_is_taken_whatever_its_letters(password):
    if len(set(password)) >= 8 and not any(word in password for word in ("gaffer", "demo", "iron", "bucket")):
        require_password(password, sign_in="gaffer", name="Demo Gaffer")


def test_a_code_sets_a_password_once_within_a_week(demo, me):
    made = admin.invite(demo, me, name="New", sign_in="new", crew_id=1, role=Role.VIEWER)
    with pytest.raises(NotAllowed, match="wrong sign-in or password"):
        people.sign_in(demo, "new", "")
    for code, password, error in (("WRONG-CODE", GOOD, NotAllowed), (made.code, "short", BadValue)):
        with pytest.raises(error):
            admin.redeem(demo, code, password, PHONE)
    found = admin.redeem(demo, made.code.lower().replace("-", " "), GOOD, PHONE)
    assert is_in(demo, found.token)
    assert people.sign_in(demo, "new", GOOD).person.name == "New"
    with pytest.raises(NotAllowed, match="was used"):
        admin.redeem(demo, made.code, GOOD, PHONE)
    first = admin.reset_password(demo, me, found.person.person_id)
    second = admin.reset_password(demo, me, found.person.person_id)
    assert not is_in(demo, found.token)
    with demo.begin():
        demo.execute(update(CodeRow).where(CodeRow.used_at.is_(None)).values(expires_at=now()))
    for code in (first.code, second.code):
        with pytest.raises(NotAllowed):
            admin.redeem(demo, code, GOOD, PHONE)
    assert [each.role for each in crews.people_of_crew(demo, 1) if each.person.sign_in == "new"] == [Role.VIEWER]


def test_the_last_who_settles_stays_and_the_disabled_are_out_at_once(demo, me, other):
    token = people.sign_in(demo, "other", GOOD).token
    for act, change in ((admin.disable, {"is_disabled": True}), (admin.make_admin, {"is_admin": False})):
        with pytest.raises(NotAllowed, match="nobody would be left"):
            act(demo, me, me, **change)
    admin.disable(demo, me, other.person_id, is_disabled=True)
    assert not is_in(demo, token)
    with pytest.raises(NotAllowed):
        people.sign_in(demo, "other", GOOD)
    admin.disable(demo, me, other.person_id, is_disabled=False)
    admin.make_admin(demo, me, other.person_id, is_admin=True)
    admin.disable(demo, other.person_id, me, is_disabled=True)
    admin.rename(demo, other.person_id, other.person_id, " Another ")
    assert [each.name for each in admin.list_people(demo) if each.is_admin and not each.is_disabled] == ["Another"]
    told = [each.text for each in read_trail(demo)]
    assert told[:2] == ["renamed Other (other) to Another", "disabled: Demo gaffer (gaffer)"]
    assert GOOD not in " ".join(told)


def test_the_first_start_of_an_installation_makes_one_who_settles(session):
    made = admin.first_admin(session)
    assert (made.person.sign_in, made.person.is_admin) == ("admin", True)
    found = admin.redeem(session, made.code, GOOD, PHONE)
    assert admin.first_admin(session) is None
    assert [each.role for each in crews.my_crews(session, found.person.person_id)] == [Role.GAFFER]


def test_a_password_is_changed_by_who_knows_the_old_one(demo, other):
    token = people.sign_in(demo, "other", GOOD).token
    with pytest.raises(NotAllowed, match="not your password"):
        admin.change_password(demo, other.person_id, "wrong", "another four odd words", PHONE)
    new = admin.change_password(demo, other.person_id, GOOD, "another four odd words", PHONE)
    assert [is_in(demo, each) for each in (token, new)] == [False, True]
    with pytest.raises(NotAllowed):
        people.sign_in(demo, "other", GOOD)


def test_a_password_that_is_kept_as_nobody_does_any_more_is_kept_anew_when_it_is_used(demo, other):
    row = demo.get(PersonRow, other.person_id)
    with demo.begin_nested():
        row.password_hash = PasswordHasher(time_cost=1, memory_cost=8192).hash(GOOD)
    demo.commit()
    people.sign_in(demo, "other", GOOD)
    demo.refresh(row)
    assert row.password_hash.startswith("$argon2id$v=19$m=19456,t=2,p=1$")
    demo.rollback()
    assert people.sign_in(demo, "other", GOOD).person == other


def test_each_crew_has_its_own_bench_places_and_jobs(demo, me, other):
    """Nothing of one crew is seen from another, nor made in it, nor brought back into it."""
    theirs = crews.make_crew(demo, other.person_id, "Second unit")
    ours = {"gear": len(bench.shelf(demo).gear.heads), "places": len(places.list_places(demo))}
    place_id = places.list_places(demo)[0].place_id
    enter_crew(demo, theirs)
    assert (bench.shelf(demo).gear.heads, places.list_places(demo)) == ((), ())
    with pytest.raises(NotFound):
        places.open_place(demo, place_id)
    job_id = jobs.create_job(demo, other.person_id, "Theirs", "", HouseRules())
    assert [job.name for job in jobs.list_jobs(demo, other.person_id)] == ["Theirs"]
    with pytest.raises(NotFound):
        jobs.open_job(demo, me, job_id)
    enter_crew(demo, 1)
    assert ours == {"gear": len(bench.shelf(demo).gear.heads), "places": len(places.list_places(demo))}
    enter_crew(demo, 0)  # a session that works for nobody
    assert places.list_places(demo) == ()


def test_people_join_change_roles_hand_over_and_leave(demo, me, other):
    film = next(job.job_id for job in jobs.list_jobs(demo, me) if job.rules.voltage_v == 230)
    for use, rest in ((crews.take_off_job, (me,)), (crews.put_on_job, ("gaffer", Role.VIEWER))):
        with pytest.raises(NotAllowed, match="left without a gaffer"):
            use(demo, me, film, *rest)
    with pytest.raises(BadValue, match="sign_in is 'nobody'"):
        crews.put_on_job(demo, me, film, "nobody", Role.TECHNICIAN)
    crews.put_on_job(demo, me, film, "other", Role.TECHNICIAN)
    assert crews.place_on_job(demo, other.person_id, film).role is Role.TECHNICIAN
    crews.hand_over(demo, me, [film], None, "other")
    assert [crews.place_on_job(demo, each, film).role for each in (me, other.person_id)] == [Role.BEST_BOY, Role.GAFFER]
    crews.take_off_job(demo, me, film, me)
    assert crews.place_on_job(demo, me, film) is None
    with pytest.raises(NotFound, match="do not belong here"):
        crews.take_off_job(demo, other.person_id, film, me)
    assert crews.bring_crew(demo, other.person_id, film) == 1  # the rest of the crew was there
    assert crews.place_on_job(demo, me, film).role is Role.GAFFER
    crews.put_in_crew(demo, me, 1, "other", Role.VIEWER)
    assert [each.role for each in crews.my_crews(demo, other.person_id)] == [Role.VIEWER]
    crews.take_out_of_crew(demo, other.person_id, 1, other.person_id)
    assert crews.my_crews(demo, other.person_id) == ()


def test_what_is_ones_own_is_given_out_and_deleted(demo, me, other):
    mine = own_data(demo, me)
    assert mine["person"]["sign_in"] == "gaffer"
    assert {each["job_id"] for each in mine["crews"]} == {job.job_id for job in jobs.list_jobs(demo, me)}
    assert "argon2" not in str(mine)
    film = next(job.job_id for job in jobs.list_jobs(demo, me) if job.rules.voltage_v == 230)
    with pytest.raises(NotAllowed, match="hand over first"):
        delete_person(demo, me, DEMO_PASSWORD)
    enter_crew(demo, 1)
    alone = jobs.create_job(demo, other.person_id, "Alone", "", HouseRules())
    crews.put_on_job(demo, me, film, "other", Role.TECHNICIAN)
    own = crews.make_crew(demo, other.person_id, "Night crew")
    with demo.begin():
        item = dict(gear_by_slug(demo, "full-blue").item)
    enter_crew(demo, own)
    gel = create(demo, other.person_id, "sheets", item)
    shared = jobs.create_job(demo, other.person_id, "Shared", "", HouseRules())
    crews.put_on_job(demo, other.person_id, shared, DEMO_SIGN_IN, Role.GAFFER)
    with pytest.raises(NotAllowed, match="jobs of others use the gear of Night crew"):
        delete_person(demo, other.person_id, GOOD)
    crews.take_off_job(demo, me, shared, me)
    admin.make_admin(demo, None, other.person_id, is_admin=True)
    admin.make_admin(demo, None, me, is_admin=False)
    with pytest.raises(NotAllowed, match="nobody would be left as administrator"):
        delete_person(demo, other.person_id, GOOD)
    admin.make_admin(demo, None, me, is_admin=True)
    token = people.sign_in(demo, "other", GOOD).token
    with pytest.raises(NotAllowed, match="not your password"):
        delete_person(demo, other.person_id, "wrong")
    delete_person(demo, other.person_id, GOOD)
    assert not is_in(demo, token)
    with demo.begin():
        row = demo.get_one(PersonRow, other.person_id, populate_existing=True)
        assert (row.name, row.password_hash, row.is_disabled) == ("somebody who is gone", "", True)
        assert demo.scalar(select(func.count()).where(jobs.JobRow.id.in_((alone, shared)))) == 0
        enter_crew(demo, own)
        assert (gear_by_slug(demo, gel), demo.get(CrewRow, own)) == (None, None)
    assert other.person_id not in {each.person.person_id for each in crews.people_of_job(demo, film)}
    assert "Other" not in str([each.who for each in read_trail(demo)])
