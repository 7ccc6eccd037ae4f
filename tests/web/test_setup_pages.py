"""Places, Look and Set-ups as pages, as swaps, with bad input, and with somebody else's numbers."""

import io
import json
import re
from dataclasses import replace
from datetime import UTC, datetime

import pytest

from iron_bucket.desk import people
from iron_bucket.devices.weather import HttpWeather
from iron_bucket.formats.calendar import calendar_bytes, read_calendar
from iron_bucket.web.setups import light_picture
from tests.tables import table, tabled
from tests.web.forms import sent_by

PAGES = table(__file__, "PAGES")


@pytest.mark.parametrize("address", PAGES)
def test_every_page_opens_and_only_for_who_is_signed_in(gaffer, app, at, address):
    page = gaffer.get(address.format(**at))
    assert page.status_code == 200
    assert "<h1>" in page.text
    assert not re.search(r'style="|onclick=|<script>', page.text)
    keys = re.findall(r'data-key="([^"]+)"', page.text)
    assert len(set(keys)) == len(keys)  # a key does one thing
    assert app.test_client().get(address.format(**at)).status_code == 302


def test_somebody_elses_set_ups_are_not_here(stranger, demo, at):
    people.add_person(demo, name="Other", sign_in="other", password="another-crew-of-people")
    stranger.sign_in("other", "another-crew-of-people")
    for address in (each for each in PAGES if "{job}" in each):
        assert stranger.get(address.format(**at)).status_code == 404
    base = f"/jobs/{at['job']}/setups/{at['setup']}"
    stranger.get("/")
    for path in table(__file__, "test_somebody_elses_set_ups_are_not_here"):
        assert stranger.post(base + path, {"changes": "[{}]"}).status_code in (404, 422)


# ---- set-ups


def base_of(at) -> str:
    return f"/jobs/{at['job']}/setups/{at['setup']}"


def shown(page) -> dict[str, str]:
    """Every field of the inspector and what stood there."""
    return sent_by(page.text, "i-")


@tabled
def test_bad_changes_are_refused_whole(gaffer, at, changes):
    before = gaffer.get(f"{base_of(at)}/setup.json").text
    for path in ("/changes", "/try"):
        assert gaffer.post(base_of(at) + path, {"changes": changes}, as_swap=True).status_code == 422
    assert gaffer.get(f"{base_of(at)}/setup.json").text == before


def test_what_was_changed_meanwhile_is_told_and_kept(gaffer, at):
    form = shown(gaffer.get(f"{base_of(at)}?piece=key")) | {"piece": "key", "z_m": "2.1"}
    row = {"operation": "set", "where": "lamps", "piece_id": "key", "to": {"z_m": 1.8}}
    assert gaffer.post(f"{base_of(at)}/changes", {"changes": json.dumps([row])}, as_swap=True).status_code == 200
    answer = gaffer.post(f"{base_of(at)}/form/lamps", form, as_swap=True)
    assert answer.status_code == 409
    assert "was changed meanwhile: it is 1.8 now" in answer.text
    assert 'value="2.1"' in answer.text


@pytest.mark.parametrize("what", ["lamp", "cloth", "board", "flag", "net", "black", "person", "spot", "target"])
def test_everything_can_be_added_copied_and_taken_out(gaffer, at, what):
    page = gaffer.get(base_of(at)).text
    added = gaffer.post(f"{base_of(at)}/add/{what}", as_swap=True)
    assert added.status_code == 200
    number = re.search(r'data-chosen="([^"]+)"', added.text)[1]
    assert number not in page
    where = table(__file__, "test_everything_can_be_added_copied_and_taken_out").get(what, "flags")
    if what != "target":
        assert gaffer.post(f"{base_of(at)}/copy/{number}", as_swap=True).text.count("is-chosen") >= 1
    out = gaffer.post(f"{base_of(at)}/form/{where}", {"piece": number, "out": "yes"}, as_swap=True)
    assert f'data-piece="{number}"' not in out.text


# ---- sheets and links


