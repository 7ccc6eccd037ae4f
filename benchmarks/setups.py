"""Times set-ups: the light over a plane, a lamp that is dragged through the running application, pages, ways out.

Run: bin/benchmark setups
"""

import json
import statistics
import tempfile
import threading
import time
from dataclasses import replace
from pathlib import Path
from urllib.parse import urlencode
from urllib.request import HTTPCookieProcessor, build_opener

from flask import Flask
from flask.testing import FlaskClient
from sqlalchemy import event
from sqlalchemy.orm import Session
from werkzeug.serving import WSGIRequestHandler, make_server

from benchmarks.measured import median_ms
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.place import Place, Room, WallOpening
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.setups.evaluate.field import FieldPlane, Sheet, level_field_lx
from iron_bucket.core.setups.evaluate.lit_scene import lit
from iron_bucket.core.setups.plan.setup import Person, PlacedFrame, PlacedLamp, Setup, Spot, Target
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.demo.files import demo_gear
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk.demo import load_demo
from iron_bucket.desk.jobs import create_job
from iron_bucket.desk.people import sign_in
from iron_bucket.desk.places import add_place
from iron_bucket.desk.setups.passes import MOST_SETUPS, put_setup
from iron_bucket.formats.record_json import read_record
from iron_bucket.store.engine import engine_for
from iron_bucket.store.private_server import private_server
from iron_bucket.store.schema import migrate
from iron_bucket.store.setups import setups_of
from iron_bucket.web.app import create_app, warm_up
from iron_bucket.web.settings import Settings

DRAGS = 60
HEADS = ("day-led-300.reflector", "bi-lens-60.mid", "panel-100.own-face", "day-led-60.bare")


def a_place() -> Place:
    """A room of 9 by 7 metres with a window."""
    window = WallOpening(opening_id="w", name="Window", wall=2, along_m=4.0, sill_m=0.9, width_m=1.6, height_m=1.4)
    room = Room(
        room_id="r",
        name="Room",
        corners=((0, 0), (9, 0), (9, 7), (0, 7)),
        height_m=3.5,
        walls=("white paint",) * 4,
        openings=(window,),
    )
    return Place(name="Timed", rooms=(room,))


def a_setup(lamps: int, frames: int) -> Setup:
    """Lamps along one wall, frames before them, two people and four spots: 14 marks."""
    return Setup(
        name="Timed",
        lamps=tuple(
            PlacedLamp(
                piece_id=f"lamp-{at}",
                name=f"Lamp {at}",
                configuration=HEADS[at % 4],
                x_m=0.5 + 8.0 * at / lamps,
                y_m=0.6,
                z_m=2.6,
                aims_at="anna",
                level=0.5,
            )
            for at in range(lamps)
        ),
        frames=tuple(
            PlacedFrame(
                piece_id=f"frame-{at}",
                name=f"Frame {at}",
                frame="frame-1.2",
                cloth="cloth-half-white",
                x_m=1.0 + 2.0 * at,
                y_m=2.0,
                z_m=2.0,
            )
            for at in range(frames)
        ),
        people=(
            Person(piece_id="anna", name="Anna", x_m=4.0, y_m=4.5, z_m=1.5, bearing_deg=180),
            Person(piece_id="ben", name="Ben", x_m=5.5, y_m=4.5, z_m=1.5, bearing_deg=200),
        ),
        spots=tuple(
            Spot(piece_id=f"spot-{at}", name=f"Spot {at}", x_m=1.0 + 2.0 * at, y_m=6.9, z_m=1.5, bearing_deg=180)
            for at in range(4)
        ),
    )


def time_core() -> None:
    """Growth with lamps and frames."""
    surroundings, gear, rules = Surroundings(a_place()), demo_gear(), HouseRules()
    print(f"radiosity of the room, once: {median_ms(lambda: Surroundings(a_place()).grids, runs=3):.0f} ms")
    for lamps, frames in ((3, 1), (12, 4), (24, 4), (12, 8)):
        built = build_scene(a_setup(lamps, frames), surroundings, gear, rules)
        found = lit(built)
        sheet = Sheet(left_m=0.0, top_m=7.0, width_m=9.0, height_m=7.0)
        field_ms = median_ms(
            lambda found=found, sheet=sheet: level_field_lx(found, FieldPlane(height_m=1.5), sheet), runs=5
        )
        table_ms = median_ms(lambda built=built: unit_response(built.scene, with_walls=False, fineness=SET), runs=5)  # type: ignore[misc]
        walls_ms = median_ms(lambda built=built: lit(built), runs=3)  # type: ignore[misc]
        dim_ms = median_ms(lambda found=found: replace(found).total_lx)  # type: ignore[misc]
        print(
            f"{lamps:2} lamps, {frames} frames: field 160 x 120 {field_ms:4.0f} ms, marks {table_ms:4.0f} ms, with the"
            f" walls {walls_ms:4.0f} ms, levels alone {dim_ms:.2f} ms"
        )


