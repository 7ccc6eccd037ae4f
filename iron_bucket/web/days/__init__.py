"""The station of a job's days: the order of the day over the sun's strip."""

from iron_bucket.web.days import day_routes, insurance_routes, pace_routes, paper_routes, sun_routes, weather_routes
from iron_bucket.web.days.blueprint import bp

__all__ = ["bp", "day_routes", "insurance_routes", "pace_routes", "paper_routes", "sun_routes", "weather_routes"]
