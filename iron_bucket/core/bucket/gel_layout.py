"""Cuts of one gel laid out on offcuts first, then on whole sheets or rolls, then on what has to be bought."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field

from iron_bucket.core.bucket.gel_cuts import Cut
from iron_bucket.core.modifiers.kinds import GelCondition, Sheet
from iron_bucket.core.quantities.rounding import at_most


@dataclass(frozen=True, slots=True, kw_only=True)
class LaidCut:
    """One cut where it lies on its stock, from its lower left corner."""

    x_m: float
    y_m: float
    width_m: float
    length_m: float


@dataclass(slots=True, kw_only=True)
class StockPiece:
    """An offcut, a sheet or a roll with what is cut from it, row upon row. ``is_bought``: there is none of it yet."""

    label: str
    width_m: float
    length_m: float
    is_bought: bool = False
    laid: list[LaidCut] = field(default_factory=list)
    _rows: list[list[float]] = field(default_factory=list)

    @property
    def used_m2(self) -> float:
        """What is cut from it."""
        return sum(each.width_m * each.length_m for each in self.laid)

    @property
    def left_m(self) -> tuple[float, float]:
        """The strip that is left whole above the last row: the next offcut."""
        return self.width_m, max(self.length_m - sum(row[2] for row in self._rows), 0.0)

    def takes(self, cut: Cut) -> bool:
        """Put it into the first row with room, else into a new one; lengthwise, else turned."""
        return any(self._put(width_m, length_m) for width_m, length_m in (cut, cut[::-1]))

    def _put(self, width_m: float, length_m: float) -> bool:
        for row in self._rows:
            begins, used, height = row
            if at_most(used + width_m, self.width_m) and at_most(length_m, height):
                self.laid.append(LaidCut(x_m=used, y_m=begins, width_m=width_m, length_m=length_m))
                row[1] = used + width_m
                return True
        begins = sum(row[2] for row in self._rows)
        if not (at_most(width_m, self.width_m) and at_most(begins + length_m, self.length_m)):
            return False
        self._rows.append([begins, width_m, length_m])
        self.laid.append(LaidCut(x_m=0.0, y_m=begins, width_m=width_m, length_m=length_m))
        return True


@dataclass(frozen=True, slots=True, kw_only=True)
class GelLayout:
    """``pieces`` with something on them; ``joined``: cuts larger than any stock, which are taped together."""

    sheet: Sheet
    pieces: tuple[StockPiece, ...]
    joined: tuple[Cut, ...]

    @property
    def to_buy(self) -> int:
        """Sheets or rolls."""
        return sum(each.is_bought for each in self.pieces)

    @property
    def waste(self) -> float:
        """Of the stock that is cut into, what is not used, as a share."""
        whole = sum(each.width_m * each.length_m for each in self.pieces)
        return 1.0 - sum(each.used_m2 for each in self.pieces) / whole if whole else 0.0


def laid_out(cuts: Iterable[Cut], sheet: Sheet) -> GelLayout:
    """The largest cuts first, each on the smallest offcut that takes it, before a whole sheet is cut into.

    First fit by rows, as ``gel_cuts`` counts them.
    """
    whole_m = (max(sheet.stock_w_m, sheet.stock_l_m), min(sheet.stock_w_m, sheet.stock_l_m))
    pieces, joined = list(_in_stock(sheet, whole_m)), []
    for cut in sorted(cuts, key=lambda each: (-each[0] * each[1], -each[0])):
        placed = next((each for each in pieces if each.takes(cut)), None)
        if placed is None:
            bought = sum(each.is_bought for each in pieces) + 1
            piece = StockPiece(label=f"to buy {bought}", width_m=whole_m[0], length_m=whole_m[1], is_bought=True)
            if piece.takes(cut):
                pieces.append(piece)
            else:
                joined.append(cut)
    return GelLayout(sheet=sheet, pieces=tuple(each for each in pieces if each.laid), joined=tuple(joined))


def _in_stock(sheet: Sheet, whole_m: Sequence[float]) -> Iterator[StockPiece]:
    """Offcuts that are good, the smallest first, then whole ones."""
    good = [each for each in sheet.offcuts if each.condition is not GelCondition.FADED]
    for number, each in enumerate(sorted(good, key=lambda each: each.width_m * each.length_m), start=1):
        long_m, short_m = max(each.width_m, each.length_m), min(each.width_m, each.length_m)
        yield StockPiece(label=f"offcut {number}, {each.condition.value}", width_m=long_m, length_m=short_m)
    for number in range(1, sheet.owned + 1):
        yield StockPiece(label=f"sheet {number}", width_m=whole_m[0], length_m=whole_m[1])
