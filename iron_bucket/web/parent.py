"""Ends this process when the one that started it is gone: a worker without its server would hold its port and serve
nobody.
"""

import os
import threading
import time

LOOK_S = 0.5


def end_with_parent() -> None:
    """Look after the parent from now on."""
    threading.Thread(target=_look_after, args=(os.getppid(),), daemon=True, name="parent").start()


def _look_after(parent: int) -> None:
    while os.getppid() == parent:
        time.sleep(LOOK_S)
    os._exit(0)
