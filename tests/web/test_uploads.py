"""Large files: taken in beside the pages, whole or not at all, and told how far they are."""

import io
import json
import time
from datetime import timedelta

import pytest
from sqlalchemy import text

from iron_bucket.desk import uploads
from iron_bucket.formats.gear_json import gear_json
from iron_bucket.web.shared import large_files


@pytest.fixture
def sent(gaffer, engine, monkeypatch):
    """A bench file sent as a large one; what the other process does is done where ``finish`` is called."""
    begun = []
    monkeypatch.setattr(large_files, "SMALL_BYTES", 10)
    monkeypatch.setattr(
        large_files, "begin_in_background", lambda url, *words, given: begun.append((url, words, given.read()))
    )

    def send(data: bytes):
        gaffer.get("/bench/in")
        form = {"csrf_token": gaffer.token, "differ": "theirs", "file": (io.BytesIO(data), "bench.json")}
        answer = gaffer.client.post("/bench/in", data=form)
        url, (command, number), given = begun[-1]
        assert (command, given, url) == ("take-in", data, engine.url.render_as_string(hide_password=False))
        assert answer.headers["Location"] == f"/uploads/{number}"
        return answer.headers["Location"], lambda: uploads.work_on_upload(engine, int(number), io.BytesIO(data))

    return send


def until_told(seen, words: str) -> None:
    """The other thread tells when it comes to it."""
    ends = time.monotonic() + 20.0
    while time.monotonic() < ends and not any(words in each.get("progress", "") for each in seen):
        time.sleep(0.01)


def test_a_large_file_is_taken_in_while_its_page_tells_how_far_it_is(gaffer, gear, sent, monkeypatch):
    one = next(head for head in gear.heads if head.slug == "panel-200")
    its = tuple(each for each in gear.configurations if each.head_slug == one.slug)
    rows = gear_json(type(gear)(heads=(one,), configurations=its))
    rows["heads"][0] |= {"slug": "new-lamp", "name": "new lamp"}
    for row in rows["configurations"]:
        row |= {"slug": row["slug"].replace("panel-200", "new-lamp"), "head_slug": "new-lamp"}
    address, finish = sent(json.dumps(rows).encode())
    page = gaffer.get(address)
    assert "The file has arrived. You may leave this page" in page.text
    assert 'hx-trigger="every 1s"' in page.text
    assert gaffer.get("/bench/heads/new-lamp").status_code == 404
    seen = []
    monkeypatch.setattr(uploads, "_TELL_S", 0.01)
    put = uploads.put_upload
    monkeypatch.setattr(uploads, "put_upload", lambda *given, **values: (seen.append(values), put(*given, **values)))
    bench = uploads.import_bench

    def slowly(*given, tell, **more):
        until_told(seen, "Reading")
        tell(3, 4)
        until_told(seen, "3 of 4")
        return bench(*given, tell=tell, **more)

    monkeypatch.setattr(uploads, "import_bench", slowly)
    finish()
    told = [(each["progress"], each["share"]) for each in seen if each.get("share", 1.0) < 1.0]
    assert ("Reading 0 MB.", 0.0) in told
    assert ("3 of 4 pieces are taken in.", pytest.approx(0.75)) in told
    page = gaffer.get(address, headers={"HX-Request-Type": "partial"})
    assert " new, 0 changed, 0 the same" in page.text
    assert "every 1s" not in page.text
    assert gaffer.get("/bench/heads/new-lamp").status_code == 200


@pytest.mark.parametrize(("data", "sentence"), [(b"[" * 99, "Nothing was taken in"), (b"\xff" * 99, "no UTF-8 text")])
def test_a_large_file_that_is_none_says_so_and_leaves_the_bench(gaffer, sent, data, sentence):
    address, finish = sent(data)
    finish()
    page = gaffer.get(address)
    assert sentence in page.text
    assert "Back</a>" in page.text


def test_a_process_that_is_gone_is_told_and_nobody_else_sees_it(gaffer, stranger, sent, demo, monkeypatch):
    address, _ = sent(b"{}" * 20)
    monkeypatch.setattr(uploads, "_SILENT", timedelta(seconds=-1))
    assert "It broke off; nothing was taken in" in gaffer.get(address).text
    with demo.begin():
        demo.execute(text("UPDATE uploads SET person_id = (SELECT id FROM people WHERE sign_in = 'ilse')"))
    assert gaffer.get(address).status_code == 404
