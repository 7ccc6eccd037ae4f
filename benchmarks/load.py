"""Many people at once on one machine: ``bin/benchmark load --people 40 --seconds 60``. Server, database and people
share the cores. Prints how long answers took, by kind, and every error.
"""

import argparse
import http.client
import json
import os
import random
import re
import statistics
import tempfile
import threading
import time
import urllib.parse
from collections import defaultdict
from dataclasses import dataclass, field
from pathlib import Path

from sqlalchemy import select
from sqlalchemy.orm import Session

from iron_bucket.command_line.web_server import web_server
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk.demo import load_demo
from iron_bucket.store.engine import engine_for
from iron_bucket.store.private_server import private_server
from iron_bucket.store.schema import migrate
from iron_bucket.store.setups import SetupRow
from tests.database import free_port

#: What somebody opens next, and how often against the rest.
PAGES = {
    "/": 3,
    "/jobs/1/setups": 3,
    "/jobs/1/setups/{setup}": 8,
    "/jobs/1/bucket": 4,
    "/jobs/1/bucket/tick": 3,
    "/jobs/1/power": 3,
    "/jobs/1/power/day": 1,
    "/jobs/1/days": 2,
    "/jobs/1/days/now": 2,
    "/jobs/1/pick": 2,
    "/pick": 2,
    "/bench": 3,
    "/bench/heads/day-led-300": 2,
    "/places": 2,
    "/places/1": 1,
    "/jobs/1/setups/{setup}/sheet.pdf": 0.5,
}
PAUSE_S = (1.0, 3.0)
CHANGES = 0.25
FIRST = 5
MUCH = 6


@dataclass
class Told:
    """What was measured, by kind."""

    seconds: dict[str, list[float]] = field(default_factory=lambda: defaultdict(list))
    errors: list[str] = field(default_factory=list)


class Somebody:
    """One person with a browser's cookies, on a connection of their own."""

    def __init__(
        self,
        port: int,
        setups: list[int],
        told: Told,
        chance: random.Random,
        connection: http.client.HTTPConnection | None = None,
        **headers: str,
    ) -> None:
        self._setups, self.told, self._chance, self._headers = setups, told, chance, headers
        self._cookies: dict[str, str] = {}
        self._token = ""
        self._connection = connection or http.client.HTTPConnection("127.0.0.1", port, timeout=60)

    def ask(self, kind: str, method: str, address: str, form: dict[str, str] | None = None) -> str:
        """One request, timed; a redirection is followed within the same time."""
        began = time.perf_counter()
        text, status = self._exchange(method, address, form)
        self.told.seconds[kind].append(time.perf_counter() - began)
        if status >= 400 and status not in (409, 429):  # two at one lamp, paper upon paper: told so, and right
            self.told.errors.append(f"{status} {method} {address}")
        found = re.search(r'name="csrf_token" value="([^"]+)"', text)
        self._token = found[1] if found else self._token
        return text

    def status(self, method: str, address: str, form: dict[str, str] | None) -> int:
        """What one request is answered with, 0 for nothing."""
        return self._exchange(method, address, form)[1]

    def _exchange(self, method: str, address: str, form: dict[str, str] | None) -> tuple[str, int]:
        headers = self._headers | {"Cookie": "; ".join(f"{name}={value}" for name, value in self._cookies.items())}
        body = urllib.parse.urlencode(form | {"csrf_token": self._token}) if form is not None else None
        if body is not None:
            headers |= {"Content-Type": "application/x-www-form-urlencoded", "HX-Request-Type": "partial"}
        try:
            self._connection.request(method, address, body, headers)
            answer = self._connection.getresponse()
            text = answer.read().decode("utf-8", "replace")
        except (OSError, http.client.HTTPException) as broken:
            self._connection.close()
            self.told.errors.append(f"{type(broken).__name__} {method} {address}")
            return "", 0
        for cookie in answer.headers.get_all("Set-Cookie") or []:
            name, _, value = cookie.partition(";")[0].partition("=")
            self._cookies[name] = value
        if answer.status in (302, 303):
            there = urllib.parse.urlsplit(answer.headers["Location"])
            return self._exchange("GET", there._replace(netloc="", scheme="").geturl(), None)
        return text, answer.status

    def sign_in(self) -> None:
        """The page, and what is sent from it."""
        self.ask("sign-in page", "GET", "/sign-in")
        self.ask("sign-in", "POST", "/sign-in", {"sign_in": DEMO_SIGN_IN, "password": DEMO_PASSWORD})

    def come_and_go(self, until: float) -> None:
        """Nothing but signing in, on another device each time."""
        while time.monotonic() < until:
            self._cookies.clear()
            self.sign_in()
            time.sleep(self._chance.uniform(0.2, 0.6))

    def ask_much(self, until: float) -> None:
        """Nothing but what takes long: a pick at another distance each time, paper, days."""
        self.sign_in()
        while time.monotonic() < until:
            throw = self._chance.uniform(1.5, 9.0)
            self.ask("a new pick", "GET", f"/pick?level=400&throw={throw:.3f}&width=1.5")
            setup = self._chance.choice(self._setups)
            for page in ("/jobs/1/days", f"/jobs/1/setups/{setup}/sheet.pdf"):
                self.ask(page, "GET", page)

    def work(self, until: float) -> None:
        """Sign in, then look and change until the time is over."""
        self.sign_in()
        self.ask("/", "GET", "/")
        while time.monotonic() < until:
            time.sleep(self._chance.uniform(*PAUSE_S))
            setup = self._chance.choice(self._setups)
            if self._chance.random() < CHANGES:
                row = {"operation": "set", "where": "lamps", "piece_id": "key"}
                level = round(self._chance.uniform(0.1, 1.0), 2)
                changes = json.dumps([row | {"to": {"level": level}}])
                self.ask("a change", "POST", f"/jobs/1/setups/{setup}/changes", {"changes": changes, "piece": "key"})
                continue
            page = self._chance.choices(list(PAGES), list(PAGES.values()))[0]
            self.ask(page, "GET", page.format(setup=setup))


