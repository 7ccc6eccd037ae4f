"""A process that ends with this one, however this one ends."""

import contextlib
import os
import signal
import subprocess
import sys
from collections.abc import Iterator, Mapping
from pathlib import Path

ROOT = Path(__file__).parents[2]
STOP_SECONDS = 10.0


@contextlib.contextmanager
def child(
    module: str, *arguments: str, environment: Mapping[str, str], is_quiet: bool = False
) -> Iterator["subprocess.Popen[bytes]"]:
    """``python -m MODULE``, in a group of its own that is stopped when the block is left; the kernel asks it to stop
    if this process is killed.
    """
    process = subprocess.Popen(
        ["setpriv", "--pdeathsig=TERM", sys.executable, "-m", module, *arguments],
        env=dict(environment),
        cwd=ROOT,
        stdout=subprocess.DEVNULL if is_quiet else None,
        start_new_session=True,
    )
    try:
        yield process
    finally:
        _stop(process)


def _stop(process: "subprocess.Popen[bytes]") -> None:
    """The server first, which stops its workers (told themselves, they would be replaced); then whatever is left of
    its group.
    """
    before = {each: signal.signal(each, signal.SIG_IGN) for each in (signal.SIGINT, signal.SIGTERM)}
    process.terminate()
    with contextlib.suppress(subprocess.TimeoutExpired):
        process.wait(STOP_SECONDS)
    with contextlib.suppress(ProcessLookupError):
        os.killpg(process.pid, signal.SIGKILL)
    process.wait()
    for each, handler in before.items():
        signal.signal(each, handler)
