"""Pieces of gel cut from sheets or rolls of stock: how many of those they take."""

from collections.abc import Iterable
from dataclasses import dataclass, field

from iron_bucket.core.quantities.rounding import at_most, whole_up

#: Round the opening, so that pegs hold it.
EDGE_M = 0.05
Cut = tuple[float, float]


def cut_of(width_m: float, height_m: float) -> Cut:
    """The piece for an opening, its longer side first, to the centimetre."""
    sides = sorted((round(width_m + 2.0 * EDGE_M, 2), round(height_m + 2.0 * EDGE_M, 2)), reverse=True)
    return sides[0], sides[1]


@dataclass(slots=True)
class _Stock:
    """One sheet with rows of pieces: how far each row reaches across, how high it is."""

    rows: list[list[float]] = field(default_factory=list)
    used_m: float = 0.0

    def takes(self, cut: Cut, across_m: float, along_m: float) -> bool:
        """Put it into the first row with room, else into a new one."""
        long_m, short_m = cut
        for row in self.rows:
            if at_most(row[0] + long_m, across_m) and at_most(short_m, row[1]):
                row[0] += long_m
                return True
        if not at_most(self.used_m + short_m, along_m):
            return False
        self.rows.append([long_m, short_m])
        self.used_m += short_m
        return True


def sheets_for(cuts: Iterable[Cut], stock_m: Cut) -> int:
    """Sheets or rolls that those pieces are cut from: first fit in rows, the highest pieces first, each laid with its
    longer side across the longer side that it fits. A piece larger than the stock is joined from as many as its area
    takes.
    """
    across_m, along_m = max(stock_m), min(stock_m)
    sheets: list[_Stock] = []
    joined = 0
    for cut in sorted(cuts, key=lambda each: (-each[1], -each[0])):
        if not (at_most(cut[0], across_m) and at_most(cut[1], along_m)):
            joined += whole_up(cut[0] / across_m) * whole_up(cut[1] / along_m)
        elif not any(sheet.takes(cut, across_m, along_m) for sheet in sheets):
            sheets.append(_Stock())
            sheets[-1].takes(cut, across_m, along_m)
    return len(sheets) + joined
