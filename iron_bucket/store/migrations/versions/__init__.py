"""Alembic's migrations."""
