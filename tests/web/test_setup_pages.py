"""Places, Look and Set-ups as pages, as swaps, with bad input, and with somebody else's numbers."""

import io
import json
import re

import pytest

from iron_bucket.desk import people
from tests.tables import table, tabled
from tests.web.forms import sent_by

PAGES = table(__file__, "PAGES")


@pytest.mark.parametrize("address", PAGES)
def test_every_page_opens_and_only_for_who_is_signed_in(gaffer, app, at, address):
    page = gaffer.get(address.format(**at))
    assert page.status_code == 200
    assert "<h1>" in page.text
    assert not re.search(r'style="|onclick=|<script>', page.text)
    assert app.test_client().get(address.format(**at)).status_code == 302


@tabled
def test_a_set_up_of_another_job_is_not_here(gaffer, at, path):
    assert gaffer.get(f"/jobs/{at['imperial']}/setups/{at['setup']}{path}").status_code == 404
    assert gaffer.get(f"/jobs/{at['job']}/setups/999999{path}").status_code == 404


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


def test_the_inspector_changes_one_field_and_undo_brings_it_back(gaffer, at):
    form = shown(gaffer.get(f"{base_of(at)}?piece=key")) | {"piece": "key", "level": "12"}
    swap = gaffer.post(f"{base_of(at)}/form/lamps", form, as_swap=True)
    assert swap.status_code == 200
    assert swap.text.lstrip().startswith('<div id="board"')
    assert "Undo: dimmed Window key" in swap.text
    assert 'id="bucket-bar"' in swap.text  # the bar follows
    plain = shown(gaffer.get(f"{base_of(at)}?piece=key")) | {"piece": "key", "level": "13"}
    assert gaffer.post(f"{base_of(at)}/form/lamps", plain).headers["Location"].endswith("?piece=key")
    back = gaffer.post(f"{base_of(at)}/step/back", {"piece": "key"}, as_swap=True)
    assert "Redo: dimmed Window key" in back.text
    assert "Undo: dimmed" in gaffer.post(f"{base_of(at)}/step/on", as_swap=True).text


@tabled
def test_bad_input_says_what_and_keeps_what_was_typed(gaffer, at, where, piece, changes, sentence):
    form = shown(gaffer.get(f"{base_of(at)}?piece={piece}")) | {"piece": piece} | changes
    answer = gaffer.post(f"{base_of(at)}/form/{where}", form, as_swap=True)
    assert answer.status_code == 422
    assert sentence in answer.text
    assert f'value="{next(iter(changes.values()))}"' in answer.text


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


def test_a_board_is_sent_anew_only_where_something_changed(gaffer, at):
    version = re.search(r'data-version="(\d+)"', gaffer.get(base_of(at)).text)[1]
    assert gaffer.get(f"{base_of(at)}/since/{version}").status_code == 204
    gaffer.post(f"{base_of(at)}/add/flag", as_swap=True)
    assert "Flag" in gaffer.get(f"{base_of(at)}/since/{version}").text


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


def test_what_cannot_be_added(gaffer, at):
    assert "what to add is" in gaffer.post(f"{base_of(at)}/add/moon", as_swap=True).text
    assert gaffer.post(f"{base_of(at)}/copy/gone").status_code == 404
    gone = gaffer.post(f"{base_of(at)}/form/lamps", {"piece": "gone", "out": "yes"}, as_swap=True)
    assert (gone.status_code, "gone is no longer there" in gone.text) == (409, True)
    assert gaffer.post(f"{base_of(at)}/form/walls", {"piece": "x"}, as_swap=True).status_code == 422
    for _ in range(12):
        full = gaffer.post(f"{base_of(at)}/add/target", as_swap=True)
    assert "every mark has its target already" in full.text


