"""A box with one ring of 13 A to hang lamps of the demo's bench on."""

from dataclasses import replace

from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.place import HouseCircuit, Socket
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.kit import JobPower, OtherLoad, PassTime
from iron_bucket.core.power.job.load_board import LoadBoard, load_board
from iron_bucket.core.power.job.outlets import fed_place
from iron_bucket.core.power.job.pass_loads import pass_loads
from iron_bucket.core.power.job.shooting_day import JobPass
from tests.core.setups.made import a_lamp, a_place, a_setup

HERE, RULES = 7, HouseRules()
STORE = HouseCircuit(name="Store", voltage_v=230.0, breaker_a=13.0)
KETTLE = OtherLoad(piece_id="kettle", name="Kettle", place_id=HERE, watts=1200.0, power_factor=1.0, feed="socket")
TWO = a_place(
    circuits=(*a_place().circuits, STORE),
    sockets=(*a_place().sockets, Socket(socket_id="store", name="Store socket", x_m=5.8, y_m=4.8, circuit="Store")),
)


def a_kilowatt(at: int = 1, **changes):
    """1000 W of tungsten, 4.348 A."""
    fed = {"configuration": "tung-1000.flood", "feed": "socket", "level": 1.0, "x_m": 1.0, "y_m": 0.6}
    return a_lamp(**({"piece_id": f"k{at}", "name": f"K{at}"} | fed | changes))


def a_board(gear, *lamps, power=JobPower(), place=TWO, counts=None, rules=RULES, setup_id=1) -> LoadBoard:  # noqa: B008
    setup = a_setup(lamps=lamps)
    loads = pass_loads(setup, setup_id, HERE, power, gear, rules.scrim_school).loads
    return load_board(fed_place(place, HERE, power), loads, gear, rules, counts or {})


def a_pass(setup_id: int, *lamps, chain: int | None = None, place_id: int = HERE, **changes) -> JobPass:
    setup = a_setup(lamps=lamps, **changes)
    return JobPass(setup_id=setup_id, chain=chain or setup_id, place_id=place_id, place_name="Box", setup=setup)


def a_time(setup_id: int, rig: int, shoot: int, strike: int = 0, **changes) -> PassTime:
    return PassTime(
        piece_id=f"pass-{setup_id}", setup_id=setup_id, rig_min=rig, shoot_min=shoot, strike_min=strike, **changes
    )


def around(place=TWO) -> Surroundings:
    return Surroundings(replace(place))
