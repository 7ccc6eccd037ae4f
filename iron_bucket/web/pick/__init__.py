"""Pick: a need as a sentence, what fits, and what was passed over and why."""

from iron_bucket.web.pick.routes import bp

__all__ = ["bp"]
