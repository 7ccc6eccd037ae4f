"""The station of a job's power: load board, burn strips, leads, generators, and what the job brings."""

from iron_bucket.web.power import board_routes, cable_routes, day_routes, generator_routes, kit_routes
from iron_bucket.web.power.blueprint import bp

__all__ = ["board_routes", "bp", "cable_routes", "day_routes", "generator_routes", "kit_routes"]
