"""Who may open which address: the one table, and the guard that reads it before every request.

What an address is about follows from its arguments; what is done there from its method, a GET looks and a POST plans,
unless it is named below. What is named nowhere is closed.
"""

from enum import Enum
from typing import NamedTuple

from flask import Flask, current_app, g, request, session
from flask.typing import ResponseReturnValue
from flask_login import current_user

from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.roles import Act, Role, may, refusal
from iron_bucket.desk import crews
from iron_bucket.desk.errors import NotAllowed, NotFound
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.request_session import person_id


class Subject(Enum):
    """Whom an address is open to: anybody; whoever is signed in; who settles that; those of the job, of the place's
    crew, of the crew that they work for now.
    """

    ANYBODY = "anybody"
    PERSON = "person"
    ADMIN = "admin"
    JOB = "job"
    PLACE = "place"
    CREW = "crew"


class Rule(NamedTuple):
    """What an address is about, and what is done there."""

    subject: Subject
    act: Act


ANYBODY = frozenset(
    {
        *("static", "account.sign_in", "account.check_sign_in", "account.sign_out"),
        *("account.welcome", "account.redeem"),
        *("seen.alive", "seen.ready", "seen.metrics"),
        *("shared.switch_light", "shared.switch_units", "shared.switch_keys"),
        *("setups.shared", "setups.shared_pdf", "open_bucket.shared_list"),
    }
)
#: One's own things, and lists that hold nothing but what is one's own.
PERSON = frozenset(
    {
        *("jobs.index", "account.page", "account.change_password", "account.end_sign_in", "account.own_data"),
        *("account.delete", "crews.index", "crews.make", "crews.work_for", "shared.upload"),
    }
)
ADMIN_BLUEPRINTS = frozenset({"people"})
CREW_BLUEPRINTS = frozenset({"bench", "places", "pick", "crews"})
CREW = frozenset({"jobs.new", "jobs.create", "jobs.take_in"})
#: Where the job stands in the form.
JOB_IN_FORM = frozenset({"pick.into_bucket"})
#: Done on the day.
WORK = frozenset(
    {
        *("bucket.put_tick", "days.took", "places.add_photos", "bench.step"),
        *("bench.add_reading", "bench.read_table", "bench.strike", "bench.take_in_spectrum", "bench.take_off_spectrum"),
    }
)
#: Posted, and kept nowhere; or of nobody but whoever asks, who leaves.
LOOK = frozenset({"setups.attempt", "setups.light_meanwhile", "crews.leave", "crews.leave_job"})
SETTLE = frozenset(
    {
        *("jobs.archive", "places.archive", "setups.archive", "crews.put", "crews.take_out", "crews.rename"),
        *("crews.put_on_job", "crews.take_off_job", "crews.bring_crew", "crews.hand_over", "crews.hand_over_job"),
    }
)
#: Forms of what only the one who plans may send.
PLAN = frozenset({"jobs.new", "bench.new", "bench.new_of_head", "bench.edit", "bench.upload", "bench.transfer"})


def rule_of(endpoint: str, method: str, arguments: frozenset[str]) -> Rule | None:
    """What an address asks for; None for one that nobody has thought of."""
    subject = _subject(endpoint, arguments)
    if subject is None:
        return None
    named = ((WORK, Act.WORK), (LOOK, Act.LOOK), (SETTLE, Act.SETTLE), (PLAN, Act.PLAN))
    act = next((act for names, act in named if endpoint in names), Act.LOOK if method in ("GET", "HEAD") else Act.PLAN)
    return Rule(subject, act)


def _subject(endpoint: str, arguments: frozenset[str]) -> Subject | None:
    blueprint = endpoint.partition(".")[0]
    if endpoint in ANYBODY:
        return Subject.ANYBODY
    if endpoint in PERSON:
        return Subject.PERSON
    if blueprint in ADMIN_BLUEPRINTS:
        return Subject.ADMIN
    if "job_id" in arguments or endpoint in JOB_IN_FORM:
        return Subject.JOB
    if "place_id" in arguments:
        return Subject.PLACE
    if blueprint in CREW_BLUEPRINTS or endpoint in CREW:
        return Subject.CREW
    return None


def attach(app: Flask) -> None:
    """Ask before every request; whoever is not signed in is sent there, whoever may not is told why."""

    @app.before_request
    def let_in() -> ResponseReturnValue | None:
        if request.url_rule is None or request.endpoint is None or request.method == "OPTIONS":
            return None
        rule = rule_of(request.endpoint, request.method, frozenset(request.url_rule.arguments))
        if rule is None:
            raise NotAllowed("nobody has said who may open this address")
        if rule.subject is Subject.ANYBODY:
            return None
        if not current_user.is_authenticated:
            answer: ResponseReturnValue = current_app.login_manager.unauthorized()  # type: ignore[attr-defined]
            return answer
        _require(rule)
        return None


def _require(rule: Rule) -> None:
    """Raises: NotFound for what is none of theirs; NotAllowed for what their role may not do."""
    match rule.subject:
        case Subject.PERSON:
            return
        case Subject.ADMIN:
            if not current_user.person.is_admin:
                raise NotAllowed("this is for administrators")
            return
        case Subject.JOB:
            g.role = _role_on_job()
        case Subject.PLACE:
            g.role = _role_with(crews.crew_of_place(g.session, (request.view_args or {})["place_id"]), "place")
        case Subject.CREW:
            g.role = _role_with(None, "")
    if not may(g.role, rule.act):
        raise NotAllowed(refusal(g.role, rule.act))


def _role_on_job() -> Role:
    number = (request.view_args or {}).get("job_id") or whole_number(request.form.get("job_id"))
    if number is None:
        raise BadValue("job", repr(request.form.get("job_id", "")), "one of your jobs")
    there = crews.place_on_job(g.session, person_id(), number) if number else None
    if there is None:
        raise NotFound("there is no such job on your list")
    if session.get("crew") != there.crew_id:
        session["crew"] = there.crew_id  # bench and places beside it are those that the job uses
    return there.role


def _role_with(crew_id: int | None, what: str) -> Role:
    """In the crew that a thing belongs to; with no thing in the crew that they chose last, else their first."""
    mine = {each.crew_id: each for each in crews.my_crews(g.session, person_id())}
    if what and crew_id not in mine:
        raise NotFound(f"there is no such {what}")
    if not mine:
        raise NotAllowed("you belong to no crew yet; ask its gaffer to put you in, or make one under Account")
    chosen = crew_id if what else session.get("crew")
    g.crew = mine.get(chosen) or next(iter(mine.values()))  # type: ignore[arg-type]
    crews.work_for(g.session, g.crew.crew_id)
    return Role(g.crew.role)
