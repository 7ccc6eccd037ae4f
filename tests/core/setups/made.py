"""A dark box to light, and pieces to put in it."""

from dataclasses import replace
from datetime import datetime

from iron_bucket.core.bucket.pass_kit import pass_kit
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.place import HouseCircuit, Place, Room, Socket, WallOpening
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.setups.evaluate.beams import beams_on_plan, half_edges_deg
from iron_bucket.core.setups.evaluate.lit_scene import LitScene, lit
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.plan.setup import Camera, Person, PlacedFrame, PlacedLamp, Setup, Spot, Target
from iron_bucket.core.setups.scene.build_scene import build_scene
from iron_bucket.core.setups.sheet.load_summary import load_summary
from tests.tables import factory, table

NIGHT, NOON = datetime(2026, 1, 10, 0, 0), datetime(2026, 6, 21, 12, 0)
RULES, READS_FLAT = HouseRules(), HouseRules(receptor=Receptor.FLAT)


def a_place(walls: str = "black cloth", **changes) -> Place:
    """6 by 5 metres, 3 high; a window in the far wall, a socket on a circuit of 13 A."""
    window = WallOpening(opening_id="window", name="Window", wall=2, along_m=3.0, sill_m=0.9, width_m=1.6, height_m=1.4)
    room = Room(
        room_id="r",
        name="Room",
        corners=((0, 0), (6, 0), (6, 5), (0, 5)),
        height_m=3.0,
        walls=(walls,) * 4,
        floor=walls,
        ceiling=walls,
        openings=(window,),
    )
    ring = HouseCircuit(name="Ring", voltage_v=230.0, breaker_a=13.0, used_a=2.0, used_by="kettle")
    socket = Socket(socket_id="socket", name="Corner", x_m=0.2, y_m=0.2, circuit="Ring")
    made = {"rooms": (room,), "circuits": (ring,), "sockets": (socket,)}
    return Place(**({"name": "Box", "latitude_deg": 51.5} | made | changes))


BOX, OPEN_AIR = Surroundings(a_place()), Surroundings(a_place(rooms=(), circuits=(), sockets=()))


def a_lamp(**changes) -> PlacedLamp:
    """Two metres from Anna, to the left of the camera, at her height."""
    return PlacedLamp(**(table(__file__, "a_lamp") | changes))


ANNA = Person(piece_id="anna", name="Anna", x_m=3.0, y_m=2.5, z_m=1.5, bearing_deg=180.0)
WALL = Spot(piece_id="wall", name="Wall", x_m=3.0, y_m=5.0, z_m=2.6, bearing_deg=180.0, reflectance=0.36)


def a_setup(**changes) -> Setup:
    """Anna looks down the plan at the camera; it is dark but for the key."""
    camera = Camera(x_m=3.0, y_m=0.3, z_m=1.5, bearing_deg=0.0)
    made = {"when": NIGHT, "camera": camera, "people": (ANNA,), "spots": (WALL,), "lamps": (a_lamp(),)}
    return Setup(**({"name": "Pass", "look": Look()} | made | changes))


a_frame = factory(__file__, "a_frame", PlacedFrame)


def a_target(**changes) -> Target:
    return Target(**({"piece_id": "t", "mark": "anna.key", "stops": 0.0} | changes))


def lit_setup(
    gear, setup: Setup | None = None, surroundings: Surroundings = BOX, rules: HouseRules = RULES, **changes
) -> LitScene:
    return lit(build_scene(replace(setup or a_setup(), **changes), surroundings, gear, rules))


def beam_on_plan(lamp, level: float, shown_lx: float, scene):
    return beams_on_plan([(lamp, level)], shown_lx, scene)[0]


def half_edge_deg(lamp, azimuth_deg: float = 0.0) -> float:
    return float(half_edges_deg(lamp)[(0.0, 180.0, 90.0, 270.0).index(azimuth_deg)])


def load_of(setup, gear, rules: HouseRules = RULES):
    return load_summary(pass_kit(setup, gear, rules), rules)
