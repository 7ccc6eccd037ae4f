"""Set-ups: where each lamp stands, and what it does at each mark."""

from iron_bucket.web.setups import colour_routes, edit_routes, light_routes, look_routes, new_light_routes, sheet_routes
from iron_bucket.web.setups.blueprint import bp

__all__ = ["bp", "colour_routes", "edit_routes", "light_routes", "look_routes", "new_light_routes", "sheet_routes"]
