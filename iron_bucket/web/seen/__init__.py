"""What is seen from outside by those who keep it running."""

from iron_bucket.web.seen.routes import bp

__all__ = ["bp"]
