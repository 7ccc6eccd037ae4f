"""Times the bench: files read into the database, fits, side by side, spectra, search. Run: bin/benchmark measured"""

import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from sqlalchemy.orm import Session

from benchmarks.made_up_gear import gear
from iron_bucket.core.bench.head import Technology
from iron_bucket.core.bench.reading_fit import FitKind, fit_readings
from iron_bucket.core.bench.search import search, search_index, wanted_of
from iron_bucket.core.colour.spectral_figures import spectral_figures
from iron_bucket.core.selection.fronts import FrontKind
from iron_bucket.demo.files import demo_spectra
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk import people
from iron_bucket.desk.bench import edit, files, shelf
from iron_bucket.desk.demo import load_demo
from iron_bucket.formats.spectrum import read_spectrum
from iron_bucket.store.engine import engine_for
from iron_bucket.store.private_server import private_server
from iron_bucket.store.schema import migrate
from iron_bucket.web.app import create_app
from iron_bucket.web.settings import Settings

PHOTOMETRIC_FILES, FITTED, SEARCHED = 1000, 500, 2000
#: As many as the page's script sends at a time.
A_REQUEST = 10


def median_ms(work: Callable[[], object], runs: int = 9) -> float:
    """Median time of some runs after one to warm up."""
    work()
    seconds = []
    for _ in range(runs):
        began = time.perf_counter()
        work()
        seconds.append(time.perf_counter() - began)
    return statistics.median(seconds) * 1000


def a_file(number: int) -> bytes:
    """A made-up LM-63 file with five planes of 37 angles, each another."""
    angles = np.linspace(0, 90, 37)
    planes = [
        1000 * (1 + number / 100 + plane / 10) * np.cos(np.radians(angles)) ** (2 + number % 7) for plane in range(5)
    ]
    rows = "\n".join(" ".join(f"{value:.2f}" for value in plane) for plane in planes)
    return (
        f"IESNA:LM-63-2002\n[LUMINAIRE] made up {number}\nTILT=NONE\n1 -1 1 37 5 1 2 0.2 0.2 0\n1 1 {50 + number}\n"
        f"{' '.join(f'{angle:g}' for angle in angles)}\n0 22.5 45 67.5 90\n{rows}\n"
    ).encode()


def time_files(session: Session, person_id: int) -> None:
    """As the page sends them: some files a request, one transaction each."""
    wish = files.UploadWish(name="", technology=Technology.LED_DAY, cct_k=5600.0, weight_kg=3.0)
    began = time.perf_counter()
    for first in range(0, PHOTOMETRIC_FILES, A_REQUEST):
        some = tuple((f"{number}.ies", a_file(number)) for number in range(first, first + A_REQUEST))
        assert all(taken.is_new for taken in files.take_in_files(session, person_id, some, wish))
    spent_s = time.perf_counter() - began
    print(f"{PHOTOMETRIC_FILES} LM-63 files read into the database, {A_REQUEST} a request: {spent_s:.1f} s")
    began = time.perf_counter()
    shelf(session)
    print(f"the shelf of {PHOTOMETRIC_FILES} heads more laid out: {(time.perf_counter() - began) * 1000:.0f} ms")
    spent = []
    for price in range(20):
        edit.retire(session, person_id, "full-blue", is_retired=price % 2 == 0)
        began = time.perf_counter()
        shelf(session)
        spent.append((time.perf_counter() - began) * 1000)
    print(f"after a change of one piece: {statistics.median(spent):.0f} ms, at most {max(spent):.0f} ms")


def time_fits() -> None:
    """Seven distances each, noise, one of them bad."""
    random = np.random.default_rng(3)
    throws = np.array([1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 7.0])
    cases = [20_000 / (throws + random.uniform(0, 0.3)) ** 2 * 2 ** random.normal(0, 0.04, 7) for _ in range(FITTED)]
    for levels in cases:
        levels[random.integers(7)] *= 1.8
    for count in (FITTED // 5, FITTED):
        spent = median_ms(
            lambda count=count: [fit_readings(throws, levels, FitKind.OFFSET) for levels in cases[:count]], runs=3
        )  # type: ignore[misc]
        print(f"{count} configurations fitted: {spent:.0f} ms")


def time_search() -> None:
    """Every head listed, filtered and counted."""
    bench = gear(configurations=SEARCHED, frames=0, cloths=0, sheets=0)
    for count in (SEARCHED // 4, SEARCHED):
        index = search_index(bench.heads[:count], bench)
        spent = median_ms(
            lambda index=index: search(index, wanted_of("bicolour 30 under 20 kg"), {"technology": "LED bicolour"})
        )  # type: ignore[misc]
        print(f"{count} heads searched, filtered and counted: {spent:.1f} ms")


def time_pages(url: str, session: Session) -> None:
    """Server time of whole pages, through the application with its database."""
    app = create_app(Settings(database_url=url, secret_key="b" * 32, is_demo=True, sign_in_limit="1000 per minute"))
    app.config["WTF_CSRF_ENABLED"] = False
    client = app.test_client()
    client.post("/sign-in", data={"sign_in": DEMO_SIGN_IN, "password": DEMO_PASSWORD})
    frame = next(front.key for front in shelf(session).packed.fronts if front.kind is FrontKind.FRAME).replace(
        "+", "%2B"
    )
    stacks = (
        "day-led-300.reflector~open~none",
        f"bi-led-300.reflector~{frame}~none",
        "tung-1000.flood~open~full-blue",
        "day-led-300.bare~dome-0.9~none",
    )
    for count in (2, 4):
        address = f"/bench/side?frame={frame}&" + "&".join(f"with={key}" for key in stacks[:count])
        print(
            f"side by side, {count} stacks through a frame:"
            f" {median_ms(lambda address=address: client.get(address)):.0f} ms"
        )  # type: ignore[misc]
    print(f"the bench list, searched: {median_ms(lambda: client.get('/bench?text=led+under+20+kg')):.0f} ms")
    print(f"one head's page: {median_ms(lambda: client.get('/bench/heads/day-led-300')):.0f} ms")
    app.extensions["engine"].dispose()


def main() -> None:
    """Everything, one line each."""
    time_fits()
    time_search()
    spectra = [read_spectrum(data) for _, _, data in demo_spectra()]
    each = statistics.mean(median_ms(lambda one=one: spectral_figures(one)) for one in spectra)  # type: ignore[misc]
    print(f"figures of one spectrum, warm: {each:.0f} ms")
    with tempfile.TemporaryDirectory() as folder, private_server(Path(folder) / "server", is_throw_away=True) as url:
        engine = engine_for(url)
        migrate(engine)
        with Session(engine, expire_on_commit=False) as session:
            load_demo(session)
            time_pages(url, session)
            time_files(session, people.sign_in(session, DEMO_SIGN_IN, DEMO_PASSWORD).person_id)
        engine.dispose()


if __name__ == "__main__":
    main()
