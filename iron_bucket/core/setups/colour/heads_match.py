"""How near two heads come to each other in colour at the same setting, and what would bring the second to the first."""

from collections.abc import Sequence
from dataclasses import dataclass

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.colour.gel_stacks import Gel, GelStack, GelStacks, ranked, typical_gels
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.seen import Seen, seen_against
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.quantities.mired import seen_k
from iron_bucket.core.setups.plan.setup import PlacedLamp
from iron_bucket.core.setups.scene.fixture import fixture_of

#: Where a match is asked for: tungsten, between, daylight.
SETTINGS_K = (3200.0, 4300.0, 5600.0)
#: A gel is looked for where two heads differ by more, in mired. Source: docs/craft.md, section 5.
MATCHED_MIRED = 10.0
_LOOKED_AT = 20


@dataclass(frozen=True, slots=True, kw_only=True)
class HeadsMatch:
    """Both asked for ``asked_k``, each at the nearest that it goes to: ``seen``: the second against the first.

    ``set_k``: where the second would have to be set; None of one that has no setting. ``stack``: what on the second
    brings it nearest, None where they match.
    """

    asked_k: float
    first: LightColour
    second: LightColour
    seen: Seen
    set_k: float | None
    stack: GelStack | None


def heads_match(gear: Gear, first: str, second: str, gels: Sequence[Gel] = ()) -> tuple[HeadsMatch, ...]:
    """Of two bare configurations; settings at which neither changes are told once. ``gels``: the typical ones where
    none are given. Raises: BadValue for what the bench does not hold.
    """
    stacks = GelStacks.of(tuple(gels) or typical_gels())
    found: list[HeadsMatch] = []
    for asked_k in SETTINGS_K:
        one, other = _colour(gear, first, asked_k), _colour(gear, second, asked_k)
        if found and (found[-1].first.uv == one.uv).all() and (found[-1].second.uv == other.uv).all():
            continue
        seen = seen_against(other, one)
        best = ranked(stacks, -seen.mired, seen.duv, tolerance_mired=MATCHED_MIRED, most=_LOOKED_AT)
        honest = next(each for each in best if not each.works_against_itself)
        found.append(
            HeadsMatch(
                asked_k=asked_k,
                first=one,
                second=other,
                seen=seen,
                set_k=_set_k(gear, second, asked_k, seen),
                stack=honest if honest.gels else None,
            )
        )
    return tuple(found)


def _colour(gear: Gear, configuration: str, asked_k: float) -> LightColour:
    lamp = PlacedLamp(piece_id="l", name="head", configuration=configuration, x_m=0.0, y_m=0.0, z_m=1.0, cct_k=asked_k)
    return fixture_of(lamp, gear, ScrimSchool.HALF_AND_ONE).colour(lamp)


def _set_k(gear: Gear, configuration: str, asked_k: float, seen: Seen) -> float | None:
    head = gear.head(gear.by_slug(Configuration, configuration).head_slug)
    if head.lowest_cct_k >= head.highest_cct_k:
        return None
    wanted_k = seen_k(1e6 / head.nearest_cct_k(asked_k) - seen.mired)
    return round(head.nearest_cct_k(wanted_k) / 10.0) * 10.0
