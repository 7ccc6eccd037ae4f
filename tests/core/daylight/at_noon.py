"""The sun at one noon, for the table of bounds."""

from datetime import UTC, datetime

from iron_bucket.core.daylight.sun import sun_position


def altitude_at(latitude_deg: float = 50.0, longitude_deg: float = 0.0) -> float:
    noon = datetime(2026, 6, 21, 12, 0, tzinfo=UTC)
    return sun_position(noon, latitude_deg=latitude_deg, longitude_deg=longitude_deg).altitude_deg
