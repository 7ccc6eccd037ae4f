"""Times the kit of a job: derived, at its peak, with the growth from a few set-ups to many.

Run: bin/benchmark bucket
"""

import time
from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np

from benchmarks.measured import median_ms
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bucket.job_kit import JobKit, job_kit
from iron_bucket.core.bucket.kit_pass import KitPass, kit_passes
from iron_bucket.core.bucket.lead_kit import lead_kit
from iron_bucket.core.bucket.pass_kit import pass_kit
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.place import HouseCircuit, Place, Room, Socket
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.shooting_day import JobPass
from iron_bucket.core.setups.plan.setup import PlacedFlag, PlacedFrame, PlacedLamp, Setup
from iron_bucket.demo.files import demo_gear

RULES, HERE = HouseRules(), 1


def a_hall() -> Surroundings:
    """Twenty by fifteen metres with a socket in each corner."""
    corners = ((0.0, 0.0), (20.0, 0.0), (20.0, 15.0), (0.0, 15.0))
    room = Room(room_id="r", name="Hall", corners=corners, height_m=6.0, walls=("white paint",) * 4)
    circuits = tuple(HouseCircuit(name=f"Ring {at}", voltage_v=230.0, breaker_a=32.0) for at in range(4))
    sockets = tuple(
        Socket(socket_id=f"s{at}", name=f"Corner {at}", x_m=x, y_m=y, circuit=f"Ring {at}")
        for at, (x, y) in enumerate(corners)
    )
    return Surroundings(Place(name="Hall", rooms=(room,), circuits=circuits, sockets=sockets))


def a_setup(at: int, gear: Gear, chance: np.random.Generator, lamps: int) -> Setup:
    """So many lamps of any kind, three frames, three flags, an hour after the last."""
    configurations = [each for each in gear.configurations if gear.head(each.head_slug).mains]

    def spot() -> dict[str, float]:
        return {
            "x_m": float(chance.uniform(1, 19)),
            "y_m": float(chance.uniform(1, 14)),
            "z_m": float(chance.uniform(0.5, 3)),
        }

    return Setup(
        name=f"Set-up {at}",
        when=datetime(2026, 6, 1, 8) + timedelta(days=at // 8, hours=at % 8),
        lamps=tuple(
            PlacedLamp(
                piece_id=f"lamp-{n}",
                name=f"Lamp {n}",
                configuration=configurations[int(chance.integers(len(configurations)))].slug,
                feed=str(chance.choice(["s0", "s1", "s2", "s3", "", "battery-v-150"])),
                level=float(chance.uniform(0.1, 1.0)),
                **spot(),
            )
            for n in range(lamps)
        ),
        frames=tuple(
            PlacedFrame(piece_id=f"frame-{n}", name=f"Frame {n}", frame="frame-1.2", cloth="cloth-full-white", **spot())
            for n in range(3)
        ),
        flags=tuple(PlacedFlag(piece_id=f"flag-{n}", name=f"Flag {n}", **spot()) for n in range(3)),
    )


def derived(setups: list[Setup], gear: Gear, around: Surroundings) -> JobKit:
    """From set-ups to the list, nothing at hand from before."""
    passes = [
        JobPass(setup_id=at, chain=at, place_id=HERE, place_name="Hall", setup=each)
        for at, each in enumerate(setups, 1)
    ]
    kits = {
        each.setup_id: (
            pass_kit(each.setup, gear, RULES, around),
            lead_kit(each.setup, each.setup_id, HERE, around, JobPower(), gear, RULES),
        )
        for each in passes
    }
    return listed(kit_passes(passes, kits, JobPower(), ()), gear)


def listed(passes: tuple[KitPass, ...], gear: Gear) -> JobKit:
    """The peak and the list alone, the kits of the passes at hand."""
    return job_kit(passes, (), JobPower(), gear, RULES)


def main() -> None:
    """A line each."""
    gear, around, chance = demo_gear(), a_hall(), np.random.default_rng(1)
    setups = [a_setup(at, gear, chance, 15) for at in range(40)]
    derived(setups[:1], gear, around)
    for count in (5, 10, 20, 40):
        began = time.perf_counter()
        kit = derived(setups[:count], gear, around)
        whole_ms = (time.perf_counter() - began) * 1000.0
        again = tuple(replace(each) for each in kit.passes)
        print(
            f"{count} set-ups of 15 lamps: {whole_ms:.0f} ms derived and listed ({len(kit.lines)} lines), then"
            f" {median_ms(lambda again=again: listed(again, gear)):.0f} ms"
        )


if __name__ == "__main__":
    main()