def test_a_try_gives_both_parts_and_a_cell_its_steps(gaffer, at):
    row = {"operation": "set", "where": "lamps", "piece_id": "key", "to": {"x_m": 3.0}}
    tried = gaffer.post(f"{base_of(at)}/try", {"changes": json.dumps([row])}, as_swap=True).text
    assert 'id="contrast"' in tried
    assert 'id="who"' in tried
    cell = gaffer.get(f"{base_of(at)}/cell/key/repairer.left").text
    assert "area law of a face" in cell
    assert gaffer.get(f"{base_of(at)}/cell/key/gone").status_code == 404
    field = gaffer.get(f"{base_of(at)}/field?plane=floor").json
    assert (len(field["stops"]), field["unders"]) == (160 * 120, "floor")
    wall = gaffer.get(f"{base_of(at)}/field?plane=wall-0-1").json
    assert (wall["columns"] * wall["rows"], wall["unders"]) == (len(wall["stops"]), "wall 2")
    for gone in ("wall-9-0", "wall-0-9", "wall-x-y", "wall-"):
        assert gaffer.get(f"{base_of(at)}/field?plane={gone}").status_code == 404


def test_a_way_out_is_one_key_and_one_undo(gaffer, at):
    ways = gaffer.get(f"{base_of(at)}/ways/repairer.shadow").text
    changes = re.search(r'name="changes" value="([^"]+)"', ways)[1].replace("&#34;", '"')
    text = re.search(r'name="text" value="([^"]+)"', ways)[1]
    done = gaffer.post(f"{base_of(at)}/changes", {"changes": changes, "text": text}, as_swap=True)
    assert f"Undo: {text}" in done.text
    assert "is met" in gaffer.get(f"{base_of(at)}/ways/repairer.shadow").text
    assert gaffer.get(f"{base_of(at)}/ways/gone").status_code == 404
    solved = gaffer.post(f"{base_of(at)}/solve", as_swap=True).text
    assert 'id="solved"' in solved


def test_begin_and_passes(gaffer, at):
    form = {
        "name": "New one",
        "place_id": str(at["place"]),
        "beginning": "talk by a window",
        "when": "2026-11-26T11:00",
    }
    made = gaffer.post(f"/jobs/{at['job']}/setups", form)
    assert made.status_code == 303
    base = made.headers["Location"]
    assert "New one" in gaffer.get(base).text
    tighter = gaffer.post(f"{base}/pass/tighter").headers["Location"]
    assert "Nothing moves yet" in gaffer.get(tighter).text
    away = gaffer.post(f"{tighter}/archive", {"archived": "yes"}).headers["Location"]
    assert "Restore this pass" in gaffer.get(away).text
    assert f'Archived: <a href="{tighter}">New one</a>' in gaffer.get(f"/jobs/{at['job']}/setups").text
    gaffer.post(f"{tighter}/archive", {"archived": "no"})
    assert "Archive this pass" in gaffer.get(away).text
    for changes, sentence in table(__file__, "test_begin_and_passes"):
        bad = gaffer.post(f"/jobs/{at['job']}/setups", form | changes)
        assert (bad.status_code, sentence in bad.text) == (422, True)
    assert gaffer.post(f"/jobs/{at['job']}/setups", form | {"place_id": "999999"}).status_code == 404


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


# ---- look


def test_the_look_answers_both_ways(gaffer, at):
    address = f"/jobs/{at['job']}/look"
    page = gaffer.get(address, query_string={"there": "640 lx", "outside": "40 klx", "passes": "80"}).text
    assert "T5.6" in page
    assert "of ND film on the glass" in page
    bright = {"outside": "90 klx", "passes": "80", "place": "1", "day": "2026-06-21", "weather": "clear"}
    assert re.search(
        r"on 21 Jun, clear, before \d\d:\d\d or after \d\d:\d\d", gaffer.get(address, query_string=bright).text
    )
    assert (
        "on 21 Dec, overcast, all day"
        in gaffer.get(address, query_string=bright | {"day": "2026-12-21", "weather": "overcast"}).text
    )
    assert gaffer.get(address, query_string=bright | {"day": "soon"}).status_code == 422
    assert gaffer.get(address, query_string={"passes": "0"}).status_code == 422
    assert "a level such as" in gaffer.get(address, query_string={"there": "dark"}).text
    assert gaffer.post(address, {"t_stop": "4", "iso": "400"}).status_code == 303
    assert 'value="400"' in gaffer.get(address).text
    assert gaffer.post(address, {"by_iso": "800 6 6.5; 3200 7 5.5"}).status_code == 303
    assert ">800 6 6.5; 3200 7 5.5</textarea>" in gaffer.get(address).text
    short = gaffer.post(address, {"by_iso": "800 6"})
    assert (short.status_code, "three numbers a row" in short.text, ">800 6</textarea>" in short.text) == (
        422,
        True,
        True,
    )
    assert gaffer.post(address, {"iso": "many"}).status_code == 422
    assert gaffer.post(address, {"shutter_deg": "400"}).status_code == 422


