"""The Bucket: the kit of a job, by lines, by rules, in cases, ticked."""

from iron_bucket.web.bucket import kit_routes, load_routes, rules_routes
from iron_bucket.web.bucket.blueprint import bp

__all__ = ["bp", "kit_routes", "load_routes", "rules_routes"]
