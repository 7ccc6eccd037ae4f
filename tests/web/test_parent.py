import os
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]

#: A process that ends while its worker still loads; the worker holds the pipe open for as long as it lives.
PROGRAM = """
import multiprocessing, os, sys, time

def work(late_s):
    time.sleep(late_s)
    from iron_bucket.web.parent import end_with_parent
    end_with_parent()
    time.sleep(60)

if __name__ == "__main__":
    multiprocessing.get_context("spawn").Process(target=work, args=(float(sys.argv[1]),)).start()
    time.sleep(1.5)
    os._exit(0)
"""


@pytest.mark.parametrize("late_s", [0.0, 3.0], ids=["before", "after"])
def test_a_worker_ends_with_its_server_whether_that_goes_before_or_after_it_looks(tmp_path, late_s):
    (tmp_path / "program.py").write_text(PROGRAM)
    started = [sys.executable, str(tmp_path / "program.py"), str(late_s)]
    environment = os.environ | {"PYTHONPATH": str(ROOT)}
    done = subprocess.run(started, capture_output=True, check=False, timeout=30, env=environment)
    assert (done.returncode, done.stderr) == (0, b"")
