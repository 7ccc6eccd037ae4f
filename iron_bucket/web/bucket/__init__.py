"""The Bucket: the kit of a job, by lines, by rules, in cases, ticked."""

from iron_bucket.web.bucket import (
    best_routes,
    gel_routes,
    instead_routes,
    kit_routes,
    load_routes,
    paper_routes,
    rules_routes,
    tick_routes,
)
from iron_bucket.web.bucket.blueprint import bp, open_bp

__all__ = [
    "best_routes",
    "bp",
    "gel_routes",
    "instead_routes",
    "kit_routes",
    "load_routes",
    "open_bp",
    "paper_routes",
    "rules_routes",
    "tick_routes",
]
