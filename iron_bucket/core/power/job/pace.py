"""How fast a crew is: by its size, and by what its earlier passes really took."""

from collections.abc import Sequence
from dataclasses import dataclass, fields

from iron_bucket.core.checks import require_between
from iron_bucket.core.typical import typical

#: The part of a pass, as it was planned and as it was.
PARTS = ("rig", "shoot", "strike")
#: Nothing is learned of a part from fewer minutes than that.
_LEAST_MIN = 30
SLOWEST, LONGEST_MIN = 4.0, 24 * 60


@dataclass(frozen=True, slots=True, kw_only=True)
class PassTaken:
    """Minutes that one pass really took, beside what the typical times said of it."""

    piece_id: str
    setup_id: int
    rig_min: int
    shoot_min: int
    strike_min: int
    rule_rig_min: int
    rule_shoot_min: int
    rule_strike_min: int

    def __post_init__(self) -> None:
        for each in fields(self):
            if each.name.endswith("_min"):
                require_between(each.name, getattr(self, each.name), low=0, high=LONGEST_MIN, unit="min")


def taken_id(setup_id: int) -> str:
    """What is said of a pass is called."""
    return f"took-{setup_id}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Pace:
    """Times of the typical minutes, part by part."""

    rig: float = 1.0
    shoot: float = 1.0
    strike: float = 1.0

    def __post_init__(self) -> None:
        for name in PARTS:
            require_between(name, getattr(self, name), low=1.0 / SLOWEST, high=SLOWEST, unit="times the rule")


def crew_share(crew: int) -> float:
    """Minutes of rig and strike for so many people, over those of the crew that the rule is for; two work not twice as
    fast as one. Typical.
    """
    table = typical("power")
    return float((table["crew"] / crew) ** table["crew_exponent"])


def learned_pace(taken: Sequence[PassTaken]) -> Pace | None:
    """All minutes that passes took over all that the rule gave them; of a part that was hardly timed as the rule has
    it. None where nothing was timed.
    """
    found = {}
    for name in PARTS:
        ruled = sum(getattr(each, f"rule_{name}_min") for each in taken)
        if ruled >= _LEAST_MIN:
            took = sum(getattr(each, f"{name}_min") for each in taken)
            found[name] = round(min(max(took / ruled, 1.0 / SLOWEST), SLOWEST), 2)
    return Pace(**found) if found else None
