"""A load of the board as another head that gives the same light."""

from collections.abc import Iterator
from dataclasses import replace

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.power.job.pass_loads import PassLoad, harmonic_share, jump_va
from iron_bucket.core.setups.suggest.other_heads import OtherHead, other_heads


def heads_alike(load: PassLoad, gear: Gear) -> Iterator[OtherHead]:
    """For a lamp that burns: those that can be set to its colour and hung where it hangs."""
    if load.lamp is None or load.fixture is None or load.watts <= 0.0:
        return
    cct_k = load.fixture.colour(load.lamp).cct_k
    battery = gear.find(BatteryKind, load.feed)
    for other in other_heads(load.fixture, load.fixture.level(load.lamp), gear):
        plate = other.head.plate_for(battery.mount) if battery else None
        if battery and (plate is None or other.level > plate.level_limit):
            continue
        if other.head.lowest_cct_k * 0.97 <= cct_k <= other.head.highest_cct_k * 1.03:
            yield other


def with_head(load: PassLoad, other: OtherHead) -> PassLoad:
    """The load as it draws with that head; of what it is made of only the draw is told."""
    return replace(
        load,
        watts=other.watts,
        va=float(other.head.draw.va_from_w(other.watts)),
        jump_va=jump_va(other.head, other.watts) if load.jump_va else 0.0,
        harmonic=harmonic_share(other.head.draw),
    )