def main() -> None:
    """Let them work, and say what was measured."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--people", type=int, default=40)
    options.add_argument("--seconds", type=float, default=60.0)
    options.add_argument("--workers", type=int, default=2)
    asked = options.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        Path(folder).chmod(0o755)
        with private_server(Path(folder) / "database") as url:
            engine = engine_for(url)
            migrate(engine)
            with Session(engine) as session:
                load_demo(session)
            with Session(engine) as session:
                setups = [row.id for row in session.scalars(select(SetupRow)) if row.job_id == 1 and _has_key(row)]
            engine.dispose()
            environment = {
                **os.environ,
                "IRON_BUCKET_DATABASE_URL": url,
                "IRON_BUCKET_SECRET_KEY": "l" * 32,
                "IRON_BUCKET_DEMO": "yes",
                "IRON_BUCKET_SIGN_IN_LIMIT": "100000 per minute",
                "IRON_BUCKET_LOG_LEVEL": "warning",
            }
            port = free_port()
            with web_server("127.0.0.1", port, environment, workers=asked.workers):
                told = let_work(port, setups, asked.people, asked.seconds)
                print_told(told, f"{asked.people} people")
                print_told(
                    let_come_and_go(port, setups, asked.seconds / 2.0), f"two sign in, {MUCH} ask what takes long"
                )


def _has_key(row: SetupRow) -> bool:
    return any(lamp.get("piece_id") == "key" for lamp in row.document.get("lamps", []))


def let_work(port: int, setups: list[int], people: int, seconds: float) -> Told:
    """All of them, begun within a few seconds of one another, on a server that has been everywhere: a connection stays
    with one of its processes, so that several are tried.
    """
    for at in range(FIRST):
        first = Somebody(port, setups, Told(), random.Random(at))
        first.work(0.0)
        for page in PAGES:
            first.ask(page, "GET", page.format(setup=setups[0]))
        print(f"been everywhere: {sum(map(sum, first.told.seconds.values())):.1f} s", flush=True)
    told, until = Told(), time.monotonic() + seconds
    crowd = [
        threading.Thread(target=Somebody(port, setups, told, random.Random(at)).work, args=(until,))
        for at in range(people)
    ]
    for each in crowd:
        each.start()
        time.sleep(min(5.0, seconds / 4.0) / people)
    for each in crowd:
        each.join()
    return told


def let_come_and_go(port: int, setups: list[int], seconds: float) -> Told:
    """How long signing in takes while others keep the machine busy."""
    told, until = Told(), time.monotonic() + seconds
    crowd = [Somebody(port, setups, told, random.Random(at)) for at in range(MUCH + 2)]
    threads = [
        threading.Thread(target=each.come_and_go if at < 2 else each.ask_much, args=(until,))
        for at, each in enumerate(crowd)
    ]
    for each in threads:
        each.start()
    for each in threads:
        each.join()
    return told


def print_told(told: Told, who: str) -> None:
    """p50, p95 and the worst of each kind, and of all."""
    every = [second for seconds in told.seconds.values() for second in seconds]
    for kind, seconds in sorted(told.seconds.items(), key=lambda each: -max(each[1])):
        print(f"{kind:38} {len(seconds):5} ×  {_of(seconds)}")
    print(f"{f'{who}, all':38} {len(every):5} ×  {_of(every)}   {len(told.errors)} errors")
    for error in sorted(set(told.errors))[:20]:
        print(f"  {told.errors.count(error)} × {error}")


def _of(seconds: list[float]) -> str:
    cuts = statistics.quantiles(seconds, n=100, method="inclusive") if len(seconds) > 1 else seconds * 99
    return f"median {cuts[49] * 1e3:6.0f} ms   p95 {cuts[94] * 1e3:6.0f} ms   worst {max(seconds) * 1e3:6.0f} ms"


if __name__ == "__main__":
    main()
