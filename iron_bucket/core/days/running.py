"""What of a pass the next one has to wait for: heads that are hot or dark, batteries that are empty."""

from collections.abc import Iterable, Mapping, Sequence

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.days.between import Batteries, BurningHead, Running
from iron_bucket.core.power.job.battery_hours import Stock
from iron_bucket.core.power.job.kit import ChargerKit
from iron_bucket.core.power.job.pass_loads import PassLoad
from iron_bucket.core.power.job.shooting_day import TimedPass
from iron_bucket.core.setups.scene.build_scene import BuiltLight
from iron_bucket.core.typical import typical


def running(each: TimedPass, lights: Iterable[BuiltLight], loads: Sequence[PassLoad]) -> Running:
    """Of a pass with its lights and all that draws power in it. Source: Wh = W h, lamps lit for a share of the rig."""
    time = each.time
    lit_h = (time.rig_min * float(typical("power")["lit_while_rigging"]) + time.shoot_min * time.lit_share) / 60.0
    needs_wh: dict[str, float] = {}
    for load in loads:
        if load.is_on_battery:
            needs_wh[load.feed] = needs_wh.get(load.feed, 0.0) + load.watts * lit_h
    return Running(
        place_id=each.of.place_id,
        rig_min=time.rig_min,
        heads=tuple(
            BurningHead(
                slug=light.fixture.head.slug,
                name=light.name,
                stands=(light.placed.x_m, light.placed.y_m),
                is_hot=light.fixture.head.is_hot,
                warm_up_min=light.fixture.head.warm_up_min,
                restrike_min=light.fixture.head.restrike_min,
            )
            for light in lights
            if light.fixture and light.placed and light.level > 0.0
        ),
        needs_wh=needs_wh,
    )


def batteries_of(stock: Mapping[str, Stock], chargers: Sequence[ChargerKit], gear: Gear) -> dict[str, Batteries]:
    """All kinds that a job has, by slug, with what its chargers that are fed put back in an hour."""
    found = {}
    for slug, held in stock.items():
        kind = gear.find(BatteryKind, slug)
        if kind is not None:
            found[slug] = Batteries(
                name=kind.name,
                holds_wh=kind.supply(1).energy_wh * (sum(held.healths) + held.count - len(held.healths)),
                charge_w=sum(each.bays * each.bay_w for each in chargers if slug in each.kinds and each.feed),
            )
    return found
