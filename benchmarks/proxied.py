"""Two processes of ours behind nginx, by docs/running/nginx.conf as it stands but for its ports and its certificate:
``bin/benchmark proxied --seconds 30``. In the middle one of the two is killed. Prints what was asked, every error, and
how the addresses that are not for everybody answer.
"""

import argparse
import contextlib
import http.client
import os
import random
import shutil
import signal
import ssl
import subprocess
import tempfile
import threading
import time
from collections.abc import Iterator
from pathlib import Path

from sqlalchemy import select
from sqlalchemy.orm import Session

from benchmarks.load import Somebody, Told
from iron_bucket.command_line.web_server import web_server
from iron_bucket.desk.demo import load_demo
from iron_bucket.store.engine import engine_for
from iron_bucket.store.private_server import private_server
from iron_bucket.store.schema import migrate
from iron_bucket.store.setups import SetupRow
from tests.database import free_port, wait_until_served

SITE = Path(__file__).parents[1] / "docs" / "running" / "nginx.conf"
NAME, PEOPLE = "gaffer.example", 8
_AROUND = """daemon off; pid {folder}/nginx.pid; error_log {folder}/error.log; worker_processes 1;
events {{}}
http {{
    access_log off; client_body_temp_path {folder}/body; proxy_temp_path {folder}/proxy; fastcgi_temp_path {folder}/f;
    uwsgi_temp_path {folder}/u; scgi_temp_path {folder}/s;
    include {folder}/site.conf;
}}
"""


@contextlib.contextmanager
def nginx(folder: Path, ports: list[int]) -> Iterator[int]:
    """Before them, on a port that is given."""
    key, certificate, port = folder / "site.key", folder / "site.pem", free_port()
    command = ["openssl", "req", "-x509", "-nodes", "-newkey", "rsa:2048", "-days", "1", "-subj", f"/CN={NAME}"]
    subprocess.run([*command, "-keyout", str(key), "-out", str(certificate)], check=True, capture_output=True)
    site = SITE.read_text(encoding="utf-8")
    for said, here in (
        ("127.0.0.1:8000", f"127.0.0.1:{ports[0]}"),
        ("127.0.0.1:8001", f"127.0.0.1:{ports[1]}"),
        ("listen 443 ssl", f"listen 127.0.0.1:{port} ssl"),
        (f"/etc/ssl/{NAME}.pem", str(certificate)),
        (f"/etc/ssl/{NAME}.key", str(key)),
    ):
        if site.count(said) != 1:
            raise SystemExit(f"{SITE.name} does not say {said} once")
        site = site.replace(said, here)
    (folder / "site.conf").write_text(site)
    (folder / "nginx.conf").write_text(_AROUND.format(folder=folder))
    with subprocess.Popen(["nginx", "-c", str(folder / "nginx.conf")]) as server:
        try:
            wait_until_served(port)
            yield port
        finally:
            server.terminate()


def somebody(port: int, setups: list[int], seed: int) -> Somebody:
    """With a browser's connection to nginx."""
    trusting = ssl.create_default_context()
    trusting.check_hostname, trusting.verify_mode = False, ssl.CERT_NONE  # it has just been made up
    connection = http.client.HTTPSConnection("127.0.0.1", port, timeout=60, context=trusting)
    more = {"Host": NAME, "Referer": f"https://{NAME}/"}  # without which no form over HTTPS is believed
    return Somebody(port, setups, Told(), random.Random(seed), connection, **more)


def environment(url: str) -> dict[str, str]:
    given = {"DATABASE_URL": url, "SECRET_KEY": "n" * 32, "DEMO": "yes", "HTTPS": "yes", "PROXIES": "1", "HOSTS": NAME}
    given |= {"ADDRESS": f"https://{NAME}", "SIGN_IN_LIMIT": "1000 per minute", "LOG_LEVEL": "warning"}
    return {**os.environ, **{f"IRON_BUCKET_{name}": value for name, value in given.items()}}


def main() -> None:
    """Start, work, kill, count."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--seconds", type=float, default=30.0)
    asked = options.parse_args()
    if not shutil.which("nginx"):
        raise SystemExit("nginx is not installed: apt-get install nginx-light openssl")
    with tempfile.TemporaryDirectory() as place, contextlib.ExitStack() as all_of_it:
        folder = Path(place)
        folder.chmod(0o755)
        url = all_of_it.enter_context(private_server(folder / "database", is_throw_away=True))
        engine = engine_for(url)
        migrate(engine)
        with Session(engine) as session:
            load_demo(session)
            setups = list(session.scalars(select(SetupRow.id).where(SetupRow.job_id == 1)))
        engine.dispose()
        ports = [free_port(), free_port()]
        servers = [
            all_of_it.enter_context(web_server("127.0.0.1", port, environment(url), workers=1)) for port in ports
        ]
        port = all_of_it.enter_context(nginx(folder, ports))
        people = [somebody(port, setups, seed) for seed in range(PEOPLE)]
        kill_one_while_working(people, servers[0], asked.seconds)
        tell(people)


def kill_one_while_working(people: list[Somebody], server: "subprocess.Popen[bytes]", seconds: float) -> None:
    """Everybody until the time is over."""
    until = time.monotonic() + seconds
    workers = [threading.Thread(target=each.work, args=(until,)) for each in people]
    for each in workers:
        each.start()
    time.sleep(seconds / 2.0)
    os.kill(server.pid, signal.SIGKILL)
    print(f"one of two killed after {seconds / 2.0:.0f} s")
    for each in workers:
        each.join()


def tell(people: list[Somebody]) -> None:
    errors = [each for person in people for each in person.told.errors]
    asked = sum(len(each) for person in people for each in person.told.seconds.values())
    first = people[0]
    for address in ("/static/dist/app.css", "/healthz", "/readyz", "/metrics"):
        print(f"{first.status('GET', address, None)} {address}")
    print(f"{asked} requests, {len(errors)} errors", *errors, sep="\n")
    if any(not each.startswith("502 POST") for each in errors):  # a change under way is not sent twice: told as unsaved
        raise SystemExit(1)


if __name__ == "__main__":
    main()
