"""Tests here work on a real database."""

from tests.database import database_url, demo, engine, open_folder, session  # noqa: F401 - fixtures
