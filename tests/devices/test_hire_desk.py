"""The hire desk: its stand-in over real HTTP, a client that never waits long, and answers kept for a while."""

import json
import threading
import time
import urllib.request
from datetime import date

import pytest
from werkzeug.serving import make_server

from iron_bucket.core.errors import BadValue
from iron_bucket.desk import hire
from iron_bucket.desk.hire import HireAnswers
from iron_bucket.devices.hire_desk import HireDeskTrouble, HttpHireDesk, Offer
from iron_bucket.devices.hire_desk.stand_in import StandInHouse, Stocked, http_house
from tests.tables import cases

DAY = date(2026, 10, 12)
HOUSE = StandInHouse(
    stocked=[Stocked(item=f"lamp-{number}", name=f"lamp {number}", day_price=10.0 + number) for number in range(30)]
)


class Served:
    """Any WSGI application on a free port, until the block ends."""

    def __init__(self, application):
        self.server = make_server("127.0.0.1", 0, application, threaded=True)

    def __enter__(self) -> str:
        threading.Thread(target=self.server.serve_forever, daemon=True).start()
        return f"http://127.0.0.1:{self.server.port}"

    def __exit__(self, *_):
        self.server.shutdown()
        self.server.server_close()


def saying(body: bytes, status: str = "200 OK", wait_s: float = 0.0):
    def application(environ, start):
        time.sleep(wait_s)
        start(status, [("Content-Type", "application/json")])
        return [body]

    return application


def test_the_stand_in_answers_what_the_client_reads():
    with Served(http_house(HOUSE, lambda: DAY)) as address:
        assert HttpHireDesk(address=address).offers(DAY) == HOUSE.offers(DAY)
        with urllib.request.urlopen(f"{address}/v1/offers") as answer:
            assert json.load(answer)["date"] == DAY.isoformat()
        with urllib.request.urlopen(f"{address}/v1/openapi.json") as answer:
            document = json.load(answer)
    needed = document["components"]["schemas"]["Offer"]["required"]
    assert set(needed) == set(Offer.__slots__)
    assert set(document["paths"]) == {"/v1/offers", "/v1/openapi.json"}


@pytest.mark.parametrize(("path", "status"), [("/v1/offers?date=soon", 400), ("/v2/offers", 404)])
def test_the_stand_in_refuses_plainly(path, status):
    with Served(http_house(HOUSE, lambda: DAY)) as address:
        with pytest.raises(urllib.error.HTTPError) as refused:
            urllib.request.urlopen(address + path)
        with refused.value:
            assert (refused.value.code, "accepted" in json.load(refused.value)["error"]) == (status, True)


def test_the_same_day_the_same_answer_another_day_another():
    other = HOUSE.offers(date(2026, 10, 13))
    assert HOUSE.offers(DAY) == HOUSE.offers(DAY)
    assert [each.day_price for each in other] == [each.day_price for each in HOUSE.offers(DAY)]
    assert [each.free for each in other] != [each.free for each in HOUSE.offers(DAY)]
    assert all(
        0 <= each.free <= each.stock and each.week_price == pytest.approx(4 * each.day_price, abs=0.05)
        for each in other
    )


@pytest.mark.parametrize(
    ("body", "status", "sentence"),
    [*cases(__file__, "test_answers_that_cannot_be_used"), (b" " * 4_000_001, "200 OK", "longer than 4 MB")],
)
def test_answers_that_cannot_be_used(body, status, sentence):
    with Served(saying(body, status)) as address, pytest.raises(HireDeskTrouble, match=sentence):
        HttpHireDesk(address=address).offers(DAY)


def test_nobody_there_and_somebody_slow():
    with pytest.raises(HireDeskTrouble, match="not answering"):
        HttpHireDesk(address="http://127.0.0.1:9").offers(DAY)
    with Served(saying(b"{}", wait_s=1.0)) as address, pytest.raises(HireDeskTrouble, match="not answering"):
        HttpHireDesk(address=address, patience_s=0.1).offers(DAY)


class Moody:
    """A desk that answers until it is told not to."""

    def __init__(self):
        self.asked, self.is_well = 0, True

    def offers(self, day):
        self.asked += 1
        if not self.is_well:
            raise HireDeskTrouble("the hire desk is not answering")
        return HOUSE.offers(day)


def test_answers_are_kept_and_the_last_good_one_stands_in(monkeypatch):
    now = [1000.0]
    monkeypatch.setattr(hire.time, "monotonic", lambda: now[0])
    moody = Moody()
    answers = HireAnswers(moody)
    first = answers.on(DAY)
    assert (len(first.offers), first.trouble, first.is_old) == (30, "", False)
    now[0] += hire.GOOD_FOR_S - 1
    assert answers.on(DAY) is first
    assert moody.asked == 1
    moody.is_well, now[0] = False, now[0] + 2
    second = answers.on(DAY)
    assert (second.offers, second.is_old, second.trouble) == (first.offers, True, "the hire desk is not answering")
    answers.on(DAY)
    assert moody.asked == 2  # left in peace for a while
    now[0] += hire.TROUBLE_FOR_S + 1
    moody.is_well = True
    assert answers.on(DAY).trouble == ""
    for number in range(1, 29):
        answers.on(date(2027, 1, number))
        answers.on(date(2027, 2, number))
        answers.on(date(2027, 3, number))
    assert len(answers._kept) <= hire.MOST_KEPT


def test_no_desk_is_a_state_too():
    state = HireAnswers(None).on(DAY)
    assert (state.offers, state.trouble, state.is_old) == ({}, "no hire desk is set", False)
    assert not HireAnswers(None).is_set


@pytest.mark.parametrize("changes", [{"item": " "}, {"day_price": -1.0}, {"free": -1}, {"lead_days": -1}])
def test_what_is_no_offer(changes):
    with pytest.raises(BadValue):
        Offer(
            **(
                {"item": "x", "name": "x", "day_price": 1.0, "week_price": 4.0, "stock": 1, "free": 1, "lead_days": 0}
                | changes
            )
        )
