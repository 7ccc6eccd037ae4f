"""Who may open what: every address of the map, for every role and for strangers, as the guard answers."""

import re

import lxml.html
import pytest
from flask import Flask
from sqlalchemy import text

from iron_bucket.core.jobs.roles import Act, Role
from iron_bucket.desk import people
from iron_bucket.desk.errors import NotAllowed, NotFound
from iron_bucket.web.shared.rights import Subject, rule_of
from tests.database import SIGNED_IN
from tests.hostile import PAGES
from tests.web.conftest import Browser

WORDS = {"slug": "day-led-300", "head_slug": "day-led-300", "subject_slug": "day-led-300.bare", "kind": "heads"}
#: Said here once more, so that the program's table is not compared with itself: what is done on the day, and what only
#: who settles may; everything else that is posted is planned.
ON_THE_DAY = re.compile(
    r"/bucket/tick$|/days/took$|/places/\d+/photos$|/bench/(walk|table|readings|spectra)/|/bench/step/"
)
SETTLED = re.compile(r"/archive$|/crew/(people|out|all|hand-over|people/out|name)$")
KEPT_NOWHERE = re.compile(r"/(try|light|leave)$")
PLANNERS_FORMS = re.compile(r"^/jobs/new$|^/bench/(new/|edit/|upload$|in$|heads/[^/]+/new/)")


def addresses(app: Flask, at: dict) -> list[tuple[str, str, str]]:
    """Endpoint, method and address of everything there is, with numbers of the demo."""
    numbers = {"job_id": at["job"], "setup_id": at["setup"], "place_id": at["place"]}
    found = []
    with app.test_request_context():
        adapter = app.url_map.bind("localhost")
        for rule in app.url_map.iter_rules():
            values = {}
            for name in rule.arguments:
                choices = re.search(rf"any\(([^)]+)\):{name}", rule.rule)
                values[name] = numbers.get(name, WORDS.get(name, choices[1].split(",")[0] if choices else 1))
            for method in sorted(rule.methods & {"GET", "POST"}):
                found.append((rule.endpoint, method, adapter.build(rule.endpoint, values, method)))
    return found


def guarded(app: Flask, method: str, address: str, job_id: int) -> str:
    """What the guard says: in, signed out, not there or not allowed. The page itself is not made."""
    form = {"job_id": job_id} if method == "POST" else None
    signer = app.session_interface.get_signing_serializer(app)
    cookie = "session=" + signer.dumps({"_user_id": SIGNED_IN, "_fresh": True})
    app.config["WTF_CSRF_CHECK_DEFAULT"] = False
    try:
        with app.test_request_context(address, method=method, data=form, headers={"Cookie": cookie}):
            answer = app.preprocess_request()
            app.do_teardown_request()
            return "in" if answer is None else "signed out"
    except NotFound:
        return "not there"
    except NotAllowed:
        return "not allowed"
    finally:
        app.config["WTF_CSRF_CHECK_DEFAULT"] = True


def expected(role: Role, method: str, address: str) -> bool:
    if role in (Role.GAFFER,):
        return True
    if SETTLED.search(address):
        return False
    if role is Role.BEST_BOY or KEPT_NOWHERE.search(address):
        return True
    if method == "GET" and not PLANNERS_FORMS.search(address):
        return True
    return role is Role.TECHNICIAN and bool(ON_THE_DAY.search(address)) and method == "POST"


@pytest.mark.parametrize("role", Role)
def test_every_address_for_every_role(app, demo, at, role):
    with demo.begin():
        for table in ("crews", "standing_crew_people"):
            demo.execute(text(f"UPDATE {table} SET role = :role"), {"role": role})
        demo.execute(text("UPDATE people SET is_admin = 0"))
    seen = 0
    for endpoint, method, address in addresses(app, at):
        rule = rule_of(endpoint, method, frozenset())
        found = guarded(app, method, address, at["job"])
        if endpoint.startswith("people."):
            assert found == "not allowed", address
        elif rule is None or rule.subject not in (Subject.ANYBODY, Subject.PERSON):
            seen += 1
            assert found == ("in" if expected(role, method, address) else "not allowed"), (role, method, address)
        else:
            assert found == "in"
    assert seen > 150


def test_every_address_for_who_belongs_nowhere_and_for_nobody(app, demo, at):
    with demo.begin():
        for table in ("crews", "standing_crew_people"):
            demo.execute(text(f"DELETE FROM {table}"))
    closed = {"in": 0, "not there": 0, "not allowed": 0}
    for endpoint, method, address in addresses(app, at):
        rule = rule_of(endpoint, method, frozenset())
        found = guarded(app, method, address, at["job"])
        closed[found] += 1
        is_open = rule is not None and rule.subject in (Subject.ANYBODY, Subject.PERSON, Subject.ADMIN)
        assert (found == "in") is is_open, address
    assert min(closed.values()) > 15
    with demo.begin():
        demo.execute(text("UPDATE sign_ins SET ended_at = began_at"))
    for endpoint, method, address in addresses(app, at):
        rule = rule_of(endpoint, method, frozenset())
        is_open = rule is not None and rule.subject is Subject.ANYBODY
        assert (guarded(app, method, address, at["job"]) == "in") is is_open, address


def test_an_address_that_nobody_thought_of_is_closed(app, gaffer):
    assert rule_of("elsewhere.page", "GET", frozenset()) is None
    assert rule_of("bench.anything", "PUT", frozenset()).act is Act.PLAN


@pytest.mark.parametrize(("role", "first"), [(Role.BEST_BOY, 0), (Role.TECHNICIAN, 1), (Role.VIEWER, 2)])
def test_what_a_role_may_not_send_is_shown_and_not_offered(gaffer, demo, role, first):
    """Over every third page: a form is closed exactly where the guard would refuse it."""
    with demo.begin():
        for table in ("crews", "standing_crew_people"):
            demo.execute(text(f"UPDATE {table} SET role = :role"), {"role": role})
    seen = {True: 0, False: 0}
    for address in PAGES[first::3]:
        page = gaffer.get(address)
        for form in lxml.html.fromstring(page.text).xpath("//main//form[@method='post']"):
            to = (form.get("action") or address).partition("?")[0]
            if address == "/" or not re.match(r"/(jobs/\d|places/\d|bench|crew/(?!new|work))", to):
                continue  # of a job that the page does not know; of nobody but oneself
            is_closed = bool(form.xpath("./fieldset[@class='closed' and @disabled]"))
            assert is_closed is not expected(role, "POST", to), (address, to)
            seen[is_closed] += 1
    assert seen[True]


def test_who_only_looks_is_told_why_and_what_is_theirs_stays_closed(gaffer, stranger, app, demo, at):
    with demo.begin():
        demo.execute(text("UPDATE crews SET role = 'view only'"))
    page = gaffer.get(f"/jobs/{at['job']}/bucket")
    assert page.status_code == 200
    assert "view only</b>" in page.text
    refused = gaffer.post(f"/jobs/{at['job']}/archive", {"archived": "yes"})
    assert (refused.status_code, "Here you are view only; settling" in refused.text) == (403, True)
    people.add_person(demo, name="Other", sign_in="other", password="long enough to pass")
    other = Browser(app.test_client())
    assert other.sign_in("other", "long enough to pass").status_code == 303
    assert other.get("/bench").status_code == 403
    assert other.get(f"/places/{at['place']}").status_code == 404
    assert other.get("/people").status_code == 403
    assert "You belong to no crew yet" in other.get("/bench").text
