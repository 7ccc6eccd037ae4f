"""Times the sharing out of loads: forty over twenty-four channels, boards with three legs among them.

Run: bin/benchmark power
"""

import time

import numpy as np

from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.power.planned_load import PlannedLoad
from iron_bucket.core.power.power_plan import PowerPlan
from iron_bucket.core.power.share_out import shared_out
from iron_bucket.core.power.sources import CircuitSource, ThreePhaseSource


def a_day(seed: int) -> PowerPlan:
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


def main() -> None:
    """A line a day."""
    for seed in range(8):
        plan = a_day(seed)
        began = time.perf_counter()
        found = shared_out(plan)
        took_ms = (time.perf_counter() - began) * 1000.0
        print(
            f"{len(plan.loads)} loads over {len(plan.channels)} channels: {len(found.feeding)} fed in {took_ms:.0f} ms,"
            f" gap {found.gap:.2%}"
        )


if __name__ == "__main__":
    main()
