"""Times the sharing out of loads, forty over twenty-four channels, and a day on batteries, minute by minute.

Run: bin/benchmark power
"""

import time

import numpy as np

from benchmarks.measured import median_ms
from iron_bucket.core.power.battery import Supply
from iron_bucket.core.power.battery_day import BatteryDay, BatteryLamp, Charger, UnitKind
from iron_bucket.core.power.burn_day import burnt, least_units
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.power.planned_load import PlannedLoad
from iron_bucket.core.power.power_plan import PowerPlan
from iron_bucket.core.power.share_out import shared_out
from iron_bucket.core.power.sources import CircuitSource, ThreePhaseSource


def a_large_set(seed: int) -> PowerPlan:
    """Eighteen circuits of a house and two boards, with what a large set hangs on them."""
    chance = np.random.default_rng(seed)

    def place() -> tuple[float, float]:
        return float(chance.uniform(0.0, 20.0)), float(chance.uniform(0.0, 20.0))

    def circuit() -> Circuit:
        breaker_a, used_a = float(chance.choice([10.0, 13.0, 16.0, 32.0])), float(chance.uniform(0.0, 4.0))
        return Circuit(voltage_v=230.0, breaker_a=breaker_a, used_a=used_a)

    circuits = [CircuitSource(source_id=f"circuit {at}", circuit=circuit(), at_m=place()) for at in range(18)]
    boards = [ThreePhaseSource(source_id=f"board {at}", voltage_v=230.0, breaker_a=32.0, at_m=place()) for at in "ab"]
    watts = chance.choice([60.0, 120.0, 300.0, 575.0, 650.0, 1200.0, 2000.0, 2500.0], 40)
    factors = chance.choice([0.6, 0.95, 1.0], 40)
    loads = tuple(
        PlannedLoad(load_id=f"load {at}", watts=float(full_w), power_factor=float(factor), at_m=place())
        for at, (full_w, factor) in enumerate(zip(watts, factors, strict=True))
    )
    return PowerPlan(sources=(*circuits, *boards), loads=loads)


def a_day_on_batteries() -> BatteryDay:
    """Forty lamps over sixteen hours in eight phases, sixty units of two kinds, two chargers of four bays."""
    chance = np.random.default_rng(1)
    kinds = tuple(
        UnitKind(kind_id=kind, supply=Supply(capacity_wh=wh, nominal_v=14.4, most_a=14.0, efficiency=0.95), count=30)
        for kind, wh in (("small", 98.0), ("large", 290.0))
    )
    lamps = tuple(
        BatteryLamp(
            lamp_id=f"lamp {at}",
            kind_id=("small", "large")[at % 2],
            watts=tuple(float(each) for each in chance.choice([0.0, 0.0, 12.0, 30.0, 60.0], 8)),
        )
        for at in range(40)
    )
    chargers = tuple(
        Charger(charger_id=at, kind_ids=("small", "large"), bays=4, bay_w=80.0) for at in ("truck", "store")
    )
    return BatteryDay(minutes=(120,) * 8, kinds=kinds, lamps=lamps, chargers=chargers)


def main() -> None:
    """A line each."""
    day = a_day_on_batteries()
    found = burnt(day)
    print(
        f"40 lamps, 60 units, 16 h: {median_ms(lambda: burnt(day)):.0f} ms, {len(found.events)} swaps and darks,"
        f" {'lasts' if found.lasts else 'goes dark'}"
    )
    began = time.perf_counter()
    least = least_units(day)
    print(f"the least that lasts, {least}: {time.perf_counter() - began:.2f} s")
    for seed in range(8):
        plan = a_large_set(seed)
        began = time.perf_counter()
        found = shared_out(plan)
        took_ms = (time.perf_counter() - began) * 1000.0
        print(
            f"{len(plan.loads)} loads over {len(plan.channels)} channels: {len(found.feeding)} fed in {took_ms:.0f} ms,"
            f" gap {found.gap:.2%}"
        )


if __name__ == "__main__":
    main()
