"""What this process keeps of set-ups: as read, evaluated, in pieces; rows of lights; scenes to drag away from."""

from collections.abc import Callable, Hashable
from typing import Any

import orjson

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bucket.pass_kit import PassKit, pass_kit
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.scene.mark_levels import BandedResponse
from iron_bucket.core.scene.standing import Standing
from iron_bucket.core.setups.evaluate import responses
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.scene.build_scene import BuiltScene, build_scene
from iron_bucket.desk.bounded_cache import BoundedCache
from iron_bucket.formats.record_json import read_record

#: One light's row is some kilobytes; this many are a few dozen megabytes.
_ROWS: BoundedCache[Hashable, BandedResponse] = BoundedCache(6000)
_SCENES: BoundedCache[Hashable, BuiltScene] = BoundedCache(64)
#: Matrices of up to some megabytes.
_STANDING: BoundedCache[Hashable, Standing] = BoundedCache(24)
#: A page of a job asks for all its set-ups, of which one has changed.
_SETUPS: BoundedCache[bytes, Setup] = BoundedCache(1000)
_KITS: BoundedCache[Hashable, PassKit] = BoundedCache(1000)
_EVALUATED: BoundedCache[Hashable, Evaluation] = BoundedCache(400)


def kept_setup(document: dict[str, Any]) -> Setup:
    """A set-up as it was stored. Raises: BadValue where that cannot be read."""
    return _SETUPS.get_or_make(orjson.dumps(document), lambda: read_record(Setup, document))


def kept_kit(document: dict[str, Any], surroundings: Surroundings | None, gear: Gear, rules: HouseRules) -> PassKit:
    """What has to be brought for it. Raises: BadValue where it cannot be read."""
    key = (orjson.dumps(document), surroundings, gear, rules)
    return _KITS.get_or_make(key, lambda: pass_kit(kept_setup(document), gear, rules, surroundings))


def kept_evaluation(document: dict[str, Any], surroundings: Surroundings, gear: Gear, rules: HouseRules) -> Evaluation:
    """A set-up in its place. Raises: BadValue where it cannot be read, or for gear that is not on the bench."""

    def make() -> Evaluation:
        built = build_scene(kept_setup(document), surroundings, gear, rules)
        return Evaluation(lit=LitScene(built=built, banded=kept_response(built)), gear=gear, rules=rules)

    return _EVALUATED.get_or_make((orjson.dumps(document), surroundings, gear, rules), make)


def keep_built(document: dict[str, Any], built: BuiltScene, gear: Gear, rules: HouseRules) -> None:
    """What was just built of a set-up that was just written down: it need not be read and built again."""
    text = orjson.dumps(document)
    _SETUPS.put(text, built.setup)
    evaluation = Evaluation(lit=LitScene(built=built, banded=kept_response(built)), gear=gear, rules=rules)
    _EVALUATED.put((text, built.surroundings, gear, rules), evaluation)
    _KITS.put((text, built.surroundings, gear, rules), evaluation.kit)


def kept_scene(key: Hashable, make: Callable[[], BuiltScene]) -> BuiltScene:
    """A state that is asked for again and again while something is dragged away from it."""
    return _SCENES.get_or_make(key, make)


def kept_response(built: BuiltScene) -> BandedResponse:
    """Every light's row, those at hand from before."""
    return responses.response_for(built, _ROWS, _STANDING)


def kept_standing(built: BuiltScene) -> Standing:
    """What stands about in it."""
    return responses.standing_for(built, _STANDING)


def kept_passing_response(built: BuiltScene, before: BuiltScene) -> BandedResponse:
    """The same for a piece on the move."""
    return responses.passing_response_for(built, before, _ROWS, _STANDING)
