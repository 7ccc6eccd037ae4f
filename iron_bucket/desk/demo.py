"""The made-up scenario put into an empty database, through the same use cases that people use."""

import json

from sqlalchemy.orm import Session

from iron_bucket.core.selection.fit import candidate_key
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.pick import pick
from iron_bucket.demo.files import demo_gear, demo_jobs, demo_readings, demo_spectra
from iron_bucket.desk.bench import Shelf, load_gear, shelf
from iron_bucket.desk.bench.spectra import load_spectra
from iron_bucket.desk.bucket import put_in
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.jobs import create_job, rules_from
from iron_bucket.desk.people import add_person
from iron_bucket.formats.need_json import read_need
from iron_bucket.store.jobs import count_jobs

DEMO_SIGN_IN, DEMO_PASSWORD, DEMO_NAME = "gaffer", "lamps-and-stands", "Demo gaffer"


def load_demo(session: Session) -> bool:
    """Gear with its readings and spectra, a person, two jobs with their buckets; False where the database holds something already."""
    loaded = load_gear(session, demo_gear(), demo_readings())
    with session.begin():
        jobs = count_jobs(session)
    if not loaded or jobs:
        return False
    person = add_person(session, name=DEMO_NAME, sign_in=DEMO_SIGN_IN, password=DEMO_PASSWORD)
    load_spectra(session, demo_spectra())
    ready = shelf(session)
    for job in demo_jobs():
        number = create_job(session, person.person_id, job["name"], job["places"], rules_from(job["rules"]))
        for wanted in job["picks"]:
            need = read_need(json.dumps(wanted["need"]), ready.gear)
            put_in(session, person.person_id, number, need, best_key(ready, need, wanted["head"]), wanted["purpose"])
    return True


def best_key(ready: Shelf, need: Need, head_slug: str) -> str:
    """The best fit of one head. Raises: NotFound where that head does not fit."""
    picked = pick(ready.packed, need)
    place = next(
        (place for place, row in enumerate(picked.fits.row) if picked.bench.heads[row].slug == head_slug), None
    )
    if place is None:
        raise NotFound(f"{head_slug} does not fit this need")
    return candidate_key(picked, picked.fits.candidate(place))
