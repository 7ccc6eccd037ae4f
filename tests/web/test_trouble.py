"""The database goes away and comes back; the application is killed. Both on servers of their own."""

import http.cookiejar
import os
import re
import signal
import subprocess
import sys
import time
import urllib.parse
import urllib.request
from pathlib import Path

import pytest
from sqlalchemy.orm import Session

from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.desk import jobs, people
from iron_bucket.store.crews import FIRST_CREW, enter_crew
from iron_bucket.store.engine import engine_for
from iron_bucket.store.private_server import private_server
from iron_bucket.store.processes import servers_of
from iron_bucket.store.schema import migrate
from iron_bucket.store.server_folder import ServerFolder, reachable_folder
from iron_bucket.web.app import create_app
from iron_bucket.web.settings import Settings
from tests.database import free_port, memory_folder, wait_until_served
from tests.tables import table
from tests.web.conftest import Browser

ROOT = Path(__file__).parents[2]
PASSWORD = "kept-in-a-tin-box"


@pytest.fixture
def own_server():
    """A server, the folder it lives in, and a job on it whose crew is one person."""
    place = memory_folder() / f"iron-bucket-trouble-{os.getpid()}"
    with private_server(place, is_throw_away=True) as url:
        engine = engine_for(url)
        migrate(engine)
        with Session(engine) as session:
            person = people.add_person(session, name="Somebody", sign_in="somebody", password=PASSWORD)
            enter_crew(session, FIRST_CREW)
            job_id = jobs.create_job(session, person.person_id, "Before", "", HouseRules())
        yield url, place, job_id
        engine.dispose()


def test_pages_answer_503_while_the_database_is_away_and_recover(own_server):
    url, place, _ = own_server
    app = create_app(Settings(database_url=url, secret_key="x" * 32, sign_in_limit="1000 per minute"))
    somebody = Browser(app.test_client())
    assert somebody.sign_in("somebody", PASSWORD).status_code == 303
    assert somebody.get("/").status_code == 200
    folder = ServerFolder(path=reachable_folder(place))
    (server,), keeper = servers_of(folder.data), folder.keeper()
    os.kill(keeper.pid, signal.SIGSTOP)  # so that it is away for as long as this looks
    os.kill(server.pid, signal.SIGKILL)
    away = somebody.get("/")
    os.kill(keeper.pid, signal.SIGCONT)
    assert away.status_code == 503
    assert "database does not answer" in away.text
    for _ in range(600):
        if (answer := somebody.get("/")).status_code == 200:
            break
        time.sleep(0.05)
    assert answer.status_code == 200  # started again by itself
    app.extensions["engine"].dispose()


def test_no_acknowledged_change_is_lost_when_the_application_is_killed(own_server):
    url, _, job_id = own_server
    port = free_port()
    environment = {**os.environ, "IRON_BUCKET_DATABASE_URL": url, "IRON_BUCKET_SECRET_KEY": "k" * 32}
    words = (
        f"-m granian --interface wsgi --host 127.0.0.1 --port {port} --workers 1 --no-access-log --log-level warning"
    )
    command = [sys.executable, *words.split(), "iron_bucket.web.wsgi:app"]
    server = subprocess.Popen(command, env=environment, cwd=ROOT, start_new_session=True)
    wait_until_served(port)
    here, jar = f"http://127.0.0.1:{port}", http.cookiejar.CookieJar()
    opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))

    def token(address: str) -> str:
        with opener.open(here + address) as page:
            return re.search(r'name="csrf_token" value="([^"]+)"', page.read().decode())[1]

    def post(address: str, **form: object) -> int:
        with opener.open(here + address, urllib.parse.urlencode(form).encode()) as answer:
            return answer.status

    post("/sign-in", csrf_token=token("/sign-in"), sign_in="somebody", password=PASSWORD)
    rules = table(__file__, "test_no_acknowledged_change_is_lost_when_the_application_is_killed")
    address = f"/jobs/{job_id}/rules"
    assert post(address, csrf_token=token(address), version=1, name="After", places="", **rules) == 200
    os.killpg(server.pid, signal.SIGKILL)
    server.wait(20)
    engine = engine_for(url)
    with Session(engine) as session:
        found = people.sign_in(session, "somebody", PASSWORD).person
        assert jobs.open_job(session, found.person_id, job_id).name == "After"
    engine.dispose()
