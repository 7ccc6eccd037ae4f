"""Who may sign in, for those who settle that."""

from iron_bucket.web.people.routes import bp

__all__ = ["bp"]
