"""Work in a process of its own, after everything else; it ends by itself."""

import os
import subprocess
import sys
import threading
from pathlib import Path
from typing import IO

_ROOT = Path(__file__).parents[2]


def begin_in_background(database_url: str, *words: str, given: IO[bytes] | None = None) -> None:
    """A command of ours; ``given``: a file that it reads from its standard input."""
    process = subprocess.Popen(
        ["nice", "-n", "10", sys.executable, "-m", "iron_bucket", *words],
        env={**os.environ, "IRON_BUCKET_DATABASE_URL": database_url},
        cwd=_ROOT,
        stdin=subprocess.DEVNULL if given is None else given,
        stdout=subprocess.DEVNULL,
        start_new_session=True,
    )
    threading.Thread(target=process.wait, daemon=True).start()
