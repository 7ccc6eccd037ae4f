"""What the web server loads."""

import os

from iron_bucket.web.parent import end_with_parent

# First of all: a server that is killed while its workers still load would leave them behind.
end_with_parent()
# Before numpy is loaded: with several threads its matrix routines lay half a megabyte on the stack, several deep, and
# the server's threads have two. One each is also the fair share where several requests are served at once.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

from threading import Thread

from iron_bucket.web.app import create_app, warm_up
from iron_bucket.web.beside import Beside
from iron_bucket.web.settings import settings_from
from iron_bucket.web.shared.measured import log_as_json

settings = settings_from(os.environ)
log_as_json(settings.log_level)
app = create_app(settings)
app.wsgi_app = Beside(app, settings)  # type: ignore[method-assign]
# While the first requests come in already: the first page of each kind need not wait for its templates.
Thread(target=warm_up, args=(app,), daemon=True).start()
