"""The bench's pages: as page and as swap, with bad input, their files in and out."""

import io
import json
import re
from datetime import date

import pytest

from iron_bucket.demo.files import demo_gear
from iron_bucket.desk.hire import HireAnswers
from iron_bucket.devices.hire_desk.stand_in import StandInHouse, Stocked
from iron_bucket.formats.gear_json import read_bench_file
from iron_bucket.formats.photometric import read_photometric
from tests.conftest import GOLDEN
from tests.devices.test_hire_desk import HOUSE
from tests.tables import table, tabled
from tests.web.forms import sent_by

PAGES = table(__file__, "PAGES")


@pytest.mark.parametrize("address", PAGES)
def test_every_page_opens_for_who_is_signed_in(gaffer, app, address):
    answer = gaffer.get(address)
    assert answer.status_code == 200
    assert not re.search(r" style=|<script>", answer.text)
    assert app.test_client().get(address).status_code == 302


@tabled
@pytest.mark.parametrize("units", ["metric", "imperial"])
def test_a_form_saved_as_it_came_changes_nothing(gaffer, slug, units):
    gaffer.get("/bench")
    gaffer.post("/units", {"units": units, "back": "/bench"})
    before = gaffer.get("/bench/out.json").json
    answer = gaffer.post(f"/bench/edit/{slug}", sent_by(gaffer.get(f"/bench/edit/{slug}").text, "piece-form"))
    assert answer.status_code == 303
    assert gaffer.get("/bench/out.json").json == before


def sent(gaffer, address: str, data: bytes, name: str, **form):
    file = {"file": (io.BytesIO(data), name), "csrf_token": gaffer.token}
    return gaffer.client.post(address, data=file | form, content_type="multipart/form-data")


def test_many_files_with_a_bad_one_among_them(gaffer):
    gaffer.get("/bench/upload")
    names = ["f26.ies", "f30.ies", "m01_truncated.ies", "f33.ldt"]
    files = [(io.BytesIO((GOLDEN / "photometric" / name).read_bytes()), name) for name in names]
    form = {"technology": "LED day", "cct": "5600", "weight": "4", "owned": "1", "csrf_token": gaffer.token}
    answer = gaffer.client.post("/bench/upload", data={**form, "file": files}, content_type="multipart/form-data")
    assert answer.status_code == 200
    assert answer.text.count("is now") == 3
    assert "need 15 numbers, but 11 follow" in answer.text
    one = gaffer.client.post(
        "/bench/upload",
        data={**form, "file": [(io.BytesIO((GOLDEN / "photometric" / "f26.ies").read_bytes()), "again.ies")]},
        content_type="multipart/form-data",
        headers={"HX-Request-Type": "partial"},
    )
    assert "is on the bench already" in one.text
    assert "<html" not in one.text


def test_a_configuration_as_a_file(gaffer):
    page = gaffer.get("/bench/configurations/day-led-300.reflector/file").text
    assert "Nothing is left out" in page
    for ending in ("ies", "ldt"):
        file = gaffer.get(f"/bench/configurations/day-led-300.reflector.{ending}")
        assert read_photometric(file.data, f"x.{ending}").input_w > 300


#: Any modifier that is no sheet: a spectrum of a sheet is what that passes.
BOX = "dome-0.35"


def test_a_spectrum_in_and_out(gaffer):
    gaffer.get(f"/bench/pieces/{BOX}")
    data = (GOLDEN / "spectra" / "FL12.csv").read_bytes()
    assert sent(gaffer, f"/bench/spectra/{BOX}", data, "gel.csv").status_code == 303
    page = gaffer.get(f"/bench/pieces/{BOX}").text
    assert "Duv +0.0001" in page
    number = re.search(r"/bench/spectra/(\d+)\.csv", page)[1]
    xml = gaffer.get(f"/bench/spectra/{number}.xml").data
    assert sent(gaffer, "/bench/spectra/day-led-300.bare", xml, "same.xml").status_code == 303
    assert b"wavelength_nm" in gaffer.get(f"/bench/spectra/{number}.csv").data
    assert gaffer.get(f"/bench/spectra/{number}.exe").status_code == 422
    assert sent(gaffer, "/bench/spectra/full-blue", b"rubbish", "x.csv").status_code == 422
    assert sent(gaffer, "/bench/spectra/full-blue", b"", "").status_code == 422
    assert gaffer.post(f"/bench/spectra/{number}/off").status_code == 303
    assert "gel.csv" not in gaffer.get(f"/bench/pieces/{BOX}").text.split("History")[0]
    assert (
        "accepted: shares up to 1, or per cent"
        in sent(gaffer, "/bench/spectra/full-blue", data.replace(b",", b",1"), "x.csv").text
    )
    page = gaffer.get("/bench/pieces/dusk-blue").text
    assert "on tungsten, 3200 K" in page
    assert "share passed by wavelength in nanometres, most of it at" in page


def test_the_bench_out_in_and_some_of_it(gaffer):
    whole = gaffer.get("/bench/out.json")
    assert len(read_bench_file(whole.text).readings) > 100
    some = read_bench_file(gaffer.get("/bench/out.json?kind=heads&text=bicolour+lens&own=own").text)
    assert [head.slug for head in some.gear.heads] == ["bi-lens-60"]
    assert [head.slug for head in read_bench_file(gaffer.get("/bench/out.json?slug=day-led-60").text).gear.heads] == [
        "day-led-60"
    ]
    gaffer.get("/bench/in")
    document = json.loads(whole.text)
    document["heads"][0]["name"] = "renamed elsewhere"
    changed = json.dumps(document).encode()
    assert sent(gaffer, "/bench/in", changed, "bench.json", differ="ours").status_code == 303
    assert "renamed elsewhere" not in gaffer.get("/bench").text
    sent(gaffer, "/bench/in", changed, "bench.json", differ="theirs")
    assert "0 new, 1 changed" in gaffer.get("/bench").text
    assert gaffer.get("/bench/out.json").json == document
    for data, name in ((b"{", "x.json"), (b"\xff\xfe\xff", "x.json"), (b"", "")):
        assert sent(gaffer, "/bench/in", data, name).status_code == 422


@pytest.fixture
def house(app, monkeypatch):
    """The stand-in's house behind the page, without a network."""
    stocked = [
        Stocked(item=item.slug, name=item.name, day_price=item.day_price)
        for item in demo_gear().items()
        if item.day_price
    ]
    monkeypatch.setitem(app.extensions, "hire_answers", HireAnswers(StandInHouse(stocked=stocked)))
    return HOUSE.offers(date(2026, 10, 12))


def test_hire_prices_are_shown_and_taken(gaffer, house):
    page = gaffer.get("/bench/hire?day=2026-10-12").text
    assert "at a different price from the bench" in page
    assert gaffer.get("/bench/hire?day=2026-10-12&page=2").status_code == 200
    assert gaffer.get("/bench/hire?day=soon").status_code == 422
    assert gaffer.post("/bench/hire/prices", {"day": "2026-10-12"}).status_code == 303
    assert "at another price" not in gaffer.get("/bench/hire?day=2026-10-12").text
    answer = sent(gaffer, "/bench/hire/list", b"item,day_price\nday-led-300,99\nnobody,5\n", "prices.csv")
    assert "Not on the bench" in answer.text
    assert sent(gaffer, "/bench/hire/list", b"item,day_price\nx,lots\n", "prices.csv").status_code == 422
    assert sent(gaffer, "/bench/hire/list", b"", "").status_code == 422
