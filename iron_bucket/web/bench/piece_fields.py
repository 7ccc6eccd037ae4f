"""What the form of each kind of gear asks, in groups; and typed text as the flat row of that kind. Units turn here."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from iron_bucket.core.bench.configuration import FaceShape
from iron_bucket.core.bench.dimming import DimmingCurve
from iron_bucket.core.bench.head import Technology
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin
from iron_bucket.core.modifiers.kinds import FaceForm, SheetKind
from iron_bucket.core.power.load import DrawCurve
from iron_bucket.core.quantities import display, parse
from iron_bucket.core.quantities.units import UnitSystem, lb_from_kg


class Takes(StrEnum):
    """How a field is typed."""

    TEXT = "text"
    NUMBER = "number"
    PERCENT = "percent"  # typed as percent, kept as a share
    LENGTH = "length"
    MASS = "mass"
    CHOICE = "choice"
    YES = "yes"


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceField:
    """One field. ``key`` of the row; ``hint`` shows how it is written; ``is_needed`` must be there."""

    key: str
    label: str
    takes: Takes = Takes.TEXT
    unit: str = ""
    choices: tuple[str, ...] = ()
    hint: str = ""
    usual: str = ""
    is_needed: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class FieldGroup:
    """Fields that are asked for together."""

    title: str
    fields: tuple[PieceField, ...]


def _f(key: str, label: str, takes: Takes = Takes.NUMBER, **more: Any) -> PieceField:
    return PieceField(key=key, label=label, takes=takes, **more)


def _origin(key: str) -> PieceField:
    return _f(
        f"{key}_origin",
        "that figure is",
        Takes.CHOICE,
        choices=tuple(each.value for each in Origin),
        usual=Origin.CLAIMED.value,
    )


_WHAT = (
    _f("name", "Name", Takes.TEXT, is_needed=True),
    _f("maker", "Maker", Takes.TEXT),
    _f("weight_kg", "Weight", Takes.MASS, is_needed=True),
)
_HIRE = FieldGroup(
    title="Ours, hired, noted",
    fields=(
        _f("owned", "How many are ours", usual="0"),
        _f("day_price", "Hire a day"),
        _f("tags", "Tags", Takes.TEXT, hint="words, parted by ;"),
        _f("note", "Note", Takes.TEXT),
    ),
)
_SIZE = (_f("width_m", "Width", Takes.LENGTH, is_needed=True), _f("height_m", "Height", Takes.LENGTH, is_needed=True))
_SHIFT = _f("shift_mired", "Colour shift", unit="mired", usual="0")


def _choices(kind: type[StrEnum]) -> tuple[str, ...]:
    return tuple(each.value for each in kind)


PIECE_FORMS: dict[str, tuple[FieldGroup, ...]] = {
    "heads": (
        FieldGroup(
            title="What it is", fields=(*_WHAT, _f("technology", "It is", Takes.CHOICE, choices=_choices(Technology)))
        ),
        FieldGroup(
            title="Light",
            fields=(
                _f("lumens", "Lumens of the bare head", unit="lm", is_needed=True),
                _origin("lumens"),
                _f("lowest_cct_k", "Warmest colour", unit="K", usual="5600", is_needed=True),
                _f("highest_cct_k", "Coolest colour", unit="K", usual="5600", is_needed=True),
                _f("tint", "Its own tint", unit="full plus greens", usual="0"),
                _f("lowest_tint", "Tint control, towards magenta", unit="full gels, 0 or below", usual="0"),
                _f("highest_tint", "Tint control, towards green", unit="full gels", usual="0"),
                _f("lowest_level", "Lowest steady level", Takes.PERCENT, usual="1"),
                _f(
                    "dimming",
                    "Dimming curve",
                    Takes.CHOICE,
                    choices=_choices(DimmingCurve),
                    usual=DimmingCurve.LINEAR.value,
                ),
                _f("dimming_points", "Measured curve", Takes.TEXT, hint="setting:output, such as 0.1:0.02;0.5:0.4;1:1"),
                _f("effects", "Effects it plays", Takes.TEXT, hint="words, parted by ;"),
                _f("globe", "Globe", Takes.TEXT),
                _f("globe_life_h", "Globe life", unit="h", usual="0"),
            ),
        ),
        FieldGroup(
            title="Power",
            fields=(
                _f("full_w", "Watts at full", unit="W", is_needed=True),
                _origin("full_w"),
                _f("nameplate_w", "Watts on the box", unit="W"),
                _f("idle_w", "Watts idle", unit="W", usual="0"),
                _f("power_factor", "Power factor", usual="1"),
                _f(
                    "curve",
                    "Watts follow the level",
                    Takes.CHOICE,
                    choices=_choices(DrawCurve),
                    usual=DrawCurve.ELECTRONIC.value,
                ),
                _f("inrush_a", "Inrush", unit="A", usual="0"),
                _f("mains_low_v", "Mains from", unit="V", usual="100"),
                _f("mains_high_v", "Mains to", unit="V", usual="240"),
                _f(
                    "battery_plates",
                    "Batteries",
                    Takes.TEXT,
                    hint="mount:plates:share of full output, such as v-lock:2:0.6",
                ),
                _f("charge_w", "Charges batteries with", unit="W", usual="0"),
                _f(
                    "modes",
                    "Other modes",
                    Takes.TEXT,
                    hint="name:share of output:watts:measured watts or nothing:dB(A), such as silent:0.6:220::22",
                ),
                _f("warm_up_min", "Warm-up", unit="min", usual="0"),
                _f("restrike_min", "Restrike", unit="min", usual="0"),
                _f("fan_db", "Fan", unit="dB(A)", usual="0"),
                _f("is_hot", "Hot lamp", Takes.YES),
            ),
        ),
        FieldGroup(
            title="Fitting and carrying",
            fields=(
                _f("fitting", "Accessory fitting", Takes.TEXT, hint="such as S-type"),
                _f("scrim_ring_mm", "Scrim ring", unit="mm", usual="0"),
                _f("takes_gel", "Takes gel", Takes.YES, usual="yes"),
                _f("spigot_mm", "Spigot", unit="mm", usual="16"),
                _f("driver_kg", "Driver or ballast", Takes.MASS, usual="0"),
                _f("cable_kg", "Head cable", Takes.MASS, usual="0"),
                _f("weather", "Weather rating", Takes.TEXT, hint="such as IP65"),
                _f("control", "Control", Takes.TEXT, hint="such as wired;wireless"),
                _f("channels", "Channels", usual="0"),
            ),
        ),
        _HIRE,
    ),
    "configurations": (
        FieldGroup(
            title="What it is",
            fields=(*_WHAT, _f("optic", "Lens, where it focuses", Takes.TEXT), _f("focus", "Focus, 0 spot to 1 flood")),
        ),
        FieldGroup(
            title="Light",
            fields=(
                _f("kind", "Its beam is", Takes.CHOICE, choices=("beam_field", "cosine_power")),
                _f("peak_cd", "Peak", unit="cd", is_needed=True),
                _f("beam_deg", "Beam at half", unit="degrees"),
                _f("field_deg", "Field at a tenth", unit="degrees"),
                _f("exponent", "Power of the cosine", hint="1 for a bare white face"),
                _f("lumens", "Lumens through it", unit="lm", is_needed=True),
                _f("origin", "Those figures are", Takes.CHOICE, choices=_choices(Origin), usual=Origin.CLAIMED.value),
                _f("offset_m", "Virtual source behind the housing", unit="m", usual="0"),
                _f("shape", "Glowing face", Takes.CHOICE, choices=_choices(FaceShape)),
                *_SIZE,
                _f("is_lambertian", "Glows evenly, like a white face", Takes.YES),
                _f("takes_box", "Leaves the fitting free", Takes.YES),
            ),
        ),
        _HIRE,
    ),
    "optics": (
        FieldGroup(title="What it is", fields=(*_WHAT, _f("fitting", "Fitting", Takes.TEXT, is_needed=True))),
        _HIRE,
    ),
    "sheets": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                _f("kind", "It is", Takes.CHOICE, choices=_choices(SheetKind)),
                _f("transmittance", "Passes", Takes.PERCENT, hint="empty for a scrim or net by the house school"),
                _origin("transmittance"),
                _SHIFT,
                _f("tint", "Tint", unit="full plus greens", usual="0"),
                _f("layers", "Single 1, double 2", hint="for scrims and nets", usual="0"),
                _f("ring_mm", "Ring", unit="mm", usual="0"),
            ),
        ),
        _HIRE,
    ),
    "faces": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                _f("fitting", "Fitting", Takes.TEXT, is_needed=True),
                _f("form", "Form", Takes.CHOICE, choices=_choices(FaceForm)),
                *_SIZE,
                _f("efficiency", "Gives of the flux", Takes.PERCENT, is_needed=True),
                _origin("efficiency"),
                _SHIFT,
                _f("hottest_w", "Bears a hot lamp of", unit="W", usual="0"),
            ),
        ),
        _HIRE,
    ),
    "grids": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                _f("fitting", "Fitting", Takes.TEXT),
                _f("face_slug", "Or for the box", Takes.TEXT, hint="its slug"),
                _f("cutoff_deg", "Nothing beyond", unit="degrees, full angle", is_needed=True),
                _f("on_axis", "Passes on the axis", Takes.PERCENT, is_needed=True),
                _origin("on_axis"),
            ),
        ),
        _HIRE,
    ),
    "frames": (FieldGroup(title="What it is", fields=(*_WHAT, *_SIZE)), _HIRE),
    "cloths": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                _f("transmittance", "Passes", Takes.PERCENT, is_needed=True),
                _origin("transmittance"),
                _f("straight_share", "Of that, straight on", Takes.PERCENT, usual="0"),
                _f("lobe_deg", "Scatters into a half width of", unit="degrees, 90 evenly", usual="90"),
                _SHIFT,
                _f("widest_m", "Sold up to", Takes.LENGTH, usual="6"),
            ),
        ),
        _HIRE,
    ),
    "boards": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                *_SIZE,
                _f("reflectance", "Returns", Takes.PERCENT, is_needed=True),
                _origin("reflectance"),
                _f("lobe_deg", "Into a half width of", unit="degrees, 90 matt", usual="90"),
                _SHIFT,
            ),
        ),
        _HIRE,
    ),
    "batteries": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                _f("mount", "Mount", Takes.TEXT, is_needed=True),
                _f("capacity_wh", "Capacity", unit="Wh", is_needed=True),
                _f("nominal_v", "Voltage", unit="V", is_needed=True),
                _f("most_a", "Delivers up to", unit="A", is_needed=True),
                _f("usable", "Usable", Takes.PERCENT, usual="90"),
                _f("efficiency", "Efficiency", Takes.PERCENT, usual="95"),
            ),
        ),
        _HIRE,
    ),
    "stands": (
        FieldGroup(
            title="What it is",
            fields=(
                *_WHAT,
                _f("payload_kg", "Carries", Takes.MASS, is_needed=True),
                _f("lowest_m", "Lowest", Takes.LENGTH, is_needed=True),
                _f("highest_m", "Highest", Takes.LENGTH, is_needed=True),
                _f("spigot_mm", "Spigot", unit="mm", usual="16", is_needed=True),
            ),
        ),
        _HIRE,
    ),
    "units": (
        FieldGroup(
            title="This unit",
            fields=(
                _f("name", "Name", Takes.TEXT, is_needed=True),
                _f("serial", "Serial", Takes.TEXT),
                _f("owner", "Owner", Takes.TEXT),
                _f("globe_h", "Hours on the globe", unit="h", usual="0"),
                _f("faults", "Faults", Takes.TEXT, hint="parted by ;"),
                _f("tags", "Tags", Takes.TEXT, hint="words, parted by ;"),
                _f("note", "Note", Takes.TEXT),
            ),
        ),
    ),
}


#: A beam that came from a file is a table; the form leaves it alone.
_OF_A_FORMULA = ("kind", "peak_cd", "beam_deg", "field_deg", "exponent", "lumens")


def groups_of(kind: str, row: Mapping[str, object] | None = None) -> tuple[FieldGroup, ...]:
    """The groups of one kind's form. Raises: BadValue for a kind that has no form."""
    if kind not in PIECE_FORMS:
        raise BadValue("kind", repr(kind)[:40], "one of " + ", ".join(PIECE_FORMS))
    if not row or row.get("kind") != "tabulated":
        return PIECE_FORMS[kind]
    return tuple(
        FieldGroup(title=group.title, fields=tuple(field for field in group.fields if field.key not in _OF_A_FORMULA))
        for group in PIECE_FORMS[kind]
    )


