"""Each piece of a kit as it travels: how large, how heavy, when it is first needed, what it must not lie with."""

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from iron_bucket.core.bench.head import Head, Technology
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bucket.job_kit import JobKit, KitLine
from iron_bucket.core.typical import typical

Size = tuple[float, float, float]
#: Later than any day of a job: what no pass needs.
NEVER_MIN = 10**9


class Nature(StrEnum):
    """What something is beside other things in a case."""

    HOT = "hot"
    BATTERY = "battery"
    CLOTH = "cloth and gel"
    PLAIN = "plain"


#: A lamp that is still warm is not put beside these.
_AWAY_FROM_HOT = (Nature.BATTERY, Nature.CLOTH)


def lie_apart(one: Nature, other: Nature) -> bool:
    """Whether they must not lie in one case."""
    return (one is Nature.HOT and other in _AWAY_FROM_HOT) or (other is Nature.HOT and one in _AWAY_FROM_HOT)


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """``number`` among its line; ``size_m`` as it travels, the longest side first; ``is_typical``: nobody measured it.
    ``first_min``: when a pass first needs it, in minutes that run on over all days.
    """

    line: KitLine
    number: int
    size_m: Size
    weight_kg: float
    is_typical: bool
    nature: Nature
    is_fragile: bool
    first_min: int

    @property
    def item(self) -> Item:
        """What it is."""
        return self.line.item

    @property
    def volume_m3(self) -> float:
        """Of the box round it."""
        return self.size_m[0] * self.size_m[1] * self.size_m[2]


def packed_size_m(item: Item, kind: str, weight_kg: float) -> tuple[Size, bool]:
    """Length, width and height, and whether they are typical: of the litres that so many kilograms take up."""
    stated = sorted((item.packed_l_m, item.packed_w_m, item.packed_h_m), reverse=True)
    if all(stated):
        return (stated[0], stated[1], stated[2]), False
    table = typical("packing")
    litres = weight_kg * float(table["litres_a_kg"].get(kind, 2.0))
    a, b, c = table["proportions"]
    unit_m = (litres / 1000.0 / (a * b * c)) ** (1.0 / 3.0)
    return (a * unit_m, b * unit_m, c * unit_m), True


def _nature(item: Item, kind: str) -> Nature:
    if isinstance(item, Head) and item.is_hot:
        return Nature.HOT
    if kind == "batteries":
        return Nature.BATTERY
    return Nature.CLOTH if kind in ("cloths", "sheets", "faces") else Nature.PLAIN


def _is_fragile(item: Item, kind: str) -> bool:
    """Glass, soft boxes and boards bear nothing on top."""
    if isinstance(item, Head):
        return item.is_hot or item.technology is Technology.FLUORESCENT
    return kind in ("faces", "boards", "flags")


def pieces_of(kit: JobKit) -> Iterator[Piece]:
    """Every piece of every line, those first needed first."""
    first = {line.sort: _first_min(line) for line in kit.lines}
    for line in sorted(kit.lines, key=lambda line: first[line.sort]):
        weight_kg = line.weight_of(1)
        size_m, is_typical = packed_size_m(line.item, line.kind, weight_kg)
        for number in range(1, line.quantity + 1):
            yield Piece(
                line=line,
                number=number,
                size_m=size_m,
                weight_kg=weight_kg,
                is_typical=is_typical,
                nature=_nature(line.item, line.kind),
                is_fragile=_is_fragile(line.item, line.kind),
                first_min=first[line.sort],
            )


def _first_min(line: KitLine) -> int:
    if line.peak is None:
        return NEVER_MIN
    return min(each.start_min for each, _ in line.peak.everywhere)
