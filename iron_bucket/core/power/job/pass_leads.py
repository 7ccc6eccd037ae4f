"""Leads of one pass, with those whose walks they cross."""

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.cable_plan import CablePlan, cable_plan
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.load_board import LoadBoard
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.plan.setup import Setup


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
