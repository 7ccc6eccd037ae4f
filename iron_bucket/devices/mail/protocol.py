"""What the application wants of a post office."""

from dataclasses import dataclass
from typing import Protocol

from iron_bucket.devices.json_http import DeviceTrouble


class MailTrouble(DeviceTrouble):
    """It does not answer, or does not take a letter; the text says which."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Letter:
    """Plain text to one address."""

    to: str
    subject: str
    text: str


class PostOffice(Protocol):
    """An office that letters can be given to."""

    def send(self, letter: Letter) -> None:
        """Hand a letter over; whether it arrives is not known. Raises: MailTrouble."""
        ...
