import csv
import io
import json
import re

import lxml.html
import pytest
from sqlalchemy import select
from sqlalchemy.exc import OperationalError

from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.desk import people
from iron_bucket.store.jobs import JobRow
from iron_bucket.web.app import create_app
from iron_bucket.web.pick.forms import read_need, starting_words, words_of
from iron_bucket.web.settings import Settings, settings_from
from iron_bucket.web.shared.display_filters import money
from tests.conftest import GOLDEN
from tests.made_up import a_need
from tests.tables import table, tabled


@pytest.fixture
def job_id(demo) -> int:
    with demo.begin():
        return demo.scalars(select(JobRow.id).where(JobRow.name == "The Borrowed Minute")).one()


PAGES = table(__file__, "PAGES")


@pytest.mark.parametrize("address", PAGES)
def test_every_page_opens_for_its_own_and_for_nobody_else(gaffer, app, job_id, address):
    address = address.format(job=job_id)
    answer = gaffer.get(address)
    assert answer.status_code == 200
    assert answer.headers["Content-Security-Policy"].startswith("default-src 'self'")
    assert " style=" not in answer.text
    assert "<script>" not in answer.text
    refused = app.test_client().get(address)
    assert refused.status_code == 302
    assert "/sign-in" in refused.headers["Location"]


@tabled
def test_somebody_else_s_job_is_not_there(stranger, demo, job_id, address):
    people.add_person(demo, name="Other", sign_in="other", password="long enough to pass")
    stranger.sign_in("other", "long enough to pass")
    assert stranger.get(address.format(job=job_id)).status_code == 404
    assert "There is no such job on your list" in stranger.get(f"/jobs/{job_id}/bucket").text


@pytest.mark.usefixtures("within_a_minute")
def test_tries_are_limited(database_url, demo):
    app = create_app(Settings(database_url=database_url, secret_key="y" * 32, sign_in_limit="2 per minute"))
    client = app.test_client()
    page = client.get("/sign-in").text
    assert "lamps-and-stands" not in page  # offered on the demo only
    token = re.search(r'name="csrf_token" value="([^"]+)"', page)[1]
    found = [
        client.post("/sign-in", data={"csrf_token": token, "sign_in": "x", "password": "y"}).status_code
        for _ in range(3)
    ]
    assert found == [403, 403, 429]
    app.extensions["engine"].dispose()


def test_a_form_without_its_token_is_refused(gaffer):
    answer = gaffer.client.post("/jobs", data={"name": "x"})
    assert answer.status_code == 400
    assert "expired" in answer.text


PICK = {"level": "640 lx", "throw": "3 m", "width": "1.5 m", "soft": "12", "cct": "5600"}


@tabled
def test_sentences_of_every_kind(gaffer, change):
    answer = gaffer.get("/pick", query_string=PICK | change)
    assert answer.status_code == 200
    assert re.search(r"heads? fits? for", answer.text.replace("</b>", "").replace("<b>", ""))


def key_of(page: str) -> str:
    return re.search(r'name="key" value="([^"]+)"', page)[1]


def test_from_need_to_bucket_to_csv(gaffer, job_id):
    page = gaffer.get(f"/jobs/{job_id}/pick", query_string=PICK).text
    put = PICK | {"key": key_of(page), "job_id": str(job_id), "purpose": "=key, for the face"}
    swap = gaffer.post("/pick/bucket", put, as_swap=True)
    # With all that hangs on the head, by name.
    assert re.search(r"\w+ with [^<]*\w+ is in the bucket of The Borrowed Minute", swap.text)
    assert 'id="bucket-bar"' in swap.text
    assert gaffer.post("/pick/bucket", put).headers["Location"] == f"/jobs/{job_id}/bucket"
    rows = list(csv.DictReader(io.StringIO(gaffer.get(f"/jobs/{job_id}/bucket/list.csv").text)))
    heads = [row for row in rows if row["kind"] == "head"]
    assert "'=key, for the face" in [row["purpose"] for row in heads]  # no formula for a spreadsheet
    document = json.loads(gaffer.get(f"/jobs/{job_id}/bucket/list.json").text)
    assert document["totals"]["heads"] == sum(int(row["quantity"]) for row in heads)
    picked = {row["hangs_on"] for row in document["entries"] if row["kind"] == "stand" and row["id"] > 0}
    assert picked <= {row["id"] for row in document["entries"]}


def test_the_rest_of_a_list_follows_its_first_rows(gaffer):
    page = gaffer.get("/pick", query_string=PICK).text
    rest = re.search(r'hx-get="([^"]+)"[^>]*>\s*<a [^>]*href="\1">(\d+) more</a>', page)
    address, more = rest[1].replace("&amp;", "&"), int(rest[2])
    first, further, whole = (
        re.findall(r'id="(fit-[^"]+)"', text)
        for text in (page, gaffer.get(address, headers={"HX-Request-Type": "partial"}).text, gaffer.get(address).text)
    )
    assert (len(first), len(further)) == (8, more)
    assert first + further == whole
    assert len(set(whole)) == len(whole)


def test_three_side_by_side(gaffer):
    page = gaffer.get("/pick", query_string=PICK).text
    keys = re.findall(r'name="with" value="([^"]+)"', page)[:4]
    sides = gaffer.get("/pick/compare", query_string={**PICK, "with": keys}).text
    assert sides.count('<th scope="col">') == 3
    assert "Three at most" in sides
    assert gaffer.get("/pick/compare", query_string={**PICK, "throw": "far"}).status_code == 422


