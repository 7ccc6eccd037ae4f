"""Small files that are there whole or not at all, whenever the machine stops."""

import os
import secrets
from pathlib import Path


def write_atomically(path: Path, text: str) -> None:
    """Put a text where another may have stood, readable by its owner alone.

    Raises: OSError, the old one untouched then.
    """
    new = path.with_name(f".{path.name}.{secrets.token_hex(4)}")
    try:
        with os.fdopen(os.open(new, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as file:
            file.write(text)
            file.flush()
            os.fsync(file.fileno())
        new.replace(path)
    finally:
        new.unlink(missing_ok=True)
