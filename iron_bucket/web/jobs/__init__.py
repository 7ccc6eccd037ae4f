"""Jobs: the front page."""

from iron_bucket.web.jobs.routes import bp

__all__ = ["bp"]