def test_a_sheet_on_paper_and_as_a_picture(gaffer, at):
    paper = gaffer.get(f"{base_of(at)}/sheet.pdf")
    assert paper.data.startswith(b"%PDF-")
    picture = gaffer.get(f"{base_of(at)}/plan.svg")
    assert picture.mimetype == "image/svg+xml"
    assert "xmlns" in picture.text
    sheet = gaffer.get(f"{base_of(at)}/sheet").text
    for word in ("octagon 0.9", "By the window, Shop ring", "5600 K", "Key, carrying the north window on"):
        assert word in sheet
    document = json.loads(gaffer.get(f"{base_of(at)}/setup.json").text)
    assert document["lamps"][0]["piece_id"] == "key"


def test_a_link_is_for_everybody_until_it_is_taken_back(gaffer, app, at):
    gaffer.post(f"{base_of(at)}/share")
    address = re.search(r'href="(/shared/[^"]+)"', gaffer.get(f"{base_of(at)}/sheet").text)[1]
    guest = app.test_client()
    page = guest.get(address)
    assert page.status_code == 200
    assert "<form" not in page.text[page.text.index("<main") : page.text.index("</main>")]
    assert guest.get(f"{address}/sheet.pdf").data.startswith(b"%PDF-")
    gaffer.post(f"{base_of(at)}/share", {"revoke": "yes"})
    assert guest.get(address).status_code == 404
    assert guest.get(f"{address}/sheet.pdf").status_code == 404
    assert guest.get("/shared/guess").status_code == 404


# ---- places


def test_every_list_of_a_place_takes_one_more_and_gives_it_up(gaffer, at):
    base = f"/places/{at['place']}"
    for where, form, name in table(__file__, "test_every_list_of_a_place_takes_one_more_and_gives_it_up"):
        page = gaffer.post(f"{base}/{where}", form, as_swap=True)
        assert page.status_code == 200, page.text
        assert f"<b>{name}</b>" in page.text
        action = re.search(rf'<b>{name}</b>.*?action="({base}/{where}/[^"]+)"', page.text, re.DOTALL)[1]
        out = gaffer.post(action.replace("%20", " "), {"out": "yes"}, as_swap=True)
        assert f"<b>{name}</b>" not in out.text
    assert "Undo: removed" in gaffer.get(base).text
    assert gaffer.post(f"{base}/dragons", {}).status_code == 404


def test_a_place_goes_out_as_a_file_and_comes_back(gaffer, at):
    data = gaffer.get(f"/places/{at['place']}/place.json").data
    answer = gaffer.client.post(
        "/places/file", data={"csrf_token": gaffer.token, "file": (io.BytesIO(data), "place.json")}
    )
    assert answer.status_code == 303
    assert gaffer.get(answer.headers["Location"] + "/place.json").data == data
    for body, name in ((b"not json", "x.json"), (b'{"name": ""}', "y.json"), (b"", "z.json")):
        bad = gaffer.client.post("/places/file", data={"csrf_token": gaffer.token, "file": (io.BytesIO(body), name)})
        assert bad.status_code == 422
    assert gaffer.post("/places/file").status_code == 422
    copy = gaffer.post(f"/places/{at['place']}/copy").headers["Location"]
    assert "Clock-repair shop, copy" in gaffer.get(copy).text
    gaffer.post(f"{copy}/archive", {"archived": "yes"})
    assert "Restore" in gaffer.get("/places").text
    for path in ("/rooms/nowhere", "/rooms/nowhere/openings", "/rooms/nowhere/walls"):
        assert gaffer.post(f"/places/{at['place']}{path}", {"name": "R"}).status_code == 404
    assert gaffer.get("/places/999999").status_code == 404


