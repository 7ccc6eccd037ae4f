"""What the core refuses, and what it cannot answer."""

#: More of a value is not shown in a sentence about it.
LONGEST_SHOWN = 60


class BadValue(ValueError):
    """One value that makes no sense: which field, what it was, what would be accepted."""

    def __init__(self, field: str, value: object, accepted: str) -> None:
        super().__init__(f"{field} is {str(value)[:LONGEST_SHOWN]}; accepted: {accepted}")
        self.field, self.value, self.accepted = field, value, accepted


class NoAnswer(Exception):
    """A fair question that has no solution; the text says which way it fails."""
