"""Bags on a stand: by the school that the crew follows, and against the wind that it is planned for."""

from dataclasses import dataclass

from iron_bucket.core.bench.bag import Bag
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.stand import Stand
from iron_bucket.core.bucket.kit_rules import BagSchool, CrewKit
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.rounding import whole_up
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.rigging.tipping import Sail

#: Source: docs/craft.md, section 7: drag of a cloth and of a net, and what the wind's moment is taken for.
CLOTH_DRAG, NET_DRAG, SAFETY_FACTOR = 1.2, 0.6, 1.5
#: Above it a stand gets a bag whatever the school.
HEAD_HEIGHT_M = 2.0
#: What the wind finds less of than this goes by the school alone.
_LEAST_SAIL_M2 = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Ballast:
    """``bags`` by the school and ``wind_bags`` beyond them, on all stands together, with the figure of each."""

    bag: Bag
    bags: int
    figure: str
    wind_bags: int = 0
    wind_figure: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """What stands on ``count`` stands of a kind: ``sail_m2`` of it the wind finds ``height_m`` up; ``arm_m``: how far
    out of the middle it is held.
    """

    stand: Stand
    count: int
    payload_kg: float
    height_m: float
    sail_m2: float = 0.0
    drag: float = CLOTH_DRAG
    arm_m: float = 0.0
    is_outdoors: bool = False


def bag_of(gear: Gear) -> Bag | None:
    """Ours before hired ones, of those the lightest."""
    able = (each for each in gear.bags if not each.is_retired)
    return min(able, key=lambda each: (not each.is_owned, each.weight_kg, each.slug), default=None)


def ballast_of(standing: Standing, crew: CrewKit, bag: Bag, units: UnitSystem = UnitSystem.METRIC) -> Ballast:
    """Source: docs/craft.md, section 7: moment of the wind, times the safety factor, less that of the weight on the
    legs; at least one bag outdoors or above head height, whatever the school.
    """
    height, is_high = display.length(standing.height_m, units), standing.height_m > HEAD_HEIGHT_M
    each, figure = 0, ""
    if crew.bag_school is BagSchool.EVERY_STAND:
        each, figure = 1, str(crew.bag_school)
    elif standing.is_outdoors or is_high:
        each, figure = 1, "outdoors" if standing.is_outdoors else f"{height} up"
    bags = each * standing.count
    if not standing.is_outdoors or standing.sail_m2 < _LEAST_SAIL_M2:
        return Ballast(bag=bag, bags=bags, figure=figure)
    sail = Sail(
        area_m2=standing.sail_m2,
        drag_coefficient=standing.drag,
        centre_height_m=max(standing.height_m, 0.1),
        total_mass_kg=standing.stand.weight_kg * standing.count + standing.payload_kg,
        tipping_arm_m=standing.stand.legs_m,
        offset_kg=standing.payload_kg,
        offset_m=standing.arm_m,
    )
    needed = whole_up(sail.ballast_kg(crew.wind_m_s, SAFETY_FACTOR) / bag.weight_kg)
    blows, area = display.wind(crew.wind_m_s, units), display.area(standing.sail_m2, units)
    weight = display.mass(sail.ballast_kg(crew.wind_m_s, SAFETY_FACTOR), units)
    return Ballast(
        bag=bag,
        bags=bags,
        figure=figure,
        wind_bags=max(needed - bags, 0),
        wind_figure=f"{area} at {height} in {blows}: {weight} missing on the legs",
    )
