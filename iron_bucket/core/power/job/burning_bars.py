"""What hangs on each circuit in one phase of a day, with all passes that burn then."""

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass, replace

from iron_bucket.core.power.job.load_board import CircuitBar, LoadBoard
from iron_bucket.core.power.job.pass_loads import PassLoad
from iron_bucket.core.power.job.shooting_day import JobPass, Phase, ShootingDay

#: A circuit by the number of its place and its name.
CircuitKey = tuple[int, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class BurningBar:
    """``bar`` with the loads of all ``passes``, by their numbers, that burn on it."""

    bar: CircuitBar
    passes: tuple[int, ...]


def burning_bars(day: ShootingDay, phase: Phase, boards: Mapping[int, LoadBoard]) -> dict[CircuitKey, BurningBar]:
    """Of every circuit on which anything of ours burns. ``boards`` by the numbers of the passes. What two passes share
    counts once, as the one that draws more.
    """
    loads: dict[CircuitKey, dict[object, PassLoad]] = defaultdict(dict)
    found: dict[CircuitKey, BurningBar] = {}
    for burning in phase.burning:
        own = day.passes[burning.at].of
        for bar in boards[own.setup_id].bars:
            if not any(load.watts > 0.0 for load in bar.loads):
                continue
            key = (own.place_id, bar.name)
            for load in bar.loads:
                name = through_the_day(own, load)
                loads[key][name] = max(load, loads[key].get(name, load), key=lambda each: each.va)
            passes = (*found[key].passes, own.setup_id) if key in found else (own.setup_id,)
            found[key] = BurningBar(bar=replace(bar, loads=tuple(loads[key].values())), passes=passes)
    return found


def through_the_day(own: JobPass, load: PassLoad) -> tuple[int, str]:
    """By what a load is known again in another pass: lamps in passes that vary one set-up, everything else in all."""
    return (own.chain if load.lamp else 0, load.load_id)
