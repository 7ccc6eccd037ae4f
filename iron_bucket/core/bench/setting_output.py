"""What a head of two whites gives at each of its settings."""

from collections import defaultdict
from collections.abc import Iterable, Sequence

import numpy as np

from iron_bucket.core.bench.head import Head, Technology
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.quantities.mired import mired_from_k
from iron_bucket.core.typical import typical

#: Where a sheet says nothing else its figures are those of daylight.
_TOLD_AT_K = 5600.0


def setting_share(head: Head, cct_k: float, told_at_k: float = 0.0) -> Figure:
    """Output at a setting over that at which its figures were taken, 0: daylight, or the nearest that it has.

    By readings at two settings and more linear between them in mired; else the typical parabola.
    """
    if not has_two_whites(head):
        return Figure(value=1.0, origin=Origin.TYPICAL)
    origin = Origin.MEASURED if len(head.setting_points) > 1 else Origin.TYPICAL
    return Figure(value=_share(head, cct_k) / _share(head, told_at_k or _TOLD_AT_K), origin=origin)


def has_two_whites(head: Head) -> bool:
    """Whether its output follows its setting."""
    return head.technology is Technology.LED_BICOLOUR and head.lowest_cct_k < head.highest_cct_k


def _share(head: Head, cct_k: float) -> float:
    mired = float(mired_from_k(head.nearest_cct_k(cct_k)))
    if len(head.setting_points) > 1:
        points = sorted((float(mired_from_k(each_k)), share) for each_k, share in head.setting_points)
        return float(np.interp(mired, [at for at, _ in points], [share for _, share in points]))
    cool, warm = float(mired_from_k(head.highest_cct_k)), float(mired_from_k(head.lowest_cct_k))
    off_middle = 2.0 * (mired - cool) / (warm - cool) - 1.0
    return 1.0 - (1.0 - float(typical("bicolour")["ends"]["share"])) * off_middle**2


def setting_points(head: Head, readings: Iterable[Reading]) -> tuple[tuple[float, float], ...]:
    """Settings in kelvins and the share of the best output at each, from bare readings on the axis; of several
    configurations the mean. None where fewer than two settings were read.
    """
    by: dict[tuple[str, float], list[float]] = defaultdict(list)
    for each in readings:
        if each.set_cct_k is not None and not each.modifier_slug and each.is_on_axis:
            full = each.net_lx / float(head.dimming.output(np.array(each.setting)))
            by[each.configuration_slug, each.set_cct_k].append(full * each.throw_m**2)
    shares: dict[float, list[float]] = defaultdict(list)
    for configuration in {name for name, _ in by}:
        own = {cct_k: float(np.median(values)) for (name, cct_k), values in by.items() if name == configuration}
        if len(own) > 1:
            for cct_k, value in own.items():
                shares[cct_k].append(value / max(own.values()))
    return _even(shares)


def _even(shares: dict[float, list[float]]) -> tuple[tuple[float, float], ...]:
    means: Sequence[tuple[float, float]] = [(cct_k, float(np.mean(each))) for cct_k, each in sorted(shares.items())]
    best = max((share for _, share in means), default=1.0)
    return tuple((cct_k, share / best) for cct_k, share in means)
