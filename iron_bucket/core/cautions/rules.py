"""The rules that apply to one lamp with what hangs on it. None is shown without the figure that triggered it."""

from collections.abc import Iterable
from dataclasses import dataclass

from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.head import Head, Technology
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import Board, Cloth, Face, Frame, Sheet, SheetKind
from iron_bucket.core.modifiers.lobe import MIRROR_DEG
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.rigging.tipping import Sail

#: docs/craft.md, section 4: a face squints from some 10 000 lx on.
GLARE_LX = 10_000.0
#: docs/craft.md, section 8: what may fly as carried, and what needs the airline's word.
FREE_IN_THE_AIR_WH, NEVER_IN_THE_AIR_WH = 100.0, 160.0
#: Typical: the stand, one 10 kg bag, and the legs of a tripod-type stand. The cloth's drag is docs/craft.md's 1.2.
BAG_KG, STAND_AND_BAG_KG, LEG_RADIUS_M, CLOTH_DRAG = 10.0, 20.0, 0.45, 1.2
SAIL_FROM_M2 = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Caution:
    """``trigger`` holds the figure; ``action`` what to do about it."""

    code: str
    title: str
    trigger: str
    action: str


def lamp_cautions(
    head: Head, parts: tuple[object, ...], *, subject_lx: float | None = None, units: UnitSystem = UnitSystem.METRIC
) -> tuple[Caution, ...]:
    """What to mind with one head and the things on and in front of it."""
    found = [
        *_head_cautions(head),
        *_sheet_cautions(head, parts),
        *sail_cautions(parts, units),
        *_battery_fed_cautions(head, parts),
    ]
    if any(isinstance(part, Board) and part.lobe_deg < MIRROR_DEG for part in parts):
        found.append(
            Caution(
                code="mirror",
                title="Mirror",
                trigger=f"{head.draw.full_w.value:.0f} W onto a hard mirror",
                action="Keep the reflection off eyes and cloth; cover it when unattended.",
            )
        )
    if subject_lx is not None and subject_lx >= GLARE_LX:
        found.append(
            Caution(
                code="glare",
                title="Bright for the person lit",
                trigger=f"{subject_lx:,.0f} lx at the face, from {GLARE_LX:,.0f} people squint",
                action="Larger, farther or more from the side; ask how they feel.",
            )
        )
    return tuple(found)


def _head_cautions(head: Head) -> list[Caution]:
    watts = head.draw.full_w.value
    found = []
    if head.is_hot:
        found.append(
            Caution(
                code="hot",
                title="Hot lamp",
                trigger=f"{head.technology.value}, {watts:.0f} W",
                action=(
                    "Gloves; switch off to move it; let it cool before opening or packing; mesh or lens stays on; never"
                    " touch the glass."
                ),
            )
        )
    if head.technology is Technology.HMI:
        found.append(
            Caution(
                code="hmi",
                title="Discharge lamp",
                trigger=f"{watts:.0f} W HMI, {head.warm_up_min:g} min to warm up",
                action=(
                    "Intact lens and safety switch against UV; earth it; one strike at a time, called; a hot lamp may"
                    " not restrike."
                ),
            )
        )
    return found


def _battery_fed_cautions(head: Head, parts: tuple[object, ...]) -> list[Caution]:
    kinds = [part for part in parts if isinstance(part, BatteryKind)]
    return [
        Caution(
            code="comes-back",
            title="May come back on by itself",
            trigger=f"{head.draw.full_w.value:.0f} W head on {kind.capacity_wh:.0f} Wh batteries",
            action="Switch off at the head before a battery goes on; call it; see it latched.",
        )
        for kind in kinds
    ]


def _sheet_cautions(head: Head, parts: tuple[object, ...]) -> list[Caution]:
    sheets = [part for part in parts if isinstance(part, Sheet) and part.kind not in (SheetKind.SCRIM, SheetKind.NET)]
    cloth = [part for part in parts if isinstance(part, (Cloth, Face))]
    if not head.is_hot or not (sheets or cloth):
        return []
    names = ", ".join(part.name for part in (*sheets, *cloth))
    unrated = ", ".join(part.name for part in sheets if not part.is_heat_rated)
    return [
        Caution(
            code="heat",
            title="Cloth and gel on a hot lamp",
            trigger=f"{names} before {head.draw.full_w.value:.0f} W",
            action=f"{f'Nobody says that {unrated} is heat-rated: find out first. ' if unrated else ''}"
            "Heat-rated only, away from the lens, doors wide open; nothing improvised from paper or foil.",
        )
    ]


def sail_of(part: Frame | Board) -> Sail:
    """On a stand with one bag. Typical."""
    return Sail(
        area_m2=part.width_m * part.height_m,
        drag_coefficient=CLOTH_DRAG,
        centre_height_m=max(1.5, part.height_m / 2 + 0.3),
        total_mass_kg=STAND_AND_BAG_KG + part.weight_kg,
        tipping_arm_m=LEG_RADIUS_M,
    )


def sail_cautions(parts: Iterable[object], units: UnitSystem) -> list[Caution]:
    """Frames and boards that the wind takes."""
    found = []
    for part in parts:
        if isinstance(part, (Frame, Board)) and part.width_m * part.height_m >= SAIL_FROM_M2:
            sail = sail_of(part)
            size, bag = display.area(sail.area_m2, units), display.mass(BAG_KG, units)
            blows = display.wind(sail.critical_wind_m_s, units)
            found.append(
                Caution(
                    code="sail",
                    title="Sail",
                    trigger=f"{size} tips a stand with one bag of {bag} at {blows}",
                    action=(
                        "Outdoors: bags, lines, somebody on the corners; down well before that wind. Bag it indoors"
                        " too."
                    ),
                )
            )
    return found


def battery_cautions(kind: BatteryKind, count: int) -> tuple[Caution, ...]:
    """What to mind with batteries of one kind."""
    if kind.capacity_wh <= FREE_IN_THE_AIR_WH:
        return ()
    limit = NEVER_IN_THE_AIR_WH if kind.capacity_wh > NEVER_IN_THE_AIR_WH else FREE_IN_THE_AIR_WH
    action = (
        "Not as luggage: send it by road, or as declared freight."
        if limit == NEVER_IN_THE_AIR_WH
        else "By air only with the carrier's word."
    )
    return (
        Caution(
            code="air",
            title="Battery in the air",
            trigger=f"{count} × {kind.capacity_wh:.0f} Wh, above {limit:.0f} Wh each",
            action=action + " Charge attended; latch it; no damaged cells.",
        ),
    )


def not_counted(left_out: tuple[str, ...]) -> tuple[Caution, ...]:
    """What is placed but cannot be counted, because the bench does not hold it any more."""
    if not left_out:
        return ()
    return (
        Caution(
            code="not-counted",
            title=f"{len(left_out)} {'thing is' if len(left_out) == 1 else 'things are'} not counted",
            trigger="; ".join(left_out),
            action="Restore it on the bench, or choose another in the set-up: weights, amps and prices leave it out.",
        ),
    )


def circuit_cautions(amps: float, rules: HouseRules) -> tuple[Caution, ...]:
    """What to mind when everything on mains burns on one circuit."""
    if amps <= rules.planned_a:
        return ()
    return (
        Caution(
            code="circuit",
            title="More than one circuit",
            trigger=f"{amps:.1f} A in all, {rules.planned_a:.1f} A planned on a {rules.breaker_a:.0f} A breaker",
            action=(
                "Spread it over several circuits, found and traced beforehand; tie-ins and distribution by a licensed"
                " person; uncoil cables."
            ),
        ),
    )
