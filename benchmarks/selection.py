"""Times the choice: configurations x stacks, two needs, and how it grows. Run: bin/benchmark selection"""

import resource
import statistics
import time

from benchmarks.made_up_gear import gear
from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.selection.pick import pick

PLAIN = Need(illuminance_lx=640, throw_m=3)
FULL = Need(
    illuminance_lx=640,
    throw_m=3,
    width_m=1.5,
    least_apparent_deg=12,
    cct_k=5600,
    feed=Circuit(voltage_v=230, breaker_a=13, used_a=2.1),
    ceiling_m=2.6,
    most_weight_kg=30,
    most_day_price=200,
)
RUNS = 7


def timed(configurations: int, frames: int, cloths: int, sheets: int) -> None:
    """One line: size, both needs, memory so far."""
    packed = pack(gear(configurations=configurations, frames=frames, cloths=cloths, sheets=sheets))
    medians = []
    for need in (PLAIN, FULL):
        seconds = []
        for _ in range(RUNS):
            began = time.perf_counter()
            answer = pick(packed, need)
            seconds.append(time.perf_counter() - began)
        medians.append(statistics.median(seconds) * 1000)
    stacks = len(packed.fronts) * len(packed.sheet_sets)
    peak_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(
        f"{configurations:5d} configurations x {stacks:5d} stacks = {answer.tried:9,d}   "
        f"level only {medians[0]:6.0f} ms   every wish {medians[1]:6.0f} ms   peak {peak_mb:4.0f} MB"
    )


if __name__ == "__main__":
    for size in ((100, 5, 4, 9), (200, 5, 4, 9), (400, 5, 4, 9), (400, 5, 4, 13), (800, 5, 4, 9)):
        timed(*size)