def test_days_go_out_as_calendar_and_on_paper_and_a_call_sheet_fixes_them(gaffer, at):
    base = f"/jobs/{at['job']}/days"
    calendar = gaffer.get(f"{base}/days.ics")
    assert calendar.mimetype == "text/calendar"
    events = {event.summary: event for event in read_calendar(calendar.data)}
    assert len(events) == 12
    assert events["At the bench, wide"].start == datetime(2026, 11, 26, 10, 0, tzinfo=UTC)
    for size in ("A4", "letter"):
        paper = gaffer.get(f"{base}/sheet.pdf?day=2026-11-26&size={size}")
        assert (paper.mimetype, paper.data[:5]) == ("application/pdf", b"%PDF-")
    assert gaffer.get(f"{base}/sheet.pdf?size=A0").status_code == 422
    assert gaffer.get(f"{base}/sheet.pdf?day=2001-01-01").status_code == 404
    sheet = calendar_bytes(
        "Call",
        [
            replace(
                events["At the bench, wide"],
                start=datetime(2026, 11, 26, 9, 30, tzinfo=UTC),
                end=datetime(2026, 11, 26, 10, 30, tzinfo=UTC),
            ),
            replace(events["At the bench, tight"], uid="theirs", summary="Sc. 4 AT THE BENCH tight"),
            replace(events["At the bench, wide"], uid="lunch", summary="Lunch"),
        ],
    )
    gaffer.get(base)

    def sent(data: bytes, name: str):
        form = {"csrf_token": gaffer.token, "file": (io.BytesIO(data), name)}
        return gaffer.client.post(f"{base}/calendar", data=form, content_type="multipart/form-data")

    assert sent(sheet, "call.ics").status_code == 303
    page = gaffer.get(f"{base}?day=2026-11-26").text
    assert "Fixed: At the bench, wide; At the bench, tight." in page
    assert "Not known here: Lunch." in page
    assert 'value="10:30"' in page  # by the clock of the place
    assert "Undo: fixed 2 passes by a calendar" in page
    assert page.count('aria-pressed="true"') == 4  # with one that was fixed, and one with sound
    refused = sent(b"rubbish", "x.ics")
    assert (refused.status_code, "no iCalendar file" in refused.text) == (422, True)
    now = gaffer.get(f"{base}/now?at=2026-11-26T10:40").text
    assert "At the bench, wide" in now
    assert "Light left" in now
    assert "Next" in now
    assert "Nothing is rigged or shot now." in gaffer.get(f"{base}/now?at=2026-11-26T05:10").text
    assert gaffer.get(f"{base}/now?at=noon").status_code == 422
    assert 'hx-trigger="every 30s"' in gaffer.get(f"{base}/now").text


def test_a_silent_weather_office_changes_nothing(gaffer, at, app, monkeypatch):
    base = f"/jobs/{at['job']}/days"
    for office, sentence in (
        (HttpWeather(address="http://127.0.0.1:9"), "stays as it was: the weather office is not answering."),
        (None, "No weather office is set: the sky is that of the set-ups."),
    ):
        monkeypatch.setitem(app.extensions, "weather", office)
        page = gaffer.get(f"{base}?day=2026-05-20").text
        assert ("Ask again" in page) == (office is not None)
        refused = gaffer.post(f"{base}/weather/ask", {"day": "2026-05-20"}, as_swap=True)
        assert (refused.status_code, sentence in refused.text, "Told at 04:30" in refused.text) == (422, True, True)


def test_light_is_drawn_once_for_a_state_of_its_set_up(gaffer, at, monkeypatch):
    drawn = []
    for name in ("light_over_plane", "light_over_wall"):
        honest = getattr(light_picture, name)
        monkeypatch.setattr(light_picture, name, lambda *args, honest=honest: drawn.append(1) or honest(*args))
    there = [f"{base_of(at)}/light?plane={plane}" for plane in ("floor", "wall-0-1")]
    row = {"operation": "set", "where": "lamps", "piece_id": "key", "to": {"level": 0.37}}
    pages = [gaffer.get(address).text for address in there]
    assert [gaffer.get(address).text for address in there] == pages
    assert len(drawn) == 2
    assert gaffer.post(f"{base_of(at)}/changes", {"changes": json.dumps([row])}, as_swap=True).status_code == 200
    assert gaffer.get(there[0]).text != pages[0]
    assert len(drawn) == 3
