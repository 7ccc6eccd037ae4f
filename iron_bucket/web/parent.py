"""Ends this process when the one that started it is gone: a worker without its server would hold its port and serve
nobody.
"""

import multiprocessing
import os
import threading
import time

LOOK_S = 0.5


def end_with_parent() -> None:
    """Look after the parent from now on; end at once where it was gone before this was asked."""
    # Who started a worker is known to the worker even when it has been handed to another process since.
    starter = multiprocessing.parent_process()
    parent = starter.pid if starter and starter.pid else os.getppid()
    threading.Thread(target=_look_after, args=(parent,), daemon=True, name="parent").start()


def _look_after(parent: int) -> None:
    while os.getppid() == parent:
        time.sleep(LOOK_S)
    os._exit(0)
