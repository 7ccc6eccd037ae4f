"""What a lamp of its technology and watts typically gives: the third voice beside claim and meter."""

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.output import level_lx
from iron_bucket.core.typical import typical


def typical_level_lx(configuration: Configuration, head: Head, throw_m: float) -> float:
    """Level on the axis if the bare head had its technology's usual efficacy; beam and losses of
    the optic as claimed."""
    usual: float = typical("lumens_per_watt")[head.technology] * (head.nameplate_w or head.draw.full_w.value)
    return level_lx(configuration, throw_m) * usual / head.lumens.value