def fields_of(kind: str, row: Mapping[str, object] | None = None) -> tuple[PieceField, ...]:
    """All fields of one kind, in order. Raises: BadValue for a kind that has no form."""
    return tuple(field for group in groups_of(kind, row) for field in group.fields)


def starting_text(kind: str) -> dict[str, str]:
    """What an empty form says."""
    return {field.key: field.usual or (field.choices[0] if field.choices else "") for field in fields_of(kind)}


def typed_of(kind: str, row: Mapping[str, object], units: UnitSystem) -> dict[str, str]:
    """What a form says of a stored row."""
    return {field.key: _said(field, row.get(field.key), units) for field in fields_of(kind, row)}


def _said(field: PieceField, value: object, units: UnitSystem) -> str:
    if field.takes is Takes.YES:
        return "yes" if value or (value is None and field.usual == "yes") else ""
    if value is None or value == "":
        return ""
    if not isinstance(value, (int, float)):
        return str(value)
    match field.takes:
        case Takes.PERCENT:
            return f"{value * 100:.6g}"
        case Takes.LENGTH:
            return str(display.length(value, units)) if units is UnitSystem.IMPERIAL else f"{value:.6g}"
        case Takes.MASS:
            return f"{float(lb_from_kg(value)):.6g}" if units is UnitSystem.IMPERIAL else f"{value:.6g}"
    return f"{value:.10g}"


def row_from(kind: str, form: Mapping[str, str], before: Mapping[str, object], units: UnitSystem) -> dict[str, Any]:
    """The row that a form states. What the form does not ask (a table of candela, say) stays as it was; a field left
    as it was keeps
    its figure to the last digit. Raises: BadValue.
    """
    row: dict[str, Any] = dict(before)
    shown = typed_of(kind, before, units) if before else {}
    for field in fields_of(kind, before):
        text = form.get(field.key, "").strip()
        if field.takes is Takes.YES:
            row[field.key] = bool(text)
        elif not text:
            if field.is_needed:
                raise BadValue(field.label, "empty", f"{field.hint or 'a value'}")
            row.pop(field.key, None)
        elif text != shown.get(field.key):
            row[field.key] = _read(field, text, units)
    return row


def _read(field: PieceField, text: str, units: UnitSystem) -> Any:
    match field.takes:
        case Takes.LENGTH:
            return parse.length_m(text, field.label, units)
        case Takes.MASS:
            return parse.mass_kg(text, field.label, units)
        case Takes.PERCENT:
            return parse.number(text, field.label, "%") / 100.0
        case Takes.NUMBER:
            return parse.signed(text, field.label, field.unit.split(",")[0])
    return text