# ---- places


def test_a_place_is_recorded_by_its_sides_or_as_open_ground(gaffer, at):
    made = gaffer.post("/places", {"name": "Attic", "width": "4", "depth": "12'", "height": "2.2 m"})
    page = gaffer.get(made.headers["Location"]).text
    assert "0, 0; 4, 0; 4, 3.6576; 0, 3.6576" in page
    assert gaffer.post("/places", {"name": "Field"}).status_code == 303
    for changes, sentence in table(__file__, "test_a_place_is_recorded_by_its_sides_or_as_open_ground"):
        bad = gaffer.post("/places", {"name": "Attic"} | changes)
        assert (bad.status_code, sentence in bad.text) == (422, True), bad.text


def test_every_list_of_a_place_takes_one_more_and_gives_it_up(gaffer, at):
    base = f"/places/{at['place']}"
    for where, form, name in table(__file__, "test_every_list_of_a_place_takes_one_more_and_gives_it_up"):
        page = gaffer.post(f"{base}/{where}", form, as_swap=True)
        assert page.status_code == 200, page.text
        assert f"<b>{name}</b>" in page.text
        action = re.search(rf'<b>{name}</b>.*?action="({base}/{where}/[^"]+)"', page.text, re.DOTALL)[1]
        out = gaffer.post(action.replace("%20", " "), {"out": "yes"}, as_swap=True)
        assert f"<b>{name}</b>" not in out.text
    assert "Undo: took out" in gaffer.get(base).text
    assert gaffer.post(f"{base}/dragons", {}).status_code == 404


def test_a_place_refuses_what_is_none(gaffer, at):
    base = f"/places/{at['place']}"
    for path, form, sentence in table(__file__, "test_a_place_refuses_what_is_none"):
        answer = gaffer.post(base + path, form, as_swap=True)
        assert (answer.status_code, sentence in answer.text) == (422, True), (
            path,
            answer.text[answer.text.find("<main") :][:600],
        )


def test_windows_walls_and_own_fields_are_changed(gaffer, at):
    base = f"/places/{at['place']}"
    added = gaffer.post(
        f"{base}/rooms/shop/openings",
        table(__file__, "test_windows_walls_and_own_fields_are_changed"),
        as_swap=True,
    )
    assert "<b>Fan light</b>" in added.text
    changed = gaffer.post(f"{base}/rooms/shop/openings", {"opening_id": "north-window", "cover": "blind"}, as_swap=True)
    assert changed.status_code == 200
    document = json.loads(gaffer.get(f"{base}/place.json").text)
    assert document["rooms"][0]["openings"][0]["cover"] == "blind"
    assert (
        gaffer.post(f"{base}/rooms/shop/openings", {"opening_id": "window-1", "out": "yes"}, as_swap=True).text.count(
            "Fan light"
        )
        == 0
    )
    gaffer.post(f"{base}/rooms/shop/walls", {"wall-1": "brick"}, as_swap=True)
    assert json.loads(gaffer.get(f"{base}/place.json").text)["rooms"][0]["walls"][1] == "brick"
    gaffer.post(
        f"{base}/own", {"hazards": "mind the clocks", "was-hazards": json.dumps(document["hazards"])}, as_swap=True
    )
    assert "mind the clocks" in gaffer.get(base).text
    late = gaffer.post(
        f"{base}/own", {"hazards": "other", "was-hazards": json.dumps(document["hazards"])}, as_swap=True
    )
    assert (late.status_code, "was changed meanwhile" in late.text) == (409, True)
    corners = gaffer.post(
        f"{base}/rooms/shop",
        {"corners": "0, 0; 7, 0; 7, 5; 0, 5; -1, 2", "was-corners": json.dumps(document["rooms"][0]["corners"])},
        as_swap=True,
    )
    assert corners.status_code == 200
    assert len(json.loads(gaffer.get(f"{base}/place.json").text)["rooms"][0]["walls"]) == 5
    assert "Undo:" in gaffer.post(f"{base}/step/back", as_swap=True).text


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
