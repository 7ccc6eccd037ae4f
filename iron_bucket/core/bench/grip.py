"""What heads, frames and boards stand on: the lightest stands of the bench that carry them as high as they are, and a
bag on each.
"""

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.bag import Bag
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.stand import Stand, by_lightness, lightest_stand, spigot_for_mm
from iron_bucket.core.modifiers.kinds import Board, Frame

#: As high as a lamp is taken to stand before it has a place; a frame stands by two stands, a board by one.
TYPICAL_LAMP_HEIGHT_M = 1.9
#: What has to be brought.
Grip = tuple[Stand | Bag, ...]


def grip_of_head(gear: Gear, *, payload_kg: float, spigot_mm: float, height_m: float = TYPICAL_LAMP_HEIGHT_M) -> Grip:
    """A stand with its bag; nothing where no stand carries it. ``payload_kg``: the head with its optic and its box;
    gels and scrims weigh too little to ask for another.
    """
    return _bagged(gear, lightest_stand(gear.stands, payload_kg, spigot_mm, height_m), 1)


def grip_of_flat(gear: Gear, holder: Frame | Board, height_m: float = TYPICAL_LAMP_HEIGHT_M) -> Grip:
    """Two stands for a frame, one at each side, one for a board, with their bags; nothing where no stand carries it."""
    stand = lightest_stand(gear.stands, holder.weight_kg, spigot_for_mm(holder.weight_kg), height_m)
    return _bagged(gear, stand, 2 if isinstance(holder, Frame) else 1)


def head_grip_figures(gear: Gear, payload_kg: Array, spigot_mm: Array) -> tuple[Array, Array]:
    """Weight and day price of the same for many heads at the typical height. Shapes: payload_kg (C, F), spigot_mm (C,);
    gives (C, F) both.
    """
    weight_kg, price = np.zeros_like(payload_kg), np.zeros_like(payload_kg)
    for stand in reversed(by_lightness(gear.stands, TYPICAL_LAMP_HEIGHT_M)):
        carries = (payload_kg <= stand.payload_kg) & (spigot_mm == stand.spigot_mm)[:, None]
        grip = _bagged(gear, stand, 1)
        weight_kg = np.where(carries, sum(each.weight_kg for each in grip), weight_kg)
        price = np.where(carries, sum(each.price_to_pay for each in grip), price)
    return weight_kg, price


def _bagged(gear: Gear, stand: Stand | None, count: int) -> Grip:
    """Source: docs/craft.md, section 7, the school that puts a bag on every stand; ours before hired ones."""
    if stand is None:
        return ()
    bag = min(gear.bags, key=lambda each: (not each.is_owned, each.weight_kg, each.slug), default=None)
    return (stand,) * count + ((bag,) * count if bag else ())
