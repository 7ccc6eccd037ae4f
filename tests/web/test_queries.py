"""What a page may ask the database. Counted, so that nobody adds a query for every row unseen."""

import json

from tests.tables import tabled

BOARD = "/jobs/{job}/setups/{setup}"
DROP = {"changes": json.dumps([{"operation": "set", "where": "lamps", "piece_id": "key", "to": {"x_m": 3.1}}])}


@tabled
def test_a_page_asks_no_more_than_it_needs(gaffer, count_queries, at, address, form, most):
    gaffer.get((BOARD if form else address).format(**at))  # the shelf and the place are at hand
    with count_queries() as seen:
        answer = gaffer.post(address.format(**at), form, as_swap=True) if form else gaffer.get(address.format(**at))
    assert answer.status_code == 200
    assert len(seen) <= most, "\n".join(seen)
