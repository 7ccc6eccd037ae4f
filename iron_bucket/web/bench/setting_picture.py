"""What a head gives, and how green it is, at each of its settings."""

import statistics
from collections import defaultdict
from collections.abc import Iterable

import numpy as np

from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.bench.setting_output import has_two_whites, setting_share
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.mired import k_from_mired, mired_from_k
from iron_bucket.web.bench.pictures import Curve, Dot, Tick

_WIDTH, _HEIGHT, _LEFT, _TOP, _FOOT = 420.0, 180.0, 56.0, 14.0, 26.0
_POINTS = 60
_MOST_DUV = 0.012


def output_picture(head: Head) -> Curve | None:
    """Output over colour temperature, from the warmest on the left; None of a head with one white."""
    if not has_two_whites(head):
        return None
    mired = np.linspace(*_ends(head), _POINTS)
    shares = np.array([setting_share(head, float(k_from_mired(each)), head.highest_cct_k).value for each in mired])
    shares /= shares.max()
    dots = tuple(
        Dot(x=_across(head, float(mired_from_k(cct_k))), y=_up(share), is_aside=False)
        for cct_k, share in head.setting_points
    )
    origin = "measured" if head.setting_points else "typical"
    return Curve(
        width=_WIDTH,
        height=_HEIGHT,
        lines=(_path([_across(head, each) for each in mired.tolist()], [_up(share) for share in shares.tolist()]),),
        along=_along(head),
        up=tuple(Tick(at=_up(share), text=f"{share * 100:.0f} %") for share in (1.0, 0.75, 0.5)),
        marks=(),
        description=f"Output over setting, {origin}: {shares[0] * 100:.0f} % at the warmest,"
        f" {shares[-1] * 100:.0f} % at the coolest.",
        dots=dots,
    )


def duv_picture_of(head: Head, readings: Iterable[Reading]) -> Curve | None:
    """Duv over the colour that was set, as it was read; None where nobody did at two settings."""
    by: dict[float, list[float]] = defaultdict(list)
    for each in readings:
        if each.set_cct_k is not None and each.duv is not None and not each.modifier_slug:
            by[each.set_cct_k].append(each.duv)
    if len(by) < 2:
        return None
    read = sorted((cct_k, statistics.median(several)) for cct_k, several in by.items())
    xs = [_across(head, float(mired_from_k(cct_k))) for cct_k, _ in read]
    ys = [_duv_up(duv) for _, duv in read]
    return Curve(
        width=_WIDTH,
        height=_HEIGHT,
        lines=(_path(xs, ys),),
        along=_along(head),
        up=tuple(Tick(at=_duv_up(duv), text=display.signed(duv, 3)) for duv in (0.008, 0.0, -0.008)),
        marks=(),
        description="Duv over setting: "
        + ", ".join(f"{cct_k:.0f} K {display.signed(duv, 4)}" for cct_k, duv in read)
        + ".",
        dots=tuple(Dot(x=x, y=y, is_aside=False) for x, y in zip(xs, ys, strict=True)),
    )


def _ends(head: Head) -> tuple[float, float]:
    return float(mired_from_k(head.lowest_cct_k)), float(mired_from_k(head.highest_cct_k))


def _along(head: Head) -> tuple[Tick, ...]:
    return tuple(
        Tick(at=round(_across(head, 1e6 / cct_k), 1), text=f"{cct_k:.0f}")
        for cct_k in (2700.0, 3200.0, 4300.0, 5600.0, 6500.0)
        if head.lowest_cct_k <= cct_k <= head.highest_cct_k
    )


def _across(head: Head, mired: float) -> float:
    warm, cool = _ends(head)
    return round(_LEFT + (warm - mired) / max(warm - cool, 1.0) * (_WIDTH - _LEFT - 20.0), 1)


def _up(share: float) -> float:
    """From two fifths to all of it."""
    return round(_TOP + (1.0 - share) / 0.6 * (_HEIGHT - _TOP - _FOOT), 1)


def _duv_up(duv: float) -> float:
    held = min(max(duv, -_MOST_DUV), _MOST_DUV)
    return round(_TOP + (_MOST_DUV - held) / (2.0 * _MOST_DUV) * (_HEIGHT - _TOP - _FOOT), 1)


def _path(xs: list[float], ys: list[float]) -> str:
    return "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in zip(xs, ys, strict=True))
