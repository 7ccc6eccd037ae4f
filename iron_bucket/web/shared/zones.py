"""Time zones by the city that people know them by."""

from functools import cache
from zoneinfo import available_timezones

from iron_bucket.core.errors import BadValue

#: Groups that name no city.
_NO_CITY = ("Etc", "SystemV", "US", "posix", "right", "Brazil", "Canada", "Chile", "Mexico")


@cache
def cities() -> tuple[tuple[str, str], ...]:
    """Zone and city of each, by city."""
    zones = (zone.split("/") for zone in available_timezones() if "/" in zone)
    named = [("/".join(parts), parts[-1].replace("_", " ")) for parts in zones if parts[0] not in _NO_CITY]
    return tuple(sorted(named, key=lambda pair: (pair[1], pair[0])))


def zone_of(text: str, label: str) -> str:
    """A zone as it is named, or by its city. Raises: BadValue for what is neither, or several cities."""
    if text in available_timezones():
        return text
    found = [zone for zone, city in cities() if city.casefold() == text.casefold()]
    if len(found) != 1:
        raise BadValue(label, repr(text), " or ".join(found) or "a large city of the same clock, or UTC")
    return found[0]
