"""What the web server loads."""

import os

# Before numpy is loaded: with several threads its matrix routines lay half a megabyte on the stack, several deep, and the server's
# threads have two. One each is also the fair share where several requests are served at once.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

from iron_bucket.web.app import create_app
from iron_bucket.web.settings import settings_from

app = create_app(settings_from(os.environ))
