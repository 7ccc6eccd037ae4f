"""What this process keeps of set-ups: rows of lights, and scenes that something is dragged away from."""

from collections.abc import Callable, Hashable

from iron_bucket.core.scene.mark_levels import UnitResponse
from iron_bucket.core.setups.evaluate import responses
from iron_bucket.core.setups.scene.build_scene import BuiltScene
from iron_bucket.desk.bounded_cache import BoundedCache

#: One light's row is some kilobytes; this many are a few dozen megabytes.
_ROWS: BoundedCache[Hashable, UnitResponse] = BoundedCache(6000)
_SCENES: BoundedCache[Hashable, BuiltScene] = BoundedCache(64)


def kept_scene(key: Hashable, make: Callable[[], BuiltScene]) -> BuiltScene:
    """A state that is asked for again and again while something is dragged away from it."""
    return _SCENES.get_or_make(key, make)


def kept_response(built: BuiltScene) -> UnitResponse:
    """Every light's row, those at hand from before."""
    return responses.response_for(built, _ROWS)


def kept_passing_response(built: BuiltScene, before: BuiltScene) -> UnitResponse:
    """The same for a piece on the move."""
    return responses.passing_response_for(built, before, _ROWS)
