"""Hostile forms and files, as many as one likes: ``bin/benchmark fuzz --count 100000 --seed 1``. Prints what nobody
handled; nothing else is kept.
"""

import argparse
import collections
import os
import random
import tempfile
import time
import traceback
from pathlib import Path

from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import seed as seeded
from sqlalchemy.orm import Session

from iron_bucket.core.errors import BadValue
from iron_bucket.desk.demo import load_demo
from iron_bucket.formats.errors import FormatError
from iron_bucket.store.engine import engine_for
from iron_bucket.store.private_server import private_server
from iron_bucket.store.schema import migrate
from iron_bucket.web.app import create_app
from iron_bucket.web.settings import Settings
from tests.formats.test_fuzz import READERS, spoiled
from tests.hostile import PAGES, forms_on, hostile_address, hostile_form
from tests.web.conftest import Browser
from tests.web.test_fuzz_forms import sent

#: Of the inputs, how many are forms; a file takes a hundredth of the time.
FORM_SHARE = 0.1
LONGEST_S = 5.0
#: After so many it is told how it goes.
FORMS_AT_ONCE = 200


def main() -> None:
    """Hunt, and say what was found."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--count", type=int, default=100_000)
    options.add_argument("--seed", type=int, default=1)
    options.add_argument("--forms", type=float, default=FORM_SHARE, help="what share of them are forms")
    asked = options.parse_args()
    forms = int(asked.count * asked.forms)
    found = hunt_files(asked.count - forms, asked.seed)
    with tempfile.TemporaryDirectory() as folder:
        Path(folder).chmod(0o755)
        with private_server(Path(folder) / "database", is_throw_away=True) as url:
            found += hunt_forms(url, forms, asked.seed)
    print(f"{asked.count:,} inputs, {sum(found.values())} unhandled")
    for what, count in found.most_common():
        print(f"{count} ×\n{what}")


def _bounded(count: int, seed: int):
    def of(test):
        limits = settings(
            max_examples=count,
            deadline=None,
            suppress_health_check=list(HealthCheck),
            database=None,
            phases=[Phase.generate],
        )
        return seeded(seed)(limits(test))

    return of


def hunt_files(count: int, seed: int) -> collections.Counter:
    """Every reader in turn."""
    found: collections.Counter = collections.Counter()
    began = time.monotonic()
    for name in READERS:
        _hunt_with(name, count // len(READERS), seed, found)
    print(f"{count:,} files in {time.monotonic() - began:.0f} s")
    return found


def _hunt_with(name: str, count: int, seed: int, found: collections.Counter) -> None:
    read, seeds = READERS[name]

    @_bounded(count, seed)
    @given(spoiled(seeds))
    def anything(data: bytes) -> None:
        start = time.process_time()
        try:
            read(data)
        except (FormatError, BadValue):
            pass
        except Exception:
            found[f"{name}\n{traceback.format_exc(limit=-3)}"] += 1
        if time.process_time() - start > LONGEST_S:
            found[f"{name}: {len(data)} bytes took {time.process_time() - start:.1f} s"] += 1

    anything()


def hunt_forms(url: str, count: int, seed: int) -> collections.Counter:
    """Every form of the demo's pages; what was kept by one is there for the next."""
    engine = engine_for(url)
    migrate(engine)
    with Session(engine) as session:
        load_demo(session)
    app = create_app(Settings(database_url=url, secret_key="f" * 32, is_demo=True, sign_in_limit="100000 per minute"))
    browser, found = Browser(app.test_client()), collections.Counter()
    browser.sign_in()
    forms = [form for page in PAGES for form in forms_on(browser.get(page).text or "<p>", page)]
    browser.get("/")
    began, chance, statuses = time.monotonic(), random.Random(seed), collections.Counter()

    hostile = hostile_form(forms).flatmap(lambda each: hostile_address(each[0].address).map(lambda at: (*each, at)))

    def anything(each) -> None:
        form, fields, address = each
        start = time.monotonic()
        status = sent(browser, form, address, fields)
        statuses[status] += 1
        if status >= 500 or time.monotonic() - start > 6 * LONGEST_S:
            found[
                f"{status} in {time.monotonic() - start:.1f} s: {form.address} as {address}\n{dict(fields)}"[:1500]
            ] += 1
        if chance.random() < 0.01:
            page = chance.choice(PAGES)
            answer = browser.get(page)
            if answer.status_code >= 500:
                found[f"afterwards {answer.status_code}: {page}"] += 1
            if answer.status_code == 302 and "sign-in" in answer.headers.get("Location", ""):
                browser.sign_in()
                browser.get("/")

    for batch, first in enumerate(range(0, count, FORMS_AT_ONCE)):
        _bounded(min(FORMS_AT_ONCE, count - first), seed + batch)(given(hostile)(anything))()
        told = f"{statuses.total():,} forms in {time.monotonic() - began:.0f} s: {dict(statuses)}"
        print(f"{told}; {found.total()} unhandled", flush=True)
    return found


if __name__ == "__main__":
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    main()
