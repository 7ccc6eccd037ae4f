"""What no form of ours sends: refused with a sentence, and every page opens as before."""

import io
import json

import pytest
from sqlalchemy import text

from iron_bucket.core.places.place import MOST as MOST_IN_PLACE
from iron_bucket.core.setups.plan.setup import MOST as MOST_IN_SETUP
from tests.tables import cases

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


@pytest.mark.parametrize(
    ("address", "form", "sentence"),
    [
        *cases(__file__, "test_what_is_refused_leaves_every_page_open"),
        pytest.param(f"{BOARD}/changes", {"changes": "[" * 90_000}, "changes is", id="90,000 brackets"),
        pytest.param(f"{BOARD}/changes", everywhere({"lamps": [1]}), "an object with named values", id="a lamp 1"),
        pytest.param(f"{BOARD}/changes", everywhere({"when": "0001-01-01T00:00"}), "from 1970", id="year 1"),
        pytest.param(f"{BOARD}/changes", everywhere({"name": "a\ud800"}), "U+D800", id="half a character"),
        pytest.param(f"{BOARD}/changes", everywhere({"name": "a\u202eb"}), "U+202E", id="turned round"),
        pytest.param(f"{BOARD}/changes", everywhere({"note": "a\u0007"}), "U+0007", id="a bell in a note"),
        pytest.param(f"{BOARD}/changes", everywhere({"look": {"fps": 1e-6}}), "1 to 10000 frames", id="slow fps"),
        pytest.param(
            f"{BOARD}/changes",
            many("frames", MOST_IN_SETUP["frames"] + 1, frame="frame-1.2", cloth="cloth-full-white"),
            f"up to {MOST_IN_SETUP['frames']}",
            id="too many frames",
        ),
        pytest.param(f"{BOARD}/form/pass", {"name": "X", "was-name": "[" * 9000}, "load the page anew", id="was"),
        pytest.param(f"{BOARD}/form/pass", {"note": "x", "was-note": "NaN"}, "load the page anew", id="was NaN"),
        pytest.param(LOOK, {"fps": "0.000001"}, "1 to 10000 frames", id="a look of no frames"),
        pytest.param(LOOK, {"sensor_width_mm": "1e9"}, "1 to 200 mm", id="a sensor of a thousand kilometres"),
    ],
)
def test_what_is_refused_leaves_every_page_open(gaffer, at, address, form, sentence):
    answer = gaffer.post(address.format(**at), form, as_swap=True)
    assert (answer.status_code, sentence in answer.text) == (422, True), answer.text[:2000]
    assert [gaffer.get(page.format(**at)).status_code for page in PAGES] == [200] * len(PAGES)


@pytest.mark.parametrize("address", ["/bench?page={n}", "/bench/hire?page={n}", "/jobs/{n}/bucket", "/places/{n}"])
def test_numbers_of_five_thousand_digits(gaffer, address):
    assert gaffer.get(address.format(n="9" * 5000)).status_code in (200, 404)


ROOM = {"room_id": "r", "name": "R", "height_m": 3.0, "walls": ["white paint"] * 4}
SQUARE = [[0, 0], [4, 0], [4, 4], [0, 4]]


@pytest.mark.parametrize(
    ("rooms", "sentence"),
    [
        *cases(__file__, "test_rooms_that_are_none"),
        pytest.param([ROOM | {"corners": [*SQUARE, [0, 0]], "walls": ["brick"] * 5}], "closes the room", id="closed"),
        pytest.param(
            [ROOM | {"corners": SQUARE, "room_id": f"r{at}"} for at in range(MOST_IN_PLACE["rooms"] + 1)],
            f"up to {MOST_IN_PLACE['rooms']}",
            id="too many",
        ),
    ],
)
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
