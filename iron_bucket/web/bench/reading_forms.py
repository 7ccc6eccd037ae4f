"""One reading as it is typed on the way away from a lamp."""

from collections.abc import Mapping

from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities import parse
from iron_bucket.core.quantities.units import UnitSystem


def _number(form: Mapping[str, str], key: str, label: str, unit: str = "") -> float | None:
    text = form.get(key, "").strip()
    return parse.signed(text, label, unit) if text else None


def _length(form: Mapping[str, str], key: str, label: str, units: UnitSystem) -> float | None:
    text = form.get(key, "").strip()
    return parse.length_m(text, label, units) if text else None


def start_of(form: Mapping[str, str], configuration_slug: str, units: UnitSystem) -> Reading:
    """What holds for all the readings of one walk: what is on the lamp, which lamp, its settings, the ambient. Raises:
    BadValue.

    Distance and level are placeholders, to be replaced.
    """
    setting = _number(form, "setting", "dimmer", "%")
    ambient = form.get("ambient", "").strip()
    ambient_lx = parse.illuminance_lx(ambient, "ambient", units) if ambient else 0.0
    return Reading(
        configuration_slug=configuration_slug,
        throw_m=1.0 if not form.get("head_to_frame") else 400.0,
        illuminance_lx=max(1.0, ambient_lx * 2.0),
        setting=1.0 if setting is None else setting / 100.0,
        ambient_lx=ambient_lx,
        modifier_slug=form.get("modifier", ""),
        frame_slug=form.get("frame", ""),
        head_to_frame_m=_length(form, "head_to_frame", "head to frame", units),
        unit_slug=form.get("unit", ""),
        set_cct_k=parse.cct_k(form["set_cct"], "colour set") if form.get("set_cct", "").strip() else None,
        set_tint=_number(form, "set_tint", "tint set"),
        meter=form.get("meter", "").strip(),
    )


def reading_of(form: Mapping[str, str], configuration_slug: str, units: UnitSystem) -> Reading:
    """One whole reading. Raises: BadValue with the field, what was typed, and what would be accepted."""
    for key, label in (("distance", "distance"), ("level", "level")):
        if not form.get(key, "").strip():
            raise BadValue(label, "empty", "a figure such as " + ("3 m" if key == "distance" else "640 lx"))
    start = start_of(form, configuration_slug, units)
    cct = form.get("cct", "").strip()
    aside = form.get("aside", "").strip()
    return Reading(
        configuration_slug=configuration_slug,
        throw_m=parse.length_m(form["distance"], "distance", units),
        illuminance_lx=parse.illuminance_lx(form["level"], "level", units),
        aside_m=parse.length_m(aside, "aside", units) if aside else 0.0,
        setting=start.setting,
        ambient_lx=start.ambient_lx,
        modifier_slug=start.modifier_slug,
        frame_slug=start.frame_slug,
        head_to_frame_m=start.head_to_frame_m,
        unit_slug=start.unit_slug,
        set_cct_k=start.set_cct_k,
        set_tint=start.set_tint,
        meter=start.meter,
        cct_k=parse.cct_k(cct, "CCT") if cct else None,
        duv=_number(form, "duv", "Duv"),
        ra=_number(form, "ra", "Ra"),
        r9=_number(form, "r9", "R9"),
        watts=_number(form, "watts", "watts", "W"),
        amps=_number(form, "amps", "amps", "A"),
        note=form.get("note", "").strip(),
    )
