"""All that draws power in one pass: its lamps at their levels, chargers, and anything else with watts."""

from collections.abc import Iterator
from dataclasses import dataclass

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import POWER_STATION, Head, Technology
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.power.apparent import va_from_w
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.load import Draw, DrawCurve
from iron_bucket.core.setups.plan.setup import PlacedLamp, Setup
from iron_bucket.core.setups.scene.fixture import Fixture, fixture_of
from iron_bucket.core.typical import typical

#: The power factor of a charger, typical for one of its size.
_CHARGER_POWER_FACTOR = 0.95


@dataclass(frozen=True, slots=True, kw_only=True)
class PassLoad:
    """``watts`` and ``va`` as planned; ``jump_va``: how much more it takes for a moment as it starts; ``harmonic``: the
    share of its current that meets the other legs' in the neutral. ``lamp`` and ``fixture`` of a lamp of the set-up;
    ``is_on_battery``: its feed is a kind of battery.
    """

    load_id: str
    name: str
    watts: float
    va: float
    jump_va: float
    harmonic: float
    feed: str
    x_m: float
    y_m: float
    z_m: float = 0.0
    lamp: PlacedLamp | None = None
    fixture: Fixture | None = None
    is_on_battery: bool = False

    @property
    def head(self) -> Head | None:
        """Of a lamp."""
        return self.fixture.head if self.fixture else None


@dataclass(frozen=True, slots=True, kw_only=True)
class PassLoads:
    """``left_out``: lamps that the bench does not hold, and why, in words."""

    loads: tuple[PassLoad, ...]
    left_out: tuple[str, ...] = ()


def pass_loads(
    setup: Setup, setup_id: int, place_id: int, power: JobPower, gear: Gear, school: ScrimSchool
) -> PassLoads:
    """The lamps in their order, then the chargers that stand there, then everything else."""
    found, left_out = [], []
    for lamp in setup.lamps:
        try:
            found.append(lamp_load(lamp, fixture_of(lamp, gear, school), gear))
        except BadValue as bad:
            left_out.append(f"{lamp.name}: {bad}")
    return PassLoads(loads=(*found, *_others(setup_id, place_id, power, gear)), left_out=tuple(left_out))


def lamp_load(lamp: PlacedLamp, fixture: Fixture, gear: Gear) -> PassLoad:
    """One lamp at its level; off it draws nothing."""
    head, battery = fixture.head, gear.find(BatteryKind, lamp.feed)
    watts = fixture.mean_watts(lamp) if battery else fixture.watts(lamp)
    return PassLoad(
        load_id=lamp.piece_id,
        name=lamp.name,
        watts=watts,
        va=float(head.draw.va_from_w(watts)),
        jump_va=jump_va(head, watts) if battery is None or battery.mount == POWER_STATION else 0.0,
        harmonic=harmonic_share(head.draw),
        feed=lamp.feed,
        x_m=lamp.x_m,
        y_m=lamp.y_m,
        z_m=lamp.z_m,
        lamp=lamp,
        fixture=fixture,
        is_on_battery=battery is not None,
    )


def jump_va(head: Head, watts: float) -> float:
    """How far its start goes beyond what it draws: by its own inrush where that is known, else typical of its kind.
    What is struck takes its start in full, whatever its level; an LED's supply starts softly.
    """
    if not watts:
        return 0.0
    draw = head.draw
    full_va = float(draw.va_from_w(draw.full_w.value))
    start_va = head.inrush_a * head.mains.high_v if head.inrush_a and head.mains else full_va * _start_times(head)
    return max(start_va - float(draw.va_from_w(watts)), 0.0)


def _start_times(head: Head) -> float:
    times = typical("power")["start_times"]
    if head.draw.curve is DrawCurve.FILAMENT:
        return float(times["filament"])
    if head.technology in (Technology.HMI, Technology.FLUORESCENT):
        return float(times[head.technology.value])
    return 0.0


def harmonic_share(draw: Draw) -> float:
    """The third harmonic of a supply, as a share of its fundamental (typical); a filament has none."""
    if draw.curve is DrawCurve.FILAMENT:
        return 0.0
    table = typical("power")["third_harmonic"]
    return float(table["corrected"] if draw.power_factor >= table["corrected_from"] else table["uncorrected"])


def _others(setup_id: int, place_id: int, power: JobPower, gear: Gear) -> Iterator[PassLoad]:
    table = typical("power")["third_harmonic"]
    for charger in power.chargers:
        if charger.place_id == place_id and charger.feed:
            watts = charger.mains_w
            yield PassLoad(
                load_id=charger.piece_id,
                name=charger.name,
                watts=watts,
                va=float(va_from_w(watts, _CHARGER_POWER_FACTOR)),
                jump_va=0.0,
                harmonic=float(table["corrected"]),
                feed=charger.feed,
                x_m=charger.x_m,
                y_m=charger.y_m,
                is_on_battery=gear.find(BatteryKind, charger.feed) is not None,
            )
    for load in power.loads:
        if load.place_id == place_id and load.setup_id in (0, setup_id):
            va = float(va_from_w(load.watts, load.power_factor))
            is_plain = load.power_factor == 1.0  # a kettle, a heater
            yield PassLoad(
                load_id=load.piece_id,
                name=load.name,
                watts=load.watts,
                va=va,
                jump_va=max(load.start_va - va, 0.0),
                harmonic=0.0 if is_plain else float(table["corrected"]),
                feed=load.feed,
                x_m=load.x_m,
                y_m=load.y_m,
                is_on_battery=gear.find(BatteryKind, load.feed) is not None,
            )
