"""What the form of each kind of gear asks, in groups; and typed text as the flat row of that kind. Units turn here."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from iron_bucket.core.bench.configuration import FaceShape
from iron_bucket.core.bench.dimming import DimmingCurve
from iron_bucket.core.bench.flag import FlagKind
from iron_bucket.core.bench.head import Technology
from iron_bucket.core.bench.unit import Condition
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin
from iron_bucket.core.modifiers.kinds import FaceForm, SheetKind
from iron_bucket.core.power.load import DrawCurve
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.web.shared.typed_fields import Takes, TypedField, field, read, say


@dataclass(frozen=True, slots=True, kw_only=True)
class FieldGroup:
    """Fields that are asked for together."""

    title: str
    fields: tuple[TypedField, ...]


def _origin(key: str) -> TypedField:
    return field(
        f"{key}_origin",
        "that figure is",
        Takes.CHOICE,
        choices=tuple(each.value for each in Origin),
        usual=Origin.CLAIMED.value,
    )


_WHAT = (
    field("name", "Name", Takes.TEXT, is_needed=True),
    field("maker", "Maker", Takes.TEXT),
    field("weight_kg", "Weight", Takes.MASS, is_needed=True),
)
_HIRE = FieldGroup(
    title="Ours, hired, noted",
    fields=(
        field("owned", "How many we own", usual="0"),
        field("day_price", "Hire per day"),
        field("tags", "Tags", Takes.TEXT, hint="words, separated by ;"),
        field("note", "Note", Takes.TEXT),
    ),
)
_TRAVEL = FieldGroup(
    title="Hire terms, value, size as it travels",
    fields=(
        field("week_price", "Hire per week"),
        field("hire_stock", "The house has"),
        field("lead_days", "Notice", unit="days", usual="0"),
        field("least_days", "Charged for at least", unit="days", usual="1"),
        field("value", "Value of one, to insure", usual="0"),
        field("made_in", "Made in", Takes.TEXT),
        field("packed_l_m", "Length packed", Takes.LENGTH, usual="0"),
        field("packed_w_m", "Width packed", Takes.LENGTH, usual="0"),
        field("packed_h_m", "Height packed", Takes.LENGTH, usual="0"),
    ),
)
_SIZE = (
    field("width_m", "Width", Takes.LENGTH, is_needed=True),
    field("height_m", "Height", Takes.LENGTH, is_needed=True),
)
_SHIFT = field("shift_mired", "Colour shift", unit="mired", usual="0")


def _choices(kind: type[StrEnum]) -> tuple[str, ...]:
    return tuple(each.value for each in kind)


#: How each is hired, insured and carried.
_OURS = (_HIRE, _TRAVEL)
PIECE_FORMS: dict[str, tuple[FieldGroup, ...]] = {
    "heads": (
        FieldGroup(
            title="What it is",
            fields=(*_WHAT, field("technology", "Technology", Takes.CHOICE, choices=_choices(Technology))),
        ),
        FieldGroup(
            title="Light",
            fields=(
                field("lumens", "Lumens of the bare head", unit="lm", is_needed=True),
                _origin("lumens"),
                field("lowest_cct_k", "Warmest colour", unit="K", usual="5600", is_needed=True),
                field("highest_cct_k", "Coolest colour", unit="K", usual="5600", is_needed=True),
                field("tint", "Its own tint", unit="full plus greens", usual="0"),
                field(
                    "drift_mired",
                    "Drift by age",
                    unit="mired",
                    usual="0",
                    hint="above 0 warmer, such as an old HMI globe",
                ),
                field("lowest_tint", "Tint control, towards magenta", unit="full gels, 0 or below", usual="0"),
                field("highest_tint", "Tint control, towards green", unit="full gels", usual="0"),
                field("lowest_level", "Lowest steady level", Takes.PERCENT, usual="1"),
                field(
                    "dimming",
                    "Dimming curve",
                    Takes.CHOICE,
                    choices=_choices(DimmingCurve),
                    usual=DimmingCurve.LINEAR.value,
                ),
                field(
                    "dimming_points", "Measured curve", Takes.TEXT, hint="setting:output, such as 0.1:0.02;0.5:0.4;1:1"
                ),
                field("effects", "Effects it plays", Takes.TEXT, hint="words, separated by ;"),
                field("globe", "Globe", Takes.TEXT),
                field("globe_life_h", "Globe life", unit="h", usual="0"),
            ),
        ),
        FieldGroup(
            title="Power",
            fields=(
                field("full_w", "Watts at full", unit="W", is_needed=True),
                _origin("full_w"),
                field("nameplate_w", "Watts on the box", unit="W"),
                field("idle_w", "Watts idle", unit="W", usual="0"),
                field("power_factor", "Power factor", usual="1"),
                field(
                    "curve",
                    "Watts follow the level",
                    Takes.CHOICE,
                    choices=_choices(DrawCurve),
                    usual=DrawCurve.ELECTRONIC.value,
                ),
                field("inrush_a", "Inrush", unit="A", usual="0"),
                field("mains_low_v", "Mains from", unit="V", usual="100"),
                field("mains_high_v", "Mains to", unit="V", usual="240"),
                field(
                    "battery_plates",
                    "Batteries",
                    Takes.TEXT,
                    hint="mount:plates:share of full output, such as v-lock:2:0.6",
                ),
                field("charge_w", "Charges batteries with", unit="W", usual="0"),
                field(
                    "modes",
                    "Other modes",
                    Takes.TEXT,
                    hint="name:share of output:watts:measured watts or nothing:dB(A), such as silent:0.6:220::22",
                ),
                field("warm_up_min", "Warm-up", unit="min", usual="0"),
                field("restrike_min", "Restrike", unit="min", usual="0"),
                field("fan_db", "Fan", unit="dB(A)", usual="0"),
                field("is_hot", "Hot lamp", Takes.YES),
            ),
        ),
        FieldGroup(
            title="Fitting and carrying",
            fields=(
                field("fitting", "Accessory fitting", Takes.TEXT, hint="such as S-type"),
                field("scrim_ring_mm", "Scrim ring", unit="mm", usual="0"),
                field("takes_gel", "Takes gel", Takes.YES, usual="yes"),
                field("spigot_mm", "Spigot", unit="mm", usual="16"),
                field("driver_kg", "Driver or ballast", Takes.MASS, usual="0"),
                field("cable_kg", "Head cable", Takes.MASS, usual="0"),
                field("weather", "Weather rating", Takes.TEXT, hint="such as IP65"),
                field("control", "Control", Takes.TEXT, hint="such as wired;wireless"),
                field("channels", "Channels", usual="0"),
            ),
        ),
        *_OURS,
    ),
    "configurations": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                field("optic", "Lens, where it focuses", Takes.TEXT),
                field("focus", "Focus, 0 spot to 1 flood"),
            ),
        ),
        FieldGroup(
            title="Light",
            fields=(
                field("kind", "Its beam is", Takes.CHOICE, choices=("beam_field", "cosine_power")),
                field("peak_cd", "Peak", unit="cd", is_needed=True),
                field("beam_deg", "Beam at half", unit="degrees"),
                field("field_deg", "Field at a tenth", unit="degrees"),
                field("exponent", "Power of the cosine", hint="1 for a bare white face"),
                field("lumens", "Lumens through it", unit="lm", is_needed=True),
                field(
                    "origin", "Those figures are", Takes.CHOICE, choices=_choices(Origin), usual=Origin.CLAIMED.value
                ),
                field("offset_m", "Virtual source behind the housing", unit="m", usual="0"),
                field("shape", "Glowing face", Takes.CHOICE, choices=_choices(FaceShape)),
                *_SIZE,
                field("is_lambertian", "Glows evenly, like a white face", Takes.YES),
                field("takes_box", "Leaves the fitting free", Takes.YES),
            ),
        ),
        *_OURS,
    ),
    "optics": (
        FieldGroup(title="What it is", fields=(*_WHAT, field("fitting", "Fitting", Takes.TEXT, is_needed=True))),
        *_OURS,
    ),
    "sheets": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                field("kind", "Kind", Takes.CHOICE, choices=_choices(SheetKind)),
                field("transmittance", "Passes", Takes.PERCENT, hint="empty for a scrim or net by the house school"),
                _origin("transmittance"),
                _SHIFT,
                field("tint", "Tint", unit="full plus greens", usual="0"),
                field("layers", "Single 1, double 2", hint="for scrims and nets", usual="0"),
                field("ring_mm", "Ring", unit="mm", usual="0"),
                field("straight_share", "Passes straight through", Takes.PERCENT, hint="diffusion; empty: typical"),
                field("lobe_deg", "Scatters the rest by ±", unit="°", hint="half width; 60 and more is matt"),
                field("stock_w_m", "Cut from stock so wide", Takes.LENGTH, usual="0"),
                field("stock_l_m", "and so long", Takes.LENGTH, usual="0"),
                field("is_heat_rated", "Is rated for heat", Takes.YES),
                field("offcuts", "Offcuts of ours", Takes.TEXT, hint="metres, such as 0.6x0.3 good;0.4x0.4 creased"),
            ),
        ),
        *_OURS,
    ),
    "faces": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                field("fitting", "Fitting", Takes.TEXT, is_needed=True),
                field("form", "Form", Takes.CHOICE, choices=_choices(FaceForm)),
                *_SIZE,
                field("efficiency", "Passes of the flux", Takes.PERCENT, is_needed=True),
                _origin("efficiency"),
                _SHIFT,
                field("hottest_w", "Takes a hot lamp up to", unit="W", usual="0"),
            ),
        ),
        *_OURS,
    ),
    "grids": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                field("fitting", "Fitting", Takes.TEXT),
                field("face_slug", "Or for the box", Takes.TEXT, hint="its slug"),
                field("cutoff_deg", "Nothing beyond", unit="degrees, full angle", is_needed=True),
                field("on_axis", "Passes on the axis", Takes.PERCENT, is_needed=True),
                _origin("on_axis"),
            ),
        ),
        *_OURS,
    ),
    "frames": (
        FieldGroup(
            title="What it is",
            fields=(*_WHAT, *_SIZE, field("tube_m", "Put together from tubes of", Takes.LENGTH, usual="0")),
        ),
        *_OURS,
    ),
    "cloths": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                field("transmittance", "Passes", Takes.PERCENT, is_needed=True),
                _origin("transmittance"),
                field("straight_share", "Of that, straight on", Takes.PERCENT, usual="0"),
                field("lobe_deg", "Scatters into a half width of", unit="degrees, 90 evenly", usual="90"),
                _SHIFT,
                field("widest_m", "Sold up to", Takes.LENGTH, usual="6"),
                field("sizes", "Ours by size", Takes.TEXT, hint="metres, such as 1.2x1.2=2;1.8x1.8=1"),
            ),
        ),
        *_OURS,
    ),
    "boards": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                *_SIZE,
                field("reflectance", "Returns", Takes.PERCENT, is_needed=True),
                _origin("reflectance"),
                field("lobe_deg", "Into a half width of", unit="degrees, 90 matt", usual="90"),
                _SHIFT,
            ),
        ),
        *_OURS,
    ),
    "batteries": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                field("mount", "Mount", Takes.TEXT, is_needed=True),
                field("capacity_wh", "Capacity", unit="Wh", is_needed=True),
                field("nominal_v", "Voltage", unit="V", is_needed=True),
                field("most_a", "Delivers up to", unit="A", is_needed=True),
                field("usable", "Usable", Takes.PERCENT, usual="90"),
                field("efficiency", "Efficiency", Takes.PERCENT, usual="95"),
                field("peak_a", "For a moment up to", unit="A", usual="0"),
            ),
        ),
        FieldGroup(
            title="Of a power station",
            fields=(
                field("recharge_w", "Recharges with", unit="W", usual="0"),
                field("passes_through", "Feeds lamps meanwhile", Takes.YES),
                field("ac_outlets", "AC outlets", usual="0"),
                field("dc_outlets", "DC outlets", usual="0"),
            ),
        ),
        *_OURS,
    ),
    "stands": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                field("payload_kg", "Carries", Takes.MASS, is_needed=True),
                field("lowest_m", "Lowest", Takes.LENGTH, is_needed=True),
                field("highest_m", "Highest", Takes.LENGTH, is_needed=True),
                field("spigot_mm", "Spigot", unit="mm", usual="16", is_needed=True),
                field("legs_m", "Legs reach from the middle", Takes.LENGTH, usual="0.5"),
            ),
        ),
        *_OURS,
    ),
    "bags": (FieldGroup(title="What it is", fields=_WHAT), *_OURS),
    "cables": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                field("length_m", "Length", Takes.LENGTH, is_needed=True),
                field("area_mm2", "Copper", unit="mm²", is_needed=True, usual="1.5"),
                field("plug", "Plug", Takes.TEXT, usual="house", is_needed=True),
                field("outlet", "Outlet", Takes.TEXT, usual="house", is_needed=True),
                field("outlets", "How many outlets", usual="1", is_needed=True),
            ),
        ),
        *_OURS,
    ),
    "flags": (
        FieldGroup(
            title="What it is", fields=(*_WHAT, field("kind", "Kind", Takes.CHOICE, choices=_choices(FlagKind)), *_SIZE)
        ),
        *_OURS,
    ),
    "accessories": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                field("role", "Does the work of", Takes.TEXT, is_needed=True, hint="as rules of the kit name it"),
                field("fits", "Goes with", Takes.TEXT, hint="a globe, a battery mount"),
                field("length_m", "Length", Takes.LENGTH, usual="0"),
                field("holds_kg", "Holds", Takes.MASS, usual="0"),
                field("rated_w", "Rated for", usual="0", hint="a dimmer"),
                field("pack", "Pieces in a pack", usual="1"),
                field("is_used_up", "Is used up", Takes.YES),
            ),
        ),
        *_OURS,
    ),
    "cases": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                field("inner_l_m", "Inner length", Takes.LENGTH, is_needed=True),
                field("inner_w_m", "Inner width", Takes.LENGTH, is_needed=True),
                field("inner_h_m", "Inner height", Takes.LENGTH, is_needed=True),
                field("wall_m", "Walls", Takes.LENGTH, usual="0.015"),
                field("most_kg", "Bears", Takes.MASS, is_needed=True),
                field("lives", "What lives in it", Takes.TEXT, hint="slugs or lists of the bench, separated by ;"),
                field("is_cart", "Is a cart", Takes.YES),
            ),
        ),
        *_OURS,
    ),
    "vehicles": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                field("payload_kg", "Payload", Takes.MASS, is_needed=True),
                field("inner_l_m", "Length of the hold", Takes.LENGTH, is_needed=True),
                field("inner_w_m", "Width of the hold", Takes.LENGTH, is_needed=True),
                field("inner_h_m", "Height of the hold", Takes.LENGTH, is_needed=True),
                field("load_height_m", "Its floor is so high", Takes.LENGTH, usual="0.6"),
            ),
        ),
        *_OURS,
    ),
    "units": (
        FieldGroup(
            title="This unit",
            fields=(
                field("name", "Name", Takes.TEXT, is_needed=True),
                field("serial", "Serial", Takes.TEXT),
                field("owner", "Owner", Takes.TEXT, hint="empty or ours: our own"),
                field("condition", "Condition", Takes.CHOICE, choices=_choices(Condition), usual=Condition.GOOD.value),
                field("where", "Where it is now", Takes.TEXT),
                field("value", "Value, to insure", usual="0"),
                field("globe_h", "Hours on the globe", unit="h", usual="0"),
                field("faults", "Faults", Takes.TEXT, hint="separated by ;"),
                field("tags", "Tags", Takes.TEXT, hint="words, separated by ;"),
                field("note", "Note", Takes.TEXT),
            ),
        ),
    ),
}


#: A beam that came from a file is a table; the form leaves it alone.
_OF_A_FORMULA = ("kind", "peak_cd", "beam_deg", "field_deg", "exponent", "lumens")


def groups_of(kind: str, row: Mapping[str, object] | None = None) -> tuple[FieldGroup, ...]:
    """The groups of one kind's form. Raises: BadValue for a kind that has no form."""
    if kind not in PIECE_FORMS:
        raise BadValue("kind", repr(kind), "one of " + ", ".join(PIECE_FORMS))
    if not row or row.get("kind") != "tabulated":
        return PIECE_FORMS[kind]
    return tuple(
        FieldGroup(title=group.title, fields=tuple(each for each in group.fields if each.key not in _OF_A_FORMULA))
        for group in PIECE_FORMS[kind]
    )


