"""Crews, and who belongs to them and to jobs."""

from iron_bucket.web.crews.routes import bp

__all__ = ["bp"]
