"""All settings, read once from IRON_BUCKET_* when the application is made."""

import re
from collections.abc import Mapping
from dataclasses import dataclass

from iron_bucket.core.errors import BadValue

PREFIX = "IRON_BUCKET_"
SHORTEST_SECRET = 32


@dataclass(frozen=True, slots=True, kw_only=True)
class Settings:
    """``is_demo`` offers the demo's sign-in;

    ``sign_in_limit`` is how often one address may try; ``hire_desk_url`` and ``weather_url`` may be empty.
    """

    database_url: str
    secret_key: str
    is_demo: bool = False
    is_https: bool = False
    sign_in_limit: str = "10 per minute"
    hire_desk_url: str = ""
    weather_url: str = ""

    def __post_init__(self) -> None:
        if len(self.secret_key) < SHORTEST_SECRET:
            raise BadValue(
                "IRON_BUCKET_SECRET_KEY", f"{len(self.secret_key)} letters long", f"{SHORTEST_SECRET} letters or more"
            )
        if not re.fullmatch(r"\d+ per (second|minute|hour)", self.sign_in_limit):
            raise BadValue("IRON_BUCKET_SIGN_IN_LIMIT", repr(self.sign_in_limit), "such as 10 per minute")
        for name, url in (("HIRE_DESK_URL", self.hire_desk_url), ("WEATHER_URL", self.weather_url)):
            if url and not re.fullmatch(r"https?://[\w.\-\[\]:]+/?", url):
                raise BadValue(PREFIX + name, repr(url), "such as http://127.0.0.1:8010")


def _yes(key: str, value: str) -> bool:
    if value not in ("yes", "no"):
        raise BadValue(PREFIX + key, repr(value), "yes or no")
    return value == "yes"


def settings_from(environment: Mapping[str, str]) -> Settings:
    """Settings from the environment. Raises: BadValue for a key that is missing, unknown or malformed."""
    given = {key.removeprefix(PREFIX): value for key, value in environment.items() if key.startswith(PREFIX)}
    known = ("DATABASE_URL", "SECRET_KEY", "DEMO", "HTTPS", "SIGN_IN_LIMIT", "HIRE_DESK_URL", "WEATHER_URL")
    for key in given:
        if key not in known:
            raise BadValue(PREFIX + key, "not a setting", ", ".join(PREFIX + each for each in known))
    for key in ("DATABASE_URL", "SECRET_KEY"):
        if not given.get(key):
            raise BadValue(PREFIX + key, "missing", "a value in the environment")
    return Settings(
        database_url=given["DATABASE_URL"],
        secret_key=given["SECRET_KEY"],
        is_demo=_yes("DEMO", given.get("DEMO", "no")),
        is_https=_yes("HTTPS", given.get("HTTPS", "no")),
        sign_in_limit=given.get("SIGN_IN_LIMIT", "10 per minute"),
        hire_desk_url=given.get("HIRE_DESK_URL", ""),
        weather_url=given.get("WEATHER_URL", ""),
    )
