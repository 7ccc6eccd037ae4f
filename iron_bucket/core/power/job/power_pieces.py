"""What the power of a job adds to its bucket: leads, multiways and adapters of each pass, and the day's batteries."""

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.cable import Cable
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.cable_plan import CablePlan, cable_plan
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.load_board import LoadBoard, load_board
from iron_bucket.core.power.job.outlets import FedPlace
from iron_bucket.core.power.job.pass_loads import pass_loads
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.sheet.pieces import SetupPieces, piece_entry


def leads_of(
    board: LoadBoard,
    setup: Setup,
    surroundings: Surroundings,
    power: JobPower,
    gear: Gear,
    units: UnitSystem = UnitSystem.METRIC,
) -> CablePlan:
    """Of one pass in its place."""
    walks = {
        person.name: ((person.x_m, person.y_m), *((each.x_m, each.y_m) for each in positions))
        for person in setup.people
        if (positions := setup.positions_of(person.piece_id))
    }
    place, ways = surroundings.place, surroundings.lead_ways
    return cable_plan(
        board, place, ways, gear.cables, is_straight=power.is_straight, laid=power.laid, walks=walks, units=units
    )


def lead_pieces(
    setup: Setup,
    setup_id: int,
    place_id: int,
    surroundings: Surroundings,
    power: JobPower,
    gear: Gear,
    rules: HouseRules,
) -> SetupPieces:
    """The leads of one pass, each as often as it is brought; ``surroundings`` with the job's outlets."""
    loads = pass_loads(setup, setup_id, place_id, power, gear, rules.scrim_school).loads
    board = load_board(FedPlace(place=surroundings.place), loads, gear, rules, {})
    found = leads_of(board, setup, surroundings, power, gear)
    entries = [
        piece_entry("cables", gear.by_slug(Cable, slug)) for slug, count in found.pieces.items() for _ in range(count)
    ]
    return SetupPieces(setup_name=setup.name, entries=tuple(entries), left_out=())


def battery_pieces(power: JobPower, gear: Gear) -> SetupPieces:
    """The batteries that the job's days ask for, as many as were said."""
    found = [(gear.find(BatteryKind, row.kind), row.count) for row in power.batteries]
    entries = [piece_entry("batteries", kind) for kind, count in found if kind for _ in range(count)]
    missing = tuple(
        f"batteries: {row.kind} is not on the bench"
        for row in power.batteries
        if gear.find(BatteryKind, row.kind) is None
    )
    return SetupPieces(setup_name="the days on batteries", entries=tuple(entries), left_out=missing)
