"""What a page may ask the database. Counted, so that nobody adds a query for every row unseen."""

import json

import pytest

from tests.tables import cases

BOARD = "/jobs/{job}/setups/{setup}"
DROP = {"changes": json.dumps([{"operation": "set", "where": "lamps", "piece_id": "key", "to": {"x_m": 3.1}}])}


@pytest.mark.parametrize(
    ("address", "form", "most"),
    [
        *cases(__file__, "test_a_page_asks_no_more_than_it_needs"),
        pytest.param(f"{BOARD}/changes", DROP, 15, id="a drop"),
        pytest.param(f"{BOARD}/add/lamp", {"chosen": "day-led-300.reflector"}, 15, id="a lamp added"),
        pytest.param(f"{BOARD}/form/lamps", {"piece": "key"}, 15, id="the inspector's form"),
        pytest.param(f"{BOARD}/try", DROP, 7, id="a step of a drag"),
    ],
)
def test_a_page_asks_no_more_than_it_needs(gaffer, count_queries, at, address, form, most):
    gaffer.get((BOARD if form else address).format(**at))  # the shelf and the place are at hand
    with count_queries() as seen:
        answer = gaffer.post(address.format(**at), form, as_swap=True) if form else gaffer.get(address.format(**at))
    assert answer.status_code == 200
    assert len(seen) <= most, "\n".join(seen)
