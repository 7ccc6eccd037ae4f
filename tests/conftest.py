"""What every test shares: golden cases, the demo's gear, and nothing beyond loopback. Databases are in ``database``."""

import json
import os
import socket
from pathlib import Path

# Before numpy is loaded: two workers with two threads each wait for one another, which doubled the time of the core.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

import pytest
from xdist.scheduler import LoadScopeScheduling

from iron_bucket.demo.files import demo_gear

GOLDEN = Path(__file__).parent / "golden"
LOOPBACK = ("127.", "localhost", "::1", "/")


def golden_cases(file: str, kind: str) -> list:
    """The reference cases of one kind, each as a test parameter with its own id."""
    cases = json.loads((GOLDEN / file).read_text())["cases"]
    return [
        pytest.param(case["inputs"], case["expected"], case["rel_tol"], id=case["id"])
        for case in cases
        if case["kind"] == kind
    ]


class OneBrowser(LoadScopeScheduling):
    """Every test for whoever is free, but those of the browser on one worker: it takes twenty seconds to start."""

    def _split_scope(self, nodeid: str) -> str:
        return "browser" if nodeid.startswith("tests/browser/") else nodeid


def pytest_xdist_make_scheduler(config, log):
    return OneBrowser(config, log)


@pytest.fixture(autouse=True)
def nothing_beyond_loopback(monkeypatch):
    connect = socket.socket.connect

    def guarded(self, address):
        host = address[0] if isinstance(address, tuple) else str(address)
        if not str(host).startswith(LOOPBACK):
            raise AssertionError(f"a test reached out to {host}")
        return connect(self, address)

    monkeypatch.setattr(socket.socket, "connect", guarded)


@pytest.fixture(scope="session")
def gear():
    return demo_gear()
