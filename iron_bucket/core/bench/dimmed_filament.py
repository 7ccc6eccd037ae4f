"""What a dimmer does to a filament besides taking light: in the words of a step, a line, a title."""

from iron_bucket.core.bench.head import Head
from iron_bucket.core.colour.tungsten import cct_share, life_share, voltage_share_for_flux
from iron_bucket.core.power.load import DrawCurve

#: So much longer a globe lasts for ever.
_FOR_EVER = 100.0


def filament_words(head: Head, level: float) -> str:
    """At a share of full output; empty for what is no filament, is off, or at full.

    Source: the exponents of ``core/colour/tungsten``, typical.
    """
    if head.draw.curve is not DrawCurve.FILAMENT or not 0.0 < level < 1.0:
        return ""
    share = voltage_share_for_flux(level)
    cct_k, times = head.highest_cct_k * float(cct_share(share)), float(life_share(share))
    life = f"over {_FOR_EVER:.0f}" if times > _FOR_EVER else f"{times:.3g}"
    if head.globe_life_h:
        life += f" × {head.globe_life_h:.0f} h"
    else:
        life += " times as long"
    return (
        f"{share * 100.0:.0f} % of the voltage: {round(cct_k, -1):.0f} K,"
        f" {float(head.draw.watts(level)):.0f} W, its globe lasts {life}; a dimmer rated above"
        f" {head.draw.full_w.value:.0f} W"
    )