def version_of(page: str) -> str:
    return re.search(r'name="version" value="(\d+)"', page)[1]


def upload(gaffer, data: bytes, **changes):
    form = {"technology": "LED day", "cct": "5600", "weight": "4", "owned": "1", "csrf_token": gaffer.token} | changes
    return gaffer.client.post(
        "/bench/upload",
        data={**form, "file": (io.BytesIO(data), changes.get("name_of_file", "panel.ies"))},
        content_type="multipart/form-data",
    )


def test_a_file_is_uploaded_and_picked(gaffer):
    gaffer.get("/bench/upload")
    made = upload(gaffer, (GOLDEN / "photometric" / "f30.ies").read_bytes(), name="Foreign panel")
    assert made.status_code == 303
    page = gaffer.get(made.headers["Location"]).text
    assert "claimed" in page
    assert "Foreign panel" in page
    need = {"level": "150 lx", "throw": "3 m", "cct": "5600", "width": "", "soft": "", "own": "own"}
    found = gaffer.get("/pick/compare", query_string=need | {"with": "foreign-panel.file~open~none"}).text
    assert "Foreign panel" in found
    assert "+0.2" in found  # 1500 cd at 3 m is 166.7 lx, 0.15 of a stop over 150, less the panel's area


@tabled
def test_bad_uploads_keep_the_form(gaffer, data, changes, sentence):
    gaffer.get("/bench/upload")
    answer = upload(gaffer, data, **changes)
    assert answer.status_code == 422
    assert sentence in answer.text.replace("&#39;", "'")
    assert 'id="up-weight"' in answer.text


def test_too_large_an_upload_is_refused(gaffer):
    gaffer.get("/bench/upload")
    answer = gaffer.client.post(
        "/bench/upload",
        data=b"x",
        content_type="multipart/form-data; boundary=x",
        headers={"X-CSRFToken": gaffer.token},
        environ_overrides={"CONTENT_LENGTH": "70000000"},
    )
    assert answer.status_code == 413
    assert "up to 4 MB" in answer.text


def test_a_database_that_is_away_is_said_and_comes_back(gaffer, app, monkeypatch):
    def away(*args, **kwargs):
        raise OperationalError("x", {}, Exception(2003, "gone"))

    with monkeypatch.context() as patch:
        patch.setattr("iron_bucket.web.shared.request_session.signed_in_person", away)
        answer = gaffer.get("/")
        assert answer.status_code == 503
        assert "Nothing that was saved is lost" in answer.text
        assert answer.headers["Retry-After"] == "5"
    assert gaffer.get("/").status_code == 200


def test_what_nobody_foresaw_is_our_fault(gaffer, monkeypatch, caplog):
    monkeypatch.setattr("iron_bucket.desk.jobs.list_jobs", lambda *args: 1 / 0)
    answer = gaffer.get("/")
    assert answer.status_code == 500
    assert "Our fault" in answer.text
    assert "ZeroDivisionError" not in answer.text
    number = re.search(r"in the log as (\w+)", answer.text)[1]
    assert f"{number} unforeseen: GET /" in caplog.text


GOOD = {"IRON_BUCKET_DATABASE_URL": "mysql+pymysql://a@127.0.0.1/app", "IRON_BUCKET_SECRET_KEY": "k" * 32}


@tabled
def test_settings_that_stop_the_start(change, field):
    with pytest.raises(BadValue, match=f"^{field} is"):
        settings_from(GOOD | change)


def test_a_need_in_words_is_read_as_it_was(gear):
    """A camera's 159.936 lx, as a link has it, is no 160 thousand."""
    rules, units = HouseRules(), UnitSystem.METRIC
    need = a_need(illuminance_lx=159.936, width_m=1.125, most_weight_kg=7.125, most_day_price=12.345)
    start = starting_words(rules, units, None) | {"cct": "", "feed": "any", "throw": "3 m"}
    assert read_need(words_of(need, start, units), gear, rules, units) == need


def test_settings():
    made = settings_from(GOOD | {"IRON_BUCKET_HTTPS": "yes", "PATH": "/bin"})
    assert (made.is_https, made.is_demo) == (True, False)


@pytest.mark.parametrize(
    ("value", "said"), [(0.0, "0"), (110.0, "110"), (3.6, "3.60"), (1247.5, "1\u202f247.50"), (1248.0, "1\u202f248")]
)
def test_money_is_said_to_the_hundredth(value, said):
    assert money(value) == said


def test_what_the_lines_hire_adds_up_to_the_sum(gaffer, job_id):
    address = f"/jobs/{job_id}/bucket"
    many = {"version": version_of(gaffer.get(address).text), "quantity": "50"}
    page = gaffer.post(f"{address}/1/quantity", many, as_swap=True).text
    tree = lxml.html.fromstring(page)
    cells = [row.xpath("td[last()]")[0].text_content().strip() for row in tree.xpath("//tr[starts-with(@id, 'line-')]")]
    total = re.search(r"where that is less</dt><dd>([^<]+)<", page)[1]

    def amount(words: str) -> float:
        return float(re.sub(r"[^\d.]", "", words))

    hired = [amount(cell) for cell in cells if cell not in ("", "–")]
    assert len(hired) > 1  # what stands in set-ups is counted and paid for too
    assert sum(hired) == pytest.approx(amount(total))
    assert sum(hired) > 1000.0
