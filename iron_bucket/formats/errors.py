"""What a reader refuses."""


class FormatError(ValueError):
    """A file that cannot be read: what it is, the line, the reason. ``line`` None: the file as a whole."""

    def __init__(self, what: str, line: int | None, reason: object) -> None:
        where = f", line {line}" if line is not None else ""
        super().__init__(f"{what}{where}: {reason}")
        self.what, self.line, self.reason = what, line, reason
