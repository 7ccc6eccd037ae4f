"""What our lamps draw from the mains at their levels: each by itself, and by circuit of the house."""

from collections import defaultdict

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.power.apparent import a_from_va
from iron_bucket.core.setups.evaluate.lit_scene import LitScene


def lamp_amps(lit: LitScene, gear: Gear, rules: HouseRules) -> dict[str, float]:
    """What each lamp draws from the mains at its level, by its id, at its circuit's voltage, else at the job's."""
    place, batteries = lit.built.surroundings.place, {each.slug for each in gear.batteries}
    circuits = {each.socket_id: place.circuit(each.circuit) for each in place.sockets}
    found = {}
    for light in lit.built.lights:
        if light.placed and light.fixture and light.placed.feed not in batteries:
            circuit = circuits.get(light.placed.feed)
            voltage_v = circuit.voltage_v if circuit else rules.voltage_v
            va = light.fixture.head.draw.va_from_w(light.fixture.watts(light.placed))
            found[light.light_id] = float(a_from_va(va, voltage_v))
    return found


def circuit_amps(lit: LitScene, gear: Gear, rules: HouseRules) -> dict[str, float]:
    """What our lamps draw from each circuit of the house, by its name, at their levels."""
    place = lit.built.surroundings.place
    circuits = {each.socket_id: place.circuit(each.circuit) for each in place.sockets}
    amps: dict[str, float] = defaultdict(float)
    of_each = lamp_amps(lit, gear, rules)
    for light in lit.built.lights:
        circuit = circuits.get(light.placed.feed) if light.placed else None
        if circuit:
            amps[circuit.name] += of_each[light.light_id]
    return dict(amps)
