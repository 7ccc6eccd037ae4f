"""Signing in and out."""

from iron_bucket.web.account.routes import bp

__all__ = ["bp"]