def time_pages(url: str, session: Session) -> None:
    """A lamp, then a person, dragged through the application with its database; and whole pages."""
    person = sign_in(session, DEMO_SIGN_IN, DEMO_PASSWORD)
    number = put_setup(
        session,
        person.person_id,
        1,
        add_place(session, person.person_id, a_place()),
        replace(a_setup(12, 4), targets=(Target(piece_id="target", mark="anna.key", stops=3.0),)),
        None,
    )
    app = create_app(Settings(database_url=url, secret_key="b" * 32, is_demo=True, sign_in_limit="1000 per minute"))
    app.config["WTF_CSRF_ENABLED"] = False
    warm_up(app)  # as every worker does when it starts
    client = app.test_client()
    client.post("/sign-in", data={"sign_in": DEMO_SIGN_IN, "password": DEMO_PASSWORD})
    base = f"/jobs/1/setups/{number}"
    began = time.perf_counter()
    client.get(base)
    print(
        f"12 lamps and 4 frames opened for the first time: {(time.perf_counter() - began) * 1000:.0f} ms, then"
        f" {median_ms(lambda: client.get(base)):.0f} ms"
    )
    time_changes(app, client, base)
    time_drags(app, base)
    boards = ("/jobs/1/power", f"/jobs/1/power?pass={number}", "/jobs/1/power/day?day=2026-11-27")
    for address in ("/jobs/1/setups", "/jobs/1/setups/1", "/places/1", *boards):
        print(f"{address}: {median_ms(lambda address=address: client.get(address)):.0f} ms")  # type: ignore[misc]
    crowd(session, person.person_id)
    for address in ("/", "/jobs/1/setups", "/jobs/1/setups/1", "/jobs/1/bucket", "/jobs/1/power", "/places"):
        client.get(address)
        print(
            f"among twenty times the demo, {address}: {median_ms(lambda address=address: client.get(address)):.0f} ms"
        )  # type: ignore[misc]
    print(f"ways out of one miss: {median_ms(lambda: client.get(f'{base}/ways/anna.key'), runs=3):.0f} ms")
    app.extensions["engine"].dispose()


def time_changes(app: Flask, client: FlaskClient, base: str) -> None:
    """What one waits for after a change, and how many queries it takes: a level set, a lamp put down elsewhere."""
    asked = [0]

    def count(*_: object) -> None:
        asked[0] += 1

    event.listen(app.extensions["engine"], "before_cursor_execute", count)
    step = iter(range(1000))
    for words, to in (("a level set", "level"), ("a lamp put down", "x_m")):

        def change(to: str = to) -> None:
            value = 0.3 + 0.01 * next(step)
            rows = [{"operation": "set", "where": "lamps", "piece_id": "lamp-3", "to": {to: value}}]
            client.post(f"{base}/changes", data={"changes": json.dumps(rows)}, headers={"HX-Request-Type": "partial"})

        change()
        took = median_ms(change)
        asked[0] = 0
        change()
        print(f"{words}: {took:.0f} ms, {asked[0]} queries")
    event.remove(app.extensions["engine"], "before_cursor_execute", count)


def crowd(session: Session, person_id: int) -> None:
    """As many set-ups as a job takes, and twenty times the jobs."""
    first = setups_of(session, [1])
    session.commit()
    for number in range(20):
        create_job(session, person_id, f"Job {number}", "", HouseRules())
    for number in range(MOST_SETUPS - len(first)):
        row = first[number % len(first)]
        put_setup(session, person_id, 1, row.place_id, read_record(Setup, row.document), None)


def time_drags(app: Flask, base: str) -> None:
    """What a hand on the plan waits for, over loopback."""
    server = make_server("127.0.0.1", 0, app, threaded=True, request_handler=_Quiet)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    there = f"http://127.0.0.1:{server.server_port}"
    browser = build_opener(HTTPCookieProcessor())
    browser.open(f"{there}/sign-in", urlencode({"sign_in": DEMO_SIGN_IN, "password": DEMO_PASSWORD}).encode()).read()
    for where, piece in (("lamps", "lamp-3"), ("people", "anna"), ("frames", "frame-1")):
        spent = []
        for step in range(DRAGS):
            rows = [{"operation": "set", "where": where, "piece_id": piece, "to": {"x_m": 3.0 + step * 0.05}}]
            began = time.perf_counter()
            answer = browser.open(f"{there}{base}/try", urlencode({"changes": json.dumps(rows)}).encode()).read()
            spent.append((time.perf_counter() - began) * 1000)
            assert b'id="contrast"' in answer
        spent.sort()
        print(
            f"{piece} dragged, {DRAGS} steps: median {statistics.median(spent):.0f} ms, 95th percentile"
            f" {spent[int(DRAGS * 0.95)]:.0f} ms"
        )
    server.shutdown()


class _Quiet(WSGIRequestHandler):
    """Says nothing of each request."""

    def log_request(self, *_: object) -> None:
        """Nothing."""


def main() -> None:
    """Everything, one line each."""
    time_core()
    with tempfile.TemporaryDirectory() as folder, private_server(Path(folder) / "server", is_throw_away=True) as url:
        engine = engine_for(url)
        migrate(engine)
        with Session(engine, expire_on_commit=False) as session:
            load_demo(session)
            time_pages(url, session)
        engine.dispose()


if __name__ == "__main__":
    main()
