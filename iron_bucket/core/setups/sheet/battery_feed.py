"""Lamps of a set-up that are fed from batteries: what these cannot do, each with the figure that shows it."""

from collections.abc import Iterator

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.cautions.rules import Caution
from iron_bucket.core.power.battery import cold_share
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.plan.setup import PlacedLamp
from iron_bucket.core.setups.scene.build_scene import BuiltLight
from iron_bucket.core.setups.scene.fixture import Fixture

#: Where it is warmer the cold is nothing to speak of.
_COLD_BELOW_C = 15.0
_ACTIONS = {
    "cold": "Keep the batteries warm until they are used, and bring more of them.",
    "no-plate": "Feed it from the mains, or take a head with a plate for that battery.",
    "battery-current": "Dim it, take a stronger battery, or more plates: only whole sets of them start a head.",
    "battery-limit": "Count on that level, move it closer, or feed it from the mains.",
}


def battery_cautions_of(
    lights: tuple[BuiltLight, ...],
    gear: Gear,
    temperature_c: float | None = None,
    units: UnitSystem = UnitSystem.METRIC,
) -> tuple[Caution, ...]:
    """Of every lamp that burns on a battery. ``temperature_c``: of the place, None where nobody knows it."""
    return tuple(
        caution
        for light in lights
        if light.placed and light.fixture and light.placed.is_on
        for caution in _of_lamp(
            light.placed, light.fixture, gear.find(BatteryKind, light.placed.feed), temperature_c, units
        )
    )


def _of_lamp(
    placed: PlacedLamp, fixture: Fixture, battery: BatteryKind | None, temperature_c: float | None, units: UnitSystem
) -> Iterator[Caution]:
    if battery is None:
        return
    head, plate = fixture.head, fixture.head.plate_for(battery.mount)
    if plate is None:
        yield _told(
            "no-plate",
            f"{placed.name} takes no such battery",
            f"{head.name} has no plate for {battery.name}, which is of the {battery.mount} mount",
        )
        return
    if placed.level > plate.level_limit:
        yield _told(
            "battery-limit",
            f"{placed.name} gives less on batteries",
            f"{head.name} gives up to {display.share(plate.level_limit)} of its output from them; it is set to"
            f" {display.share(placed.level)}",
        )
    watts = fixture.mean_watts(placed)
    supply = battery.supply(plate.plates)
    if watts > 0.0 and not supply.delivers(watts):
        each = "" if plate.plates == 1 else f" from each of {plate.plates}"
        yield _told(
            "battery-current",
            f"{placed.name} is more than its battery can carry",
            f"{watts:.0f} W are {float(supply.current_a(watts)):.1f} A{each}; {battery.name} delivers"
            f" {battery.most_a:g} A",
        )
    elif watts > 0.0 and temperature_c is not None and temperature_c < _COLD_BELOW_C:
        left, lasts_h = cold_share(temperature_c), float(supply.in_the_cold(temperature_c).burn_time_h(watts))
        yield _told(
            "cold",
            f"{placed.name} goes dark sooner in the cold",
            f"at {display.temperature(temperature_c, units)} {display.share(left)} of the capacity is left, typically:"
            f" {display.hours(lasts_h)} at this level with {plate.plates} × {battery.name}",
        )


def _told(code: str, title: str, trigger: str) -> Caution:
    return Caution(code=code, title=title, trigger=trigger, action=_ACTIONS[code])
