"""What a lamp of its technology and watts typically gives: the third voice beside claim and meter."""

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.head import Head, Technology
from iron_bucket.core.bench.output import level_lx

#: Lumens that reach the air for each watt from the wall, driver and ballast included: the middle of what each
#: technology reaches. Typical.
LUMENS_PER_WATT: dict[Technology, float] = {
    Technology.LED_DAY: 92.0,
    Technology.LED_TUNGSTEN: 85.0,
    Technology.LED_BICOLOUR: 76.0,
    Technology.LED_COLOUR: 60.0,
    Technology.TUNGSTEN: 22.0,
    Technology.HMI: 84.0,
    Technology.FLUORESCENT: 66.0,
}


def typical_level_lx(configuration: Configuration, head: Head, throw_m: float) -> float:
    """Level on the axis if the bare head had its technology's usual efficacy; beam and losses of
    the optic as claimed."""
    usual = LUMENS_PER_WATT[head.technology] * (head.nameplate_w or head.draw.full_w.value)
    return level_lx(configuration, throw_m) * usual / head.lumens.value
