"""What the desk refuses."""


class NotFound(Exception):
    """There is no such thing, or it is somebody else's."""


class NotAllowed(Exception):
    """The sign-in is not good enough for that."""


class ChangedMeanwhile(Exception):
    """Somebody else changed it since the form was opened; nothing was written."""


class TooManyTries(Exception):
    """Somebody tried too often; ``seconds`` until they may again."""

    def __init__(self, seconds: int) -> None:
        super().__init__(f"too many tries; wait {seconds} seconds, then try again")
        self.seconds = seconds
