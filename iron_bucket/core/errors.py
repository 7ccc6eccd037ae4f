"""What the core refuses, and what it cannot answer."""


class BadValue(ValueError):
    """One value that makes no sense: which field, what it was, what would be accepted."""

    def __init__(self, field: str, value: object, accepted: str) -> None:
        super().__init__(f"{field} is {value}; accepted: {accepted}")
        self.field, self.value, self.accepted = field, value, accepted


class NoAnswer(Exception):
    """A fair question that has no solution; the text says which way it fails."""
