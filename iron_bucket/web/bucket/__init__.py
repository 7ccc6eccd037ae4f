"""The bucket of a job: what to bring, and what it adds up to."""

from iron_bucket.web.bucket.routes import bp

__all__ = ["bp"]
