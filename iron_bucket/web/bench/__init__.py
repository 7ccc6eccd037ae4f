"""The bench: what each head really puts out."""

from iron_bucket.web.bench.routes import bp

__all__ = ["bp"]
