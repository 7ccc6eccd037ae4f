"""What placed gear stands on: the lightest stands of the bench that carry it as high as it is."""

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.stand import Stand, lightest_stand, spigot_for_mm
from iron_bucket.core.modifiers.kinds import Board, Cloth, Frame
from iron_bucket.core.setups.scene.fixture import Fixture


def stands_of_lamp(fixture: Fixture, height_m: float, gear: Gear) -> tuple[Stand, ...]:
    """One for the head with what it wears; its driver and cables lie beside it. None where no stand does."""
    payload_kg = fixture.head.weight_kg + sum(each.weight_kg for each in (fixture.configuration, *fixture.parts))
    stand = lightest_stand(gear.stands, payload_kg=payload_kg, spigot_mm=fixture.head.spigot_mm, height_m=height_m)
    return (stand,) if stand else ()


def stands_of_frame(parts: tuple[Frame, Cloth] | Board, height_m: float, gear: Gear) -> tuple[Stand, ...]:
    """Two for a frame, one at each side; one for a board. None where no stand does."""
    holder, count = (parts, 1) if isinstance(parts, Board) else (parts[0], 2)
    weight_kg = holder.weight_kg
    stand = lightest_stand(gear.stands, payload_kg=weight_kg, spigot_mm=spigot_for_mm(weight_kg), height_m=height_m)
    return (stand,) * count if stand else ()
