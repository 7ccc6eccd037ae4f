"""Jobs of one or a few passes in a box or in the open air, packed with the demo's bench."""

from datetime import date

from iron_bucket.core.bench.flag import FlagKind
from iron_bucket.core.bucket.job_kit import JobKit, job_kit
from iron_bucket.core.bucket.kit_pass import KitPass
from iron_bucket.core.bucket.kit_rules import CrewKit
from iron_bucket.core.bucket.lead_kit import lead_kit
from iron_bucket.core.bucket.pass_kit import PassKit, pass_kit
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.setups.plan.setup import PlacedFlag, WindowFilm
from tests.core.setups.made import a_frame, a_lamp, a_setup

HERE, HOUR = 7, 60
DAY = date(2026, 6, 1)


def rules_with(**kit) -> HouseRules:
    return HouseRules(kit=CrewKit(**kit))


def packed(setup, gear, rules=None, around=None) -> PassKit:
    return pass_kit(setup, gear, rules or HouseRules(), around)


def a_kit_pass(number: int, *kits: PassKit, hour: float = 0.0, hours: float = 1.0, **changes) -> KitPass:
    """It is out from an hour of the day on, for so long."""
    start = round(hour * HOUR)
    made = {"setup_id": number, "chain": number, "name": f"{kits[0].setup_name}, wide", "place_name": "Box"}
    times = {"day": DAY, "start_min": start, "end_min": start + round(hours * HOUR), "lit_h": hours}
    return KitPass(**(made | times | {"kits": kits} | changes))


def a_job(gear, *setups, held=(), rules=None, power=JobPower(), around=None) -> JobKit:  # noqa: B008
    """Passes one after the other, an hour each."""
    rules = rules or HouseRules()
    passes = []
    for at, setup in enumerate(setups):
        kits = [pass_kit(setup, gear, rules, around)]
        if around is not None:
            kits.append(lead_kit(setup, at + 1, HERE, around, power, gear, rules))
        passes.append(a_kit_pass(at + 1, *kits, hour=at))
    return job_kit(passes, held, power, gear, rules)


def a_flag(**changes) -> PlacedFlag:
    made = {"piece_id": "flag", "name": "Flag", "x_m": 2.0, "y_m": 2.0, "z_m": 1.5}
    kind = FlagKind(changes.pop("kind", FlagKind.SOLID))
    return PlacedFlag(**(made | changes), kind=kind)


def setup_of(lamps=(), frames=(), flags=(), films=(), **changes):
    """Of rows of changes to the usual pieces."""
    return a_setup(
        lamps=tuple(a_lamp(**({"piece_id": f"l{at}", "name": f"L{at}"} | row)) for at, row in enumerate(lamps)),
        frames=tuple(a_frame(**({"piece_id": f"f{at}"} | row)) for at, row in enumerate(frames)),
        flags=tuple(a_flag(**({"piece_id": f"g{at}"} | row)) for at, row in enumerate(flags)),
        films=tuple(WindowFilm(piece_id=f"w{at}", **row) for at, row in enumerate(films)),
        **changes,
    )
