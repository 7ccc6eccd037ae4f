"""Places and set-ups as files: there and back, and every way in which a file can be wrong."""

from datetime import datetime

import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.place import Place
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.demo.files import demo_places, demo_setups
from iron_bucket.formats.change_json import Outdated, change_row, summary, with_changes
from iron_bucket.formats.record_json import read_record, write_record
from tests.core.setups.made import a_lamp, a_setup
from tests.tables import cases, tabled


@pytest.mark.parametrize("row", demo_places(), ids=lambda row: row["name"])
def test_a_place_comes_back_as_it_went(row):
    place = read_record(Place, row)
    assert read_record(Place, write_record(place)) == place
    assert len(write_record(place)["rooms"]) == len(row.get("rooms", []))


@pytest.mark.parametrize("entry", demo_setups(), ids=lambda entry: entry["passes"][0]["name"])
def test_a_set_up_comes_back_as_it_went(entry):
    document = entry["passes"][0]
    for each in entry["passes"][1:]:
        document = with_changes(write_record(read_record(Setup, document)), each["changes"])
    setup = read_record(Setup, document)
    assert read_record(Setup, write_record(setup)) == setup
    assert setup.width == document["width"]


@tabled
def test_what_a_file_cannot_say(kind, row, sentence):
    with pytest.raises(BadValue, match=sentence):
        read_record(kind, row)


def test_what_a_default_is_need_not_be_written_and_nothing_may_be_meant():
    place = read_record(Place, {"name": "P", "note": "", "most_noise_db": None})
    assert (place.note, place.most_noise_db, place.ground) == ("", None, "gravel")
    setup = read_record(Setup, {"name": "S", "when": "2026-11-24T10:30:00+02:00"})
    assert setup.when == datetime(2026, 11, 24, 10, 30)


DOCUMENT = write_record(a_setup())


def a_row(**changes):
    return {"operation": "set", "where": "lamps", "piece_id": "key", "to": {"level": 0.3}} | changes


def test_changes_touch_what_they_name_and_nothing_else():
    camera, note = (
        a_row(where="camera", piece_id="", to={"focal_mm": 50.0}),
        a_row(where="", piece_id="", to={"note": "n"}),
    )
    after = with_changes(DOCUMENT, [a_row(), camera, note])
    assert (after["lamps"][0]["level"], after["camera"]["focal_mm"], after["note"]) == (0.3, 50.0, "n")
    assert DOCUMENT["lamps"][0]["level"] == 0.1
    second = {"operation": "add", "where": "lamps", "to": {"piece_id": "b"}}
    more = with_changes(after, [second, {"operation": "remove", "where": "people", "piece_id": "anna"}])
    assert [each["piece_id"] for each in more["lamps"]] == ["key", "b"]
    assert more["people"] == []
    place = {"circuits": [{"name": "Ring", "breaker_a": 13}]}
    larger = {"operation": "set", "where": "circuits", "piece_id": "Ring", "to": {"breaker_a": 16}}
    assert with_changes(place, [larger])["circuits"][0]["breaker_a"] == 16
    assert with_changes({}, [{"operation": "add", "where": "rooms", "to": {}}]) == {"rooms": [{}]}


@tabled
def test_what_others_changed_meanwhile_is_told(row, sentence):
    with pytest.raises(Outdated, match=sentence):
        with_changes(DOCUMENT, [row])
    with_changes(DOCUMENT, [a_row(was={"level": 0.1 + 1e-9, "not a field": 1})])


@tabled
def test_what_is_no_change(rows, sentence):
    with pytest.raises(BadValue, match=sentence):
        with_changes(DOCUMENT, rows)


@tabled
def test_a_change_of_the_core_as_a_row(change, row):
    assert change_row(change) == row


@pytest.mark.parametrize(
    ("rows", "words"),
    [
        *cases(__file__, "test_a_change_in_words"),
        (
            [a_row(to={f"f{at}": 1}, piece_id=f"p{at}", where=f"list {at}") for at in range(5)],
            "changed the f0 of list 0, changed the f1 of list 1, changed the f2 of list 2 and 2 more",
        ),
    ],
)
def test_a_change_in_words(rows, words):
    assert summary(rows, {"key": "Key"}) == words
    assert a_lamp().name == "Key"
