"""Bytes of a text file as lines: encoding, line ends and size, the same for every reader."""

import re

from iron_bucket.formats.errors import FormatError

#: Photometric files of real lamps stay under 2 MB; more is refused unread.
FILE_LIMIT_BYTES = 4_000_000
LONGEST_LINE = 200_000
_LINE_END = re.compile(r"\r\n|\r|\n")
_SHOWN = 24


def lines_of(data: bytes, what: str) -> list[str]:
    """The lines without their ends. UTF-8 with or without mark, else the old Western single-byte set.

    Raises: FormatError for an empty, too large or binary file.
    """
    if len(data) > FILE_LIMIT_BYTES:
        raise FormatError(what, None, f"the file has {len(data):,} bytes; accepted: up to {FILE_LIMIT_BYTES:,}")
    if not data.strip():
        raise FormatError(what, None, "the file is empty")
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return _checked(data.decode("utf-16", errors="replace"), what)
    # Some old programs end a text file with Ctrl-Z; anything else below tab is no text.
    data = data.rstrip(b"\x1a\x00 \r\n\t")
    if re.search(rb"[\x00-\x08\x0e-\x1f]", data):
        raise FormatError(what, None, "the file is binary; accepted: a text file")
    try:
        return _checked(data.decode("utf-8-sig"), what)
    except UnicodeDecodeError:
        return _checked(data.decode("latin-1"), what)


def _checked(text: str, what: str) -> list[str]:
    """The lines of a text, none of them absurdly long."""
    lines = _LINE_END.split(text)
    for number, line in enumerate(lines, start=1):
        if len(line) > LONGEST_LINE:
            raise FormatError(what, number, f"the line has {len(line):,} letters; accepted: up to {LONGEST_LINE:,}")
    return lines


def shown(token: str) -> str:
    """A piece of a foreign file, short and printable enough for a sentence."""
    short = token if len(token) <= _SHOWN else token[:_SHOWN] + "…"
    return repr(short)
