"""What a page may ask the database. Counted, so that nobody adds a query for every row unseen."""

import json

import pytest

BOARD = "/jobs/{job}/setups/{setup}"
DROP = {"changes": json.dumps([{"operation": "set", "where": "lamps", "piece_id": "key", "to": {"x_m": 3.1}}])}


@pytest.mark.parametrize(
    ("address", "form", "most"),
    [
        pytest.param(f"{BOARD}/changes", DROP, 15, id="a drop"),
        pytest.param(f"{BOARD}/add/lamp", {"chosen": "day-led-300.reflector"}, 15, id="a lamp added"),
        pytest.param(f"{BOARD}/form/lamps", {"piece": "key"}, 15, id="the inspector's form"),
        pytest.param(f"{BOARD}/try", DROP, 7, id="a step of a drag"),
        pytest.param(BOARD, None, 9, id="a set-up"),
        pytest.param("/jobs/{job}/setups", None, 12, id="all set-ups"),
        pytest.param("/jobs/{job}/bucket", None, 7, id="a bucket"),
        pytest.param("/jobs/{job}/pick", None, 5, id="a pick in a job"),
        pytest.param("/pick", None, 5, id="a pick without one"),
        pytest.param("/", None, 7, id="all jobs"),
        pytest.param("/places", None, 4, id="all places"),
        pytest.param("/bench", None, 5, id="the bench"),
        pytest.param("/bench/heads/day-led-300", None, 9, id="a head"),
        pytest.param("/bench/side?with=day-led-300.bare&with=bi-lens-60.flood", None, 3, id="side by side"),
    ],
)
def test_a_page_asks_no_more_than_it_needs(gaffer, count_queries, at, address, form, most):
    gaffer.get((BOARD if form else address).format(**at))  # the shelf and the place are at hand
    with count_queries() as seen:
        answer = gaffer.post(address.format(**at), form, as_swap=True) if form else gaffer.get(address.format(**at))
    assert answer.status_code == 200
    assert len(seen) <= most, "\n".join(seen)
