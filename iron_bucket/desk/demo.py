"""The made-up scenario put into an empty database, through the same use cases that people use."""

import json

from sqlalchemy.orm import Session

from iron_bucket.core.places.place import Place
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.demo.files import demo_gear, demo_jobs, demo_places, demo_readings, demo_setups, demo_spectra
from iron_bucket.demo.sign_in import DEMO_NAME, DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk.bench import load_gear, shelf
from iron_bucket.desk.bench.spectra import load_spectra
from iron_bucket.desk.bucket import put_in
from iron_bucket.desk.jobs import create_job, rules_from
from iron_bucket.desk.people import add_person
from iron_bucket.desk.places import add_place
from iron_bucket.desk.setups.passes import put_setup
from iron_bucket.desk.transaction import all_or_nothing
from iron_bucket.formats.change_json import with_changes
from iron_bucket.formats.need_json import read_need
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.store.people import count_people


def load_demo(session: Session) -> bool:
    """Gear with its readings and spectra, a person, places, two jobs with their buckets and set-ups: all of it or
    nothing.

    False where somebody can sign in already, and so the database is in use.
    """
    with all_or_nothing(session):
        if count_people(session):
            return False
        load_gear(session, demo_gear(), demo_readings())
        person = add_person(session, name=DEMO_NAME, sign_in=DEMO_SIGN_IN, password=DEMO_PASSWORD)
        load_spectra(session, demo_spectra())
        _load_setups(session, person.person_id, _load_jobs(session, person.person_id))
    return True


def _load_jobs(session: Session, person_id: int) -> dict[str, int]:
    """Jobs with what was picked for them; their numbers by name."""
    ready, numbers = shelf(session), {}
    for job in demo_jobs():
        number = create_job(session, person_id, job["name"], job["places"], rules_from(job["rules"]))
        numbers[job["name"]] = number
        for wanted in job["picks"]:
            need = read_need(json.dumps(wanted["need"]), ready.gear)
            put_in(session, person_id, number, need, wanted["chosen"], wanted["purpose"])
    return numbers


def _load_setups(session: Session, person_id: int, jobs: dict[str, int]) -> None:
    """Places first, then every set-up with its passes."""
    places = {row["name"]: add_place(session, read_record(Place, row)) for row in demo_places()}
    for wanted in demo_setups():
        job_id, document, after_id = jobs[wanted["job"]], None, None
        for each in wanted["passes"]:
            document = each if document is None else with_changes(document, each["changes"])
            setup = read_record(Setup, document)
            document = write_record(setup)
            after_id = put_setup(session, person_id, job_id, places[wanted["place"]], setup, after_id)
