"""The demo as a process: interrupted anywhere it can be started again, and it ends as a whole, saying so."""

import contextlib
import http.cookiejar
import os
import random
import re
import signal
import subprocess
import sys
import time
import urllib.parse
import urllib.request
from pathlib import Path

import pytest

from iron_bucket.command_line.secret_key import secret_key
from iron_bucket.command_line.web_server import WORKERS
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.store.processes import servers_of
from iron_bucket.store.server_folder import ServerFolder
from tests.database import free_port

ROOT = Path(__file__).parents[2]
MOMENTS = 12
LATEST_S = 3.5


@pytest.fixture
def data(open_folder):
    yield open_folder
    for process in RUNNING:
        process.kill()
        process.communicate()
    RUNNING.clear()
    folder = ServerFolder(path=open_folder / "database")
    deadline = time.monotonic() + 30
    while servers_of(folder.data) or folder.keeper():
        assert time.monotonic() < deadline, "a database server was left behind"
        time.sleep(0.05)


RUNNING: list["subprocess.Popen[str]"] = []


def start(data: Path, port: int) -> "subprocess.Popen[str]":
    # Through env, which takes Ctrl-C up again where these tests run in a shell's background, that ignores it.
    command = ["env", "--default-signal=INT", sys.executable, "-m", "iron_bucket", "demo"]
    where = ["--port", str(port), "--data", str(data)]
    streams = {"stdout": subprocess.PIPE, "stderr": subprocess.STDOUT, "text": True}
    RUNNING.append(subprocess.Popen([*command, *where], cwd=ROOT, **streams))
    return RUNNING[-1]


def until_ready(process: "subprocess.Popen[str]") -> None:
    said = []
    for line in process.stdout:
        said.append(line)
        if "Ctrl-C stops it" in line:
            return
    raise AssertionError("".join(said))


def front_page(port: int) -> str:
    """What the demo's person sees after signing in."""
    here = f"http://127.0.0.1:{port}"
    opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar()))
    with opener.open(f"{here}/sign-in", timeout=30) as page:
        token = re.search(r'name="csrf_token" value="([^"]+)"', page.read().decode())[1]
    form = {"csrf_token": token, "sign_in": DEMO_SIGN_IN, "password": DEMO_PASSWORD}
    with opener.open(f"{here}/sign-in", urllib.parse.urlencode(form).encode(), timeout=30) as page:
        return page.read().decode()


@pytest.mark.timeout(240)
def test_a_start_interrupted_anywhere_can_be_started_again(data):
    chance = random.Random(8)
    for moment in range(MOMENTS):
        process = start(data, free_port())
        time.sleep(chance.uniform(0.1, LATEST_S))
        process.send_signal(chance.choice([signal.SIGINT, signal.SIGKILL, signal.SIGTERM]))
        process.communicate(timeout=60)
        if moment == MOMENTS // 2:  # a disk that was pulled while the key was written
            (data / "secret-key").write_text("")
    port = free_port()
    process = start(data, port)
    until_ready(process)
    page = front_page(port)
    assert "The Borrowed Minute" in page
    assert "Hands That Bind" in page
    process.terminate()
    process.communicate(timeout=60)
    assert process.returncode == 0
    assert len((data / "secret-key").read_text()) == 64


def children(pid: int) -> dict[int, str]:
    """Processes below one, with their command lines."""
    found = {}
    for entry in Path("/proc").iterdir():
        if entry.name.isdecimal():
            try:
                parent = int((entry / "stat").read_text().rpartition(")")[2].split()[1])
                if parent == pid:
                    found[int(entry.name)] = (entry / "cmdline").read_bytes().replace(b"\0", b" ").decode()
            except OSError:
                continue
    return found


def is_alive(pid: int) -> bool:
    try:
        return (Path("/proc") / str(pid) / "stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except OSError:
        return False


@pytest.mark.timeout(200)
def test_a_killed_worker_is_replaced_a_failed_server_is_told_and_nothing_is_left(data):
    port = free_port()
    process = start(data, port)
    until_ready(process)
    (server,) = [pid for pid, line in children(process.pid).items() if "granian" in line]
    first = next(pid for pid, line in children(server).items() if "resource_tracker" not in line)
    os.kill(first, signal.SIGKILL)
    deadline = time.monotonic() + 60
    while first in (below := children(server)) or len(below) < WORKERS:
        assert time.monotonic() < deadline, "no worker took the killed one's place"
        time.sleep(0.1)
    for _ in range(60):
        with contextlib.suppress(OSError):  # connections that wait for the killed one are lost
            assert "The Borrowed Minute" in front_page(port)
            break
        time.sleep(0.2)
    else:
        pytest.fail("nobody answers any more")
    below = children(server)
    os.kill(server, signal.SIGKILL)
    process.communicate(timeout=60)
    assert process.returncode == 1
    deadline = time.monotonic() + 20
    while any(is_alive(pid) for pid in below) and time.monotonic() < deadline:
        time.sleep(0.1)
    assert not any(is_alive(pid) for pid in below)


@pytest.mark.parametrize("content", ["", "abc", "g" * 64, "0" * 63])
def test_a_key_that_is_empty_or_cut_is_made_anew_and_a_good_one_kept(tmp_path, content):
    path = tmp_path / "secret-key"
    path.write_text(content)
    key = secret_key(path)
    assert re.fullmatch("[0-9a-f]{64}", key)
    assert secret_key(path) == key
    assert path.stat().st_mode & 0o777 == 0o600
