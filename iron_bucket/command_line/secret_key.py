"""The key that signs sessions, one for each data folder."""

import re
import secrets
from pathlib import Path

from iron_bucket.store.atomic_file import write_atomically

_WHOLE = re.compile(r"[0-9a-f]{64}")


def secret_key(path: Path) -> str:
    """The key kept there, so that a restart keeps people signed in; a new one where it is missing,
    empty or cut short."""
    try:
        key = path.read_text().strip()
    except (OSError, ValueError):
        key = ""
    if not _WHOLE.fullmatch(key):
        key = secrets.token_hex(32)
        write_atomically(path, key)
    return key
