"""The made-up scenario put into an empty database, through the same use cases that people use."""

import json

from sqlalchemy.orm import Session

from iron_bucket.core.days.weather import WeatherHour, forecast_id
from iron_bucket.core.jobs.roles import Role
from iron_bucket.core.places.place import Place
from iron_bucket.core.power.job.pace import taken_id
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.demo.files import (
    demo_days,
    demo_gear,
    demo_jobs,
    demo_people,
    demo_places,
    demo_power,
    demo_readings,
    demo_setups,
    demo_spectra,
)
from iron_bucket.demo.sign_in import DEMO_CREW, DEMO_NAME, DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk.bench import load_gear, shelf
from iron_bucket.desk.bench.spectra import load_spectra
from iron_bucket.desk.bucket import put_in
from iron_bucket.desk.bucket.plan import put_plan
from iron_bucket.desk.days.edit import put_days
from iron_bucket.desk.jobs import create_job, rules_from
from iron_bucket.desk.people import Person, add_person
from iron_bucket.desk.people.administration import invite
from iron_bucket.desk.places import add_place
from iron_bucket.desk.power.edit import put_power
from iron_bucket.desk.setups.passes import put_setup
from iron_bucket.desk.transaction import all_or_nothing
from iron_bucket.formats.change_json import with_changes
from iron_bucket.formats.need_json import read_need
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.store.crews import FIRST_CREW, CrewPersonRow, CrewRow, enter_crew
from iron_bucket.store.people import PersonRow, count_people


def load_demo(session: Session) -> bool:
    """Gear with its readings and spectra, a person, places, two jobs with their buckets and set-ups: all of it or
    nothing.

    False where somebody can sign in already, and so the database is in use.
    """
    with all_or_nothing(session):
        if count_people(session):
            return False
        enter_crew(session, FIRST_CREW)
        load_gear(session, demo_gear(), demo_readings())
        person = _load_people(session)
        load_spectra(session, demo_spectra())
        jobs = _load_jobs(session, person.person_id)
        places, passes = _load_setups(session, person.person_id, jobs)
        _load_power(session, person.person_id, jobs, places, passes)
        _load_days(session, person.person_id, jobs, places, passes)
    return True


def _load_people(session: Session) -> Person:
    """The demo's gaffer, who is administrator, and a crew that has not signed in yet."""
    session.get_one(CrewRow, FIRST_CREW).name = DEMO_CREW
    person = add_person(session, name=DEMO_NAME, sign_in=DEMO_SIGN_IN, password=DEMO_PASSWORD)
    session.add(CrewPersonRow(crew_id=FIRST_CREW, person_id=person.person_id, role=Role.GAFFER))
    session.get_one(PersonRow, person.person_id).is_admin = True
    for each in demo_people():
        invite(session, None, name=each["name"], sign_in=each["sign_in"], crew_id=FIRST_CREW, role=Role(each["role"]))
    return person


def _load_jobs(session: Session, person_id: int) -> dict[str, int]:
    """Jobs with what was picked for them; their numbers by name."""
    ready, numbers = shelf(session), {}
    for job in demo_jobs():
        rules, with_crew = rules_from(job["rules"]), job["with_crew"]
        number = create_job(session, person_id, job["name"], job["places"], rules, with_crew=with_crew)
        numbers[job["name"]] = number
        for wanted in job["picks"]:
            need = read_need(json.dumps(wanted["need"]), ready.gear)
            put_in(session, person_id, number, need, wanted["chosen"], wanted["purpose"])
        rows = [
            {"operation": "add", "where": where, "to": piece} for where, some in job["plan"].items() for piece in some
        ]
        put_plan(session, number, rows)
    return numbers


def _load_setups(session: Session, person_id: int, jobs: dict[str, int]) -> tuple[dict[str, int], dict[str, int]]:
    """Places first, then every set-up with its passes; gives the numbers of both, of passes by place, name, width."""
    passes: dict[str, int] = {}
    places = {row["name"]: add_place(session, person_id, read_record(Place, row)) for row in demo_places()}
    for wanted in demo_setups():
        job_id, document, after_id = jobs[wanted["job"]], None, None
        for each in wanted["passes"]:
            document = each if document is None else with_changes(document, each["changes"])
            setup = read_record(Setup, document)
            document = write_record(setup)
            after_id = put_setup(session, person_id, job_id, places[wanted["place"]], setup, after_id)
            passes[f"{wanted['place']}/{setup.name}/{setup.width}"] = after_id
    return places, passes


def _load_power(
    session: Session, person_id: int, jobs: dict[str, int], places: dict[str, int], passes: dict[str, int]
) -> None:
    """What each job brings to feed its lamps, and how long its passes last."""
    for wanted in demo_power():
        rows = []
        for where, pieces in wanted["power"].items():
            for piece in pieces:
                to = dict(piece)
                if "place" in to:
                    to["place_id"] = places[to.pop("place")]
                if "pass" in to:
                    to["setup_id"] = passes[to.pop("pass")]
                    to["piece_id"] = taken_id(to["setup_id"]) if where == "taken" else f"pass-{to['setup_id']}"
                rows.append({"operation": "add", "where": where, "to": to})
        put_power(session, person_id, jobs[wanted["job"]], rows)


def _load_days(
    session: Session, person_id: int, jobs: dict[str, int], places: dict[str, int], passes: dict[str, int]
) -> None:
    """What each job says of its days, and the weather that it was told."""
    for wanted in demo_days():
        rows = [{"operation": "add", "where": "days", "to": day} for day in wanted["plan"]["days"]]
        for said in wanted["plan"]["passes"]:
            setup_id = passes[said["pass"]]
            to = {"piece_id": f"pass-{setup_id}", "setup_id": setup_id} | {k: v for k, v in said.items() if k != "pass"}
            rows.append({"operation": "add", "where": "passes", "to": to})
        for told in wanted["forecasts"]:
            names = WeatherHour.__slots__
            hours = [dict(zip(names, row, strict=True)) for row in zip(*(told[name] for name in names), strict=True)]
            place_id, day = places[told["place"]], told["day"]
            to = {"piece_id": forecast_id(place_id, day), "place_id": place_id, "day": day, "hours": hours}
            rows.append({"operation": "add", "where": "forecasts", "to": to | {"told_at": told["told_at"]}})
        put_days(session, person_id, jobs[wanted["job"]], rows)
