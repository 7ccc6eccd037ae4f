"""What something stands on: a stand that carries it, fits its spigot, reaches it, and whose legs have room."""

from dataclasses import dataclass

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.stand import Stand, by_lightness

#: A stand with this tag was made for arms and what they hold.
ARM_TAG = "arm"


@dataclass(frozen=True, slots=True, kw_only=True)
class Support:
    """``stand`` None: nothing on the bench carries it so high, so it hangs. ``is_adapted``: by another spigot;
    ``is_on_floor``: no stand that carries it goes so low; ``is_tight``: its legs have no room where it stands.
    """

    stand: Stand | None
    is_adapted: bool = False
    is_on_floor: bool = False
    is_tight: bool = False


def support_for(
    gear: Gear, *, payload_kg: float, spigot_mm: float, height_m: float, room_m: float | None = None, tag: str = ""
) -> Support:
    """The lightest that does; ``room_m``: to the nearest wall, ``tag``: of stands that come first. A thin spigot goes
    on a thick stand with an adapter, never the other way.
    """
    carrying = [
        each for each in by_lightness(gear.stands, height_m) if each.payload_kg >= payload_kg and not each.is_retired
    ]
    fitting = [each for each in carrying if each.spigot_mm == spigot_mm]
    able = fitting or [each for each in carrying if each.spigot_mm > spigot_mm]
    if not able:
        return Support(stand=None)
    low = {each.slug: each.lowest_m > height_m for each in able}
    tight = {each.slug: room_m is not None and each.legs_m > room_m for each in able}
    best = min(able, key=lambda each: (low[each.slug], tag not in ("", *each.tags), tight[each.slug]))
    return Support(stand=best, is_adapted=not fitting, is_on_floor=low[best.slug], is_tight=tight[best.slug])
