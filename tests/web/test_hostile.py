"""What no form of ours sends: refused with a sentence, and every page opens as before."""

import io
import json

import pytest
from sqlalchemy import text

from tests.tables import tabled

BOARD, PLACE, LOOK = "/jobs/{job}/setups/{setup}", "/places/{place}", "/jobs/{job}/look"
#: Where what was sent would show, had it been kept.
PAGES = (BOARD, LOOK, "/jobs/{job}/bucket")


def changes(*rows: dict) -> dict[str, str]:
    return {"changes": json.dumps(rows)}


def everywhere(to: object) -> dict[str, str]:
    return changes({"operation": "set", "where": "", "to": to})


def many(where: str, count: int, **piece: object) -> dict[str, str]:
    rows = [{"piece_id": f"p{at}", "name": "P", "x_m": 1.0, "y_m": 1.0, "z_m": 1.0} | piece for at in range(count)]
    return everywhere({where: rows})


@tabled
def test_what_is_refused_leaves_every_page_open(gaffer, at, address, form, sentence):
    answer = gaffer.post(address.format(**at), form, as_swap=True)
    assert (answer.status_code, sentence in answer.text) == (422, True), answer.text[:2000]
    assert [gaffer.get(page.format(**at)).status_code for page in PAGES] == [200] * len(PAGES)


@pytest.mark.parametrize("address", ["/bench?page={n}", "/bench/hire?page={n}", "/jobs/{n}/bucket", "/places/{n}"])
def test_numbers_of_five_thousand_digits(gaffer, address):
    assert gaffer.get(address.format(n="9" * 5000)).status_code in (200, 404)


ROOM = {"room_id": "r", "name": "R", "height_m": 3.0, "walls": ["white paint"] * 4}
SQUARE = [[0, 0], [4, 0], [4, 4], [0, 4]]


@tabled
def test_rooms_that_are_none(gaffer, at, rooms, sentence):
    upload = (io.BytesIO(json.dumps({"name": "Hall", "rooms": rooms}).encode()), "hall.json")
    answer = gaffer.client.post("/places/file", data={"csrf_token": gaffer.token, "file": upload})
    assert (answer.status_code, sentence in answer.text) == (422, True), answer.text[:2000]
    assert gaffer.get("/places").status_code == 200


def test_one_card_that_cannot_be_read_hides_no_other(gaffer, at, demo):
    """What was stored under wider bounds: named on every list, and nothing else is missing."""
    with demo.begin():
        for table, field in (("setups", "$.weather"), ("places", "$.ground")):
            change = f"document = JSON_SET(document, '{field}', 'molten'), version = version + 1"
            demo.execute(text(f"UPDATE {table} SET {change} WHERE id = :at"), {"at": at[table.rstrip("s")]})
        demo.execute(
            text("UPDATE gear SET version = 9, item = JSON_SET(item, '$.weight_kg', -1) WHERE slug = 'full-blue'")
        )
        demo.execute(text("UPDATE bench_stamp SET token = 'another'"))
    assert "weather is &#39;molten&#39;" in gaffer.get(f"/jobs/{at['job']}/setups").text
    assert "not counted" in gaffer.get(f"/jobs/{at['job']}/bucket").text
    assert "This place cannot be shown: Clock-repair shop" in gaffer.get("/places").text
    assert "full blue: weight_kg is -1" in gaffer.get("/bench").text
    assert [gaffer.get(page.format(**at)).status_code for page in ("/", "/pick", "/jobs/{job}/pick")] == [200] * 3
