"""What the web server loads."""

import os

from iron_bucket.web.app import create_app
from iron_bucket.web.settings import settings_from

app = create_app(settings_from(os.environ))
