"""What the weather that was told does to a pass: frames in the wind, lamps in the rain, batteries in the cold."""

import math
from collections.abc import Iterator

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.cautions.rules import SAIL_FROM_M2, Caution, sail_of
from iron_bucket.core.days.weather import WorstWeather
from iron_bucket.core.modifiers.kinds import Board
from iron_bucket.core.power.battery import cold_share
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.setup import Piece
from iron_bucket.core.setups.scene.build_scene import frame_parts

#: The moment of a gust times that must not tip a stand. Source: docs/craft.md, section 7.
_SAFETY = 1.5
#: Batteries lose less than that above it. Typical.
_COLD_BELOW_C = 10.0


def weather_cautions(lit: LitScene, worst: WorstWeather, gear: Gear, units: UnitSystem) -> tuple[Caution, ...]:
    """Of all that stands in the open, from its rig to its strike."""
    return (*_wind(lit, worst, gear, units), *_rain(lit, worst, units), *_cold(lit, worst, gear, units))


def _is_outside(lit: LitScene, piece: Piece) -> bool:
    return lit.built.surroundings.room_at(piece.x_m, piece.y_m) is None


def _wind(lit: LitScene, worst: WorstWeather, gear: Gear, units: UnitSystem) -> Iterator[Caution]:
    for placed in lit.built.setup.frames:
        if not _is_outside(lit, placed):
            continue
        parts = frame_parts(placed, gear)
        part = parts if isinstance(parts, Board) else parts[0]
        tips_m_s = sail_of(part).critical_wind_m_s
        if part.width_m * part.height_m >= SAIL_FROM_M2 and worst.gust_m_s >= tips_m_s / math.sqrt(_SAFETY):
            gust, tips = display.wind(worst.gust_m_s, units), display.wind(tips_m_s, units)
            yield Caution(
                code="gusts",
                title=f"{placed.name} in the wind",
                trigger=f"gusts of {gust} are told; with one bag it tips at {tips}",
                action="Down before they come, or more bags, lines and somebody on each corner; nobody under it.",
            )


def _rain(lit: LitScene, worst: WorstWeather, units: UnitSystem) -> Iterator[Caution]:
    if not worst.is_wet:
        return
    wet = [
        light
        for light in lit.built.lights
        if light.placed and light.fixture and light.level > 0.0 and _is_outside(lit, light.placed)
    ]
    if wet:
        open_ones = sum(not light.fixture.head.weather for light in wet if light.fixture)
        rain = display.rain(worst.rain_mm_h, units)
        yield Caution(
            code="rain",
            title="Rain",
            trigger=f"{rain} are told; {_lamps(len(wet))} in the open, {open_ones} of them not sealed",
            action="Covers that let heat out, connectors off the ground and dry, earth leakage protection tested; what"
            " got wet inside stays off.",
        )


def _lamps(count: int) -> str:
    return "one lamp" if count == 1 else f"{count} lamps"


def _cold(lit: LitScene, worst: WorstWeather, gear: Gear, units: UnitSystem) -> Iterator[Caution]:
    on_battery = [
        light
        for light in lit.built.lights
        if light.placed
        and light.level > 0.0
        and _is_outside(lit, light.placed)
        and gear.find(BatteryKind, light.placed.feed) is not None
    ]
    if on_battery and worst.temperature_c < _COLD_BELOW_C:
        cold, left = display.temperature(worst.temperature_c, units), display.share(cold_share(worst.temperature_c))
        many = _lamps(len(on_battery))
        yield Caution(
            code="cold",
            title="Cold batteries",
            trigger=f"{cold} are told: {left} of the capacity is left, typically; {many} on batteries",
            action="Kept warm till they are used; none is charged below freezing.",
        )
