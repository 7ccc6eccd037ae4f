"""A real server with the demo in it, and Debian's Chromium before it."""

import os
import re
import shutil
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import text
from sqlalchemy.orm import Session

from iron_bucket.command_line.child import child
from iron_bucket.command_line.web_server import SERVER_OPTIONS
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk.demo import load_demo
from iron_bucket.store.engine import engine_for
from iron_bucket.store.schema import migrate
from tests.database import database_url, demo, engine, free_port, open_folder, session, wait_until_served  # noqa: F401 - fixtures

ROOT = Path(__file__).parents[2]
PHONE = {"width": 390, "height": 844}
#: Generous, for a machine that runs other tests meanwhile.
expect.set_options(timeout=45_000)
AXE = (
    (ROOT / "node_modules" / "axe-core" / "axe.min.js").read_text()
    if (ROOT / "node_modules" / "axe-core").exists()
    else ""
)


@pytest.fixture(scope="session")
def browser_type_launch_args():
    return {
        "executable_path": shutil.which("chromium"),
        "args": ["--host-resolver-rules=MAP * ~NOTFOUND , EXCLUDE 127.0.0.1 , EXCLUDE localhost"],
    }


@pytest.fixture(scope="session")
def browser_context_args():
    return {"viewport": {"width": 1280, "height": 800}}


@pytest.fixture(scope="session")
def served(database_url):
    """The address of a running Iron Bucket on a database of its own."""
    url = database_url.replace("/app_main", "/app_browser")
    bare = engine_for(database_url)
    with bare.begin() as connection:
        connection.execute(text("CREATE DATABASE app_browser CHARACTER SET utf8mb4"))
    bare.dispose()
    engine = engine_for(url)
    migrate(engine)
    with Session(engine) as session:
        assert load_demo(session)
    engine.dispose()
    port = free_port()
    environment = {
        **os.environ,
        "PYTHONFAULTHANDLER": "1",
        "IRON_BUCKET_DATABASE_URL": url,
        "IRON_BUCKET_SECRET_KEY": "b" * 32,
        "IRON_BUCKET_DEMO": "yes",
        "IRON_BUCKET_SIGN_IN_LIMIT": "1000 per minute",
    }
    where = ("--host", "127.0.0.1", "--port", str(port), "--workers", "1")
    with child("granian", *where, *SERVER_OPTIONS, "iron_bucket.web.wsgi:app", environment=environment):
        wait_until_served(port)
        yield f"http://127.0.0.1:{port}"


def sign_in(page: Page, served: str) -> None:
    page.goto(f"{served}/sign-in")
    page.get_by_label("Sign-in").fill(DEMO_SIGN_IN)
    page.get_by_label("Password").fill(DEMO_PASSWORD)
    page.get_by_role("button", name="Sign in", exact=True).click()
    page.wait_for_url(f"{served}/")


@pytest.fixture(scope="session")
def signed_in(browser: Browser, served: str) -> list:
    """The cookies of the demo's person; signing in takes a second, by design."""
    context = browser.new_context()
    page = context.new_page()
    sign_in(page, served)
    cookies = context.cookies()
    context.close()
    return cookies


@pytest.fixture
def desk(page: Page, served: str, signed_in: list) -> Page:
    """A page signed in to the demo; anything written to the browser's console fails the test."""
    said: list[str] = []
    page.on(
        "console",
        lambda message: (
            said.append(message.text)
            if message.type == "error" and not any(code in message.text for code in ("422", "409", "401", "403"))
            else None
        ),
    )
    page.on("pageerror", lambda error: said.append(str(error)))
    page.context.set_default_timeout(45_000)
    page.context.set_default_navigation_timeout(45_000)
    page.context.add_cookies(signed_in)
    yield page
    for each in page.context.pages:
        # Chromium never says that a page is closed which is closed while an answer is on its way, and the call waits
        # for ever: seen at the 42nd of such closes, and never in 338 with the answer awaited or the page left first.
        each.goto("about:blank")
    assert said == []


def job_address(page: Page, served: str, name: str) -> str:
    """The address of a job's bucket, as the front page tells it."""
    return served + re.search(rf'href="([^"]+)">{name}<', page.request.get(served).text())[1]


def barriers(page: Page) -> list:
    """What axe finds on a page, with the nodes; on a phone of what a thumb meets, for nothing else differs there. Of a
    long list its first rows, for the others are drawn by the same line.
    """
    if not AXE:
        return []
    if not page.evaluate("() => Boolean(window.axe)"):
        page.evaluate(AXE)
    seen = page.viewport_size
    if seen["width"] <= PHONE["width"]:  # what lies under the foot bar just now is reached by scrolling
        page.set_viewport_size(seen | {"height": page.evaluate("document.documentElement.scrollHeight") + 200})
    is_phone = page.viewport_size["width"] <= PHONE["width"]
    alone = ["target-size"] if is_phone else []
    rules = {"runOnly": alone, "rules": {each: {"enabled": True} for each in alone}} if alone else {}
    found = page.evaluate(
        "([where, rules]) => axe.run(where, {resultTypes: ['violations'], ...rules})",
        [{"exclude": [["tbody tr:nth-child(n+13)"], ["li:nth-child(n+13)"]]}, rules],
    )["violations"]
    page.set_viewport_size(seen)
    return [(each["id"], [node["html"][:120] for node in each["nodes"][:3]]) for each in found]
