"""A simulated post office: takes every letter over SMTP and hands none on; each lies in a folder as a .eml file."""

import itertools
from pathlib import Path

from aiosmtpd.controller import Controller
from aiosmtpd.smtp import SMTP, Envelope, Session


class StandInPost:
    """Letters are numbered as they come. An address at ``nowhere.example`` is refused, as a real office would."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._numbers = itertools.count(1)

    async def handle_RCPT(  # noqa: N802 - the library asks for it by this name
        self, server: SMTP, session: Session, envelope: Envelope, to: str, options: list[str]
    ) -> str:
        """Whether letters are taken for an address."""
        if to.endswith("@nowhere.example"):
            return "550 no such address"
        envelope.rcpt_tos.append(to)
        return "250 OK"

    async def handle_DATA(  # noqa: N802
        self, server: SMTP, session: Session, envelope: Envelope
    ) -> str:
        """Put the letter into the folder."""
        content = envelope.original_content or b""
        (self._folder / f"letter-{next(self._numbers):04}.eml").write_bytes(content)
        return "250 taken"


def smtp_post(post: StandInPost, host: str, port: int) -> Controller:
    """The office as a server in a thread of its own; ``start`` and ``stop`` it."""
    return Controller(post, hostname=host, port=port)
