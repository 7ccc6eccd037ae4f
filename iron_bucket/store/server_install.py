"""The data folder of a private server, made once: under another name first, so that a start cut short leaves nothing
half made.
"""

import os
import pwd
import shutil
import subprocess

from iron_bucket.store.server_folder import SERVER_USER, ServerFolder, ServerTrouble


def install(folder: ServerFolder) -> None:
    """Make the data folder where there is none. Raises: ServerTrouble."""
    folder.temporary.mkdir(exist_ok=True)
    folder.hand_over(folder.path, folder.temporary)
    if folder.data.is_dir():
        return
    unfinished = folder.path / "data.unfinished"
    shutil.rmtree(unfinished, ignore_errors=True)
    made = subprocess.run(
        [
            "mariadb-install-db",
            "--no-defaults",
            *([f"--user={SERVER_USER}"] if os.geteuid() == 0 else []),
            f"--datadir={unfinished}",
            f"--tmpdir={folder.temporary}",
            "--skip-test-db",
            "--auth-root-authentication-method=socket",
            f"--auth-root-socket-user={pwd.getpwuid(os.geteuid()).pw_name}",
        ],
        capture_output=True,
        text=True,
        check=False,
    )
    if made.returncode:
        raise ServerTrouble(f"the database folder could not be made:\n{made.stdout}{made.stderr}")
    unfinished.rename(folder.data)
