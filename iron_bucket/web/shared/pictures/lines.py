"""Lines of text on a picture that keep clear of each other."""

#: From one line to the next.
LINE_PX = 13.0
#: Where a line is tried, in lines below where it is wanted.
_TRIED = (0, 1, 2, -1, -2, 3)


class Lines:
    """What was set already: left and right end of each line and how far down it stands, in pixels."""

    def __init__(self) -> None:
        self._taken: list[tuple[float, float, float]] = []

    def free(self, start: float, length: float, wanted: float) -> float:
        """How far down a line goes: where it is wanted, else the nearest free place; where there is none it stays.

        It is taken from then on.
        """
        places = [wanted + LINE_PX * step for step in _TRIED]
        found = next((place for place in places if not self._meets(start, start + length, place)), wanted)
        self._taken.append((start, start + length, found))
        return found

    def _meets(self, start: float, end: float, down: float) -> bool:
        return any(start < right and left < end and abs(down - other) < LINE_PX for left, right, other in self._taken)
