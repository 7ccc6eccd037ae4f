"""The process that works on a search."""

import os
import subprocess
import sys
import threading
from pathlib import Path

_ROOT = Path(__file__).parents[4]


def begin_process(database_url: str, job_id: int, run: str) -> None:
    """In the background and after everything else; it ends by itself."""
    process = subprocess.Popen(
        ["nice", "-n", "10", sys.executable, "-m", "iron_bucket", "best-kit", str(job_id), run],
        env={**os.environ, "IRON_BUCKET_DATABASE_URL": database_url},
        cwd=_ROOT,
        stdin=subprocess.DEVNULL,
        stdout=subprocess.DEVNULL,
        start_new_session=True,
    )
    threading.Thread(target=process.wait, daemon=True).start()
