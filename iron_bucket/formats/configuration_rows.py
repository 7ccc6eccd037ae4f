"""A configuration, its distribution included, as one row and back."""

import numpy as np

from iron_bucket.core.bench.configuration import Configuration, EmittingFace, FaceShape
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin
from iron_bucket.core.photometry.distribution import BeamField, CosinePower, IntensityDistribution
from iron_bucket.core.photometry.tabulated import PhotometryType, Tabulated
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.item_rows import Row, item_fields, item_row


def _distribution(fields: Fields) -> IntensityDistribution:
    kind = fields.word("kind")
    if kind == "beam_field":
        return BeamField(
            peak_cd=fields.number("peak_cd"), beam_deg=fields.number("beam_deg"), field_deg=fields.number("field_deg")
        )
    if kind == "cosine_power":
        return CosinePower(peak_cd=fields.number("peak_cd"), exponent=fields.number("exponent"))
    if kind == "tabulated":
        return _table(fields.inner("table"))
    raise BadValue("kind", repr(kind), "beam_field, cosine_power or tabulated")


def _table(fields: Fields) -> Tabulated:
    try:
        vertical, horizontal, candela = (
            np.array(fields.entries(key), dtype=float) for key in ("vertical_deg", "horizontal_deg", "candela")
        )
    except (TypeError, ValueError):
        raise BadValue(
            "table", "ragged or not numeric", "lists of numbers, one list of candela for each horizontal angle"
        ) from None
    table = Tabulated(
        kind=fields.choice("photometry", PhotometryType),
        vertical_deg=vertical,
        horizontal_deg=horizontal,
        candela=candela,
    )
    fields.done()
    return table


def _distribution_row(distribution: IntensityDistribution) -> Row:
    match distribution:
        case BeamField():
            return {
                "kind": "beam_field",
                "peak_cd": distribution.peak_cd,
                "beam_deg": distribution.beam_deg,
                "field_deg": distribution.field_deg,
            }
        case CosinePower():
            return {"kind": "cosine_power", "peak_cd": distribution.peak_cd, "exponent": distribution.exponent}
        case Tabulated():
            return {
                "kind": "tabulated",
                "table": {
                    "photometry": distribution.kind.value,
                    "vertical_deg": distribution.vertical_deg.tolist(),
                    "horizontal_deg": distribution.horizontal_deg.tolist(),
                    "candela": distribution.candela.tolist(),
                },
            }
    raise BadValue("distribution", type(distribution).__name__, "beam_field, cosine_power or tabulated")


def configuration_of(fields: Fields) -> Configuration:
    """A configuration from its row."""
    for unused in ("peak_cd", "beam_deg", "field_deg", "exponent"):  # a CSV line has the columns of every kind
        fields.has(unused)
    return Configuration(
        **item_fields(fields),
        head_slug=fields.word("head_slug"),
        distribution=_distribution(fields),
        lumens=fields.number("lumens"),
        face=EmittingFace(
            shape=fields.choice("shape", FaceShape),
            width_m=fields.number("width_m"),
            height_m=fields.number("height_m"),
        ),
        origin=fields.choice("origin", Origin, Origin.CLAIMED),
        offset_m=fields.number("offset_m", 0.0),
        is_lambertian=fields.yes("is_lambertian"),
        takes_box=fields.yes("takes_box"),
        optic=fields.word("optic", ""),
        focus=fields.perhaps("focus"),
    )


def configuration_row(configuration: Configuration) -> Row:
    """A configuration as its row."""
    face = configuration.face
    return {
        **item_row(configuration),
        "head_slug": configuration.head_slug,
        **_distribution_row(configuration.distribution),
        "lumens": configuration.lumens,
        "shape": face.shape.value,
        "width_m": face.width_m,
        "height_m": face.height_m,
        "origin": configuration.origin.value,
        "offset_m": configuration.offset_m,
        "is_lambertian": configuration.is_lambertian,
        "takes_box": configuration.takes_box,
    } | {
        key: value
        for key, value in (("optic", configuration.optic), ("focus", configuration.focus))
        if value not in ("", None)
    }
