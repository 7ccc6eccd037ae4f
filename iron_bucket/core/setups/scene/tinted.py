"""What gels do that a set-up puts on windows and round lamps of the house."""

import math
from collections.abc import Sequence

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.tint import duv_from_tint
from iron_bucket.core.colour.tinting import Tinting
from iron_bucket.core.figure import Origin
from iron_bucket.core.modifiers.gelled import gelled
from iron_bucket.core.modifiers.kinds import ScrimSchool, Sheet
from iron_bucket.core.setups.plan.setup import HouseColour, Setup


def behind_sheets(slugs: Sequence[str], gear: Gear, stops: float = 0.0) -> Tinting:
    """Gels behind each other, with so many stops of ND. Raises: BadValue for one that is not on the bench."""
    sheets = [gear.by_slug(Sheet, slug) for slug in slugs]
    passes = [each.passes(ScrimSchool.HALF_AND_ONE).value for each in sheets]
    return Tinting(
        stops=stops - sum(math.log2(share) for share in passes),
        shift_mired=sum(each.shift_mired for each in sheets),
        duv=float(duv_from_tint(sum(each.tint for each in sheets))),
    )


def films_of(setup: Setup, gear: Gear) -> dict[str, Tinting]:
    """On each window, by its id."""
    return {each.opening_id: behind_sheets(each.sheets, gear, each.stops) for each in setup.films}


def house_light(own: LightColour, change: HouseColour | None, gear: Gear) -> tuple[LightColour, float]:
    """The colour of a lamp of the house as it is changed, and the share of its light that is left."""
    if change is None:
        return own, 1.0
    globe = LightColour.of_cct(change.globe_k, change.globe_duv, Origin.CLAIMED) if change.globe_k else own
    round_it = [gear.by_slug(Sheet, slug) for slug in change.sheets]
    return gelled(globe, round_it), 2.0 ** -behind_sheets(change.sheets, gear).stops
