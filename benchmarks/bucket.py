"""Times the kit of a job: derived, at its peak, with the growth from a few set-ups to many.

Run: bin/benchmark bucket
"""

import gc
import time
from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np

from benchmarks.measured import median_ms
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bucket.best.optimum import best_for
from iron_bucket.core.bucket.best.problem import Choice, Figures, Goal, Measure, PassLight, Problem, Seat
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


def a_problem(chance: np.random.Generator, setups: int, lamps: int, heads: int) -> Problem:
    """Every lamp between ten of so many heads, each pass three targets, two passes out at a time, heads of ours and for
    hire.
    """
    names = [f"head-{at}" for at in range(heads)]
    stands = [f"stand-{at}" for at in range(8)]
    seats, lights = [], []
    for number in range(1, setups + 1):
        lux = chance.uniform(0.0, 500.0, (lamps, 3)) * (chance.random((lamps, 3)) < 0.4)
        for lamp in range(lamps):
            choices = tuple(
                Choice(
                    name=names[at],
                    head=names[at],
                    pieces={(names[at], 1.0): 1, (stands[int(chance.integers(8))], 1.0): 1},
                    lowest=0.01,
                    highest=1.0,
                    idle_va=float(chance.uniform(0, 15)),
                    span_va=float(chance.uniform(30, 1300)),
                    lux=lux[lamp] * chance.uniform(0.5, 3.0),
                )
                for at in chance.choice(heads, 10, replace=False).tolist()
            )
            seats.append(Seat(pass_id=number, chain=number, holder=f"lamp-{lamp}", choices=choices, level=0.5))
        today = 0.5 * sum(seat.choices[0].lux for seat in seats[-lamps:])
        lights.append(PassLight(pass_id=number, base_lx=np.zeros(3), low_lx=today / 1.26, high_lx=today * 1.26))
    figures = {
        (name, 1.0): Figures(
            weight_kg=float(chance.uniform(1, 25)),
            price=float(chance.integers(5, 200)),
            case_share=float(chance.uniform(0.1, 1.0)),
            ready=int(chance.random() < 0.3),
        )
        for name in (*names, *stands)
    }
    times = tuple((number, number + 1) for number in range(1, setups))
    return Problem(seats=tuple(seats), lights=tuple(lights), times=times, figures=figures)


def best_kits(chance: np.random.Generator) -> None:
    """How long the best takes to be found, and how far from the best that there could be it is."""
    goal = Goal(weights={Measure.MONEY: 10.0, Measure.WEIGHT: 3.0, Measure.AMPS: 1.0}).with_ties_broken()
    for setups in (5, 10, 20, 40):
        problem = a_problem(chance, setups, 15, 300)
        began = time.perf_counter()
        best = best_for(problem, goal)
        took_s, gap = (
            time.perf_counter() - began,
            f"a gap of {best.gap * 100:.2f} %" if best.gap < 1.0 else "no known gap",
        )
        shares = ", ".join(f"{each.value} {best.measures[each] / best.today[each] * 100:.0f} %" for each in Measure)
        print(f"best of {setups} set-ups of 15 lamps over 300 heads: {took_s:.1f} s to {gap}; of today's {shares}")


def main() -> None:
    """A line each."""
    gear, around, chance = demo_gear(), a_hall(), np.random.default_rng(1)
    setups = [a_setup(at, gear, chance, 15) for at in range(40)]
    derived(setups[:1], gear, around)
    gc.collect()
    gc.freeze()  # as every worker of the server does
    for count in (5, 10, 20, 40):
        kit = derived(setups[:count], gear, around)
        whole_ms = median_ms(lambda count=count: derived(setups[:count], gear, around))
        again = tuple(replace(each) for each in kit.passes)
        print(
            f"{count} set-ups of 15 lamps: {whole_ms:.0f} ms derived and listed ({len(kit.lines)} lines), then"
            f" {median_ms(lambda again=again: listed(again, gear)):.0f} ms"
        )
    best_kits(chance)


if __name__ == "__main__":
    main()