def fields_of(kind: str, row: Mapping[str, object] | None = None) -> tuple[TypedField, ...]:
    """All fields of one kind, in order. Raises: BadValue for a kind that has no form."""
    return tuple(each for group in groups_of(kind, row) for each in group.fields)


def starting_text(kind: str) -> dict[str, str]:
    """What an empty form says."""
    return {each.key: each.usual or (each.choices[0][0] if each.choices else "") for each in fields_of(kind)}


def typed_of(kind: str, row: Mapping[str, object], units: UnitSystem) -> dict[str, str]:
    """What a form says of a stored row."""
    return {each.key: _said(each, row.get(each.key), units) for each in fields_of(kind, row)}


def _said(each: TypedField, value: object, units: UnitSystem) -> str:
    if each.takes is Takes.YES:
        return "yes" if value or (value is None and each.usual == "yes") else ""
    return "" if value in (None, "") else str(say(each, value, units))


def row_from(kind: str, form: Mapping[str, str], before: Mapping[str, object], units: UnitSystem) -> dict[str, Any]:
    """The row that a form states. What the form does not ask (a table of candela, say) stays as it was; a each left
    as it was keeps
    its figure to the last digit. Raises: BadValue.
    """
    row: dict[str, Any] = dict(before)
    shown = typed_of(kind, before, units) if before else {}
    for each in fields_of(kind, before):
        text = form.get(each.key, "").strip()
        if each.takes is Takes.YES:
            row[each.key] = bool(text)
        elif not text:
            if each.is_needed:
                raise BadValue(each.label, "empty", f"{each.hint or 'a value'}")
            row.pop(each.key, None)
        elif text != shown.get(each.key):
            row[each.key] = read(each, text, units)
    return row
