"""Places: what is there, recorded once."""

from iron_bucket.web.places import photo_routes
from iron_bucket.web.places.routes import bp

__all__ = ["bp", "photo_routes"]
