"""What a set-up's own gear draws, weighs and costs."""

from dataclasses import dataclass

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import Board
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.scene.build_scene import frame_parts
from iron_bucket.core.setups.scene.fixture import fixture_of
from iron_bucket.core.setups.sheet.stands import stands_of_frame, stands_of_lamp


@dataclass(frozen=True, slots=True, kw_only=True)
class LoadSummary:
    """``amps`` at the job's voltage, of lamps that burn and have no battery; ``day_price`` of what is not ours."""

    amps: float
    weight_kg: float
    day_price: float


def load_summary(setup: Setup, gear: Gear, rules: HouseRules) -> LoadSummary:
    """Lamps with what they wear, frames with their cloths, boards, and the stands of all of them. Raises: BadValue for gear that is not on the bench."""
    amps = weight = price = 0.0
    batteries = {each.slug for each in gear.batteries}
    for placed in setup.lamps:
        fixture = fixture_of(placed, gear, rules.scrim_school)
        if placed.feed not in batteries:
            amps += fixture.watts(placed) / fixture.head.draw.power_factor / rules.voltage_v
        items = [fixture.configuration, *fixture.parts, *stands_of_lamp(fixture, placed.z_m, gear)]
        weight += fixture.head.total_kg + sum(each.weight_kg for each in items)
        price += fixture.head.price_to_pay + sum(each.price_to_pay for each in items)
    for frame in setup.frames:
        parts = frame_parts(frame, gear)
        stands = stands_of_frame(parts, frame.z_m, gear)
        weight += sum(each.weight_kg for each in stands)
        price += sum(each.price_to_pay for each in stands)
        if isinstance(parts, Board):
            weight, price = weight + parts.weight_kg, price + parts.price_to_pay
        else:
            area = parts[0].width_m * parts[0].height_m
            weight += parts[0].weight_kg + parts[1].weight_kg * area
            price += parts[0].price_to_pay + parts[1].price_to_pay * area
    return LoadSummary(amps=amps, weight_kg=weight, day_price=price)
