"""A head as its technology usually is: what a beam or a photometric file does not tell of it."""

from typing import TypedDict

from iron_bucket.core.bench.head import Head, MainsRange, Technology
from iron_bucket.core.figure import Figure
from iron_bucket.core.power.load import Draw, DrawCurve

#: Typical: an LED's driver corrects its power factor so far; a filament has none to correct.
_LED_POWER_FACTOR = 0.95
#: Typical: what dims goes down to a hundredth; a discharge lamp is let burn in full.
_LOWEST_DIMMED, _UNDIMMED = 0.01, 1.0
_HOT = (Technology.TUNGSTEN, Technology.HMI)


class Told(TypedDict):
    """What is known of it."""

    slug: str
    name: str
    maker: str
    weight_kg: float
    owned: int
    day_price: float | None


def usual_head(told: Told, technology: Technology, *, lumens: Figure, full_w: Figure, cct_k: float) -> Head:
    """One white, on any mains, with the power factor, dimming and heat of its technology (typical)."""
    is_led, is_filament = technology.is_led, technology is Technology.TUNGSTEN
    return Head(
        **told,
        technology=technology,
        lumens=lumens,
        draw=Draw(
            full_w=full_w,
            idle_w=0.0,
            power_factor=_LED_POWER_FACTOR if is_led else 1.0,
            curve=DrawCurve.FILAMENT if is_filament else DrawCurve.ELECTRONIC,
        ),
        lowest_cct_k=cct_k,
        highest_cct_k=cct_k,
        lowest_level=_LOWEST_DIMMED if is_led or is_filament else _UNDIMMED,
        mains=MainsRange(low_v=100, high_v=240),
        is_hot=technology in _HOT,
    )
