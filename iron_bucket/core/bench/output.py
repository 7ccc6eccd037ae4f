"""One configuration alone: its level at a distance and across its beam, near field included."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.configuration import Configuration, FaceShape
from iron_bucket.core.photometry.faces import disc_illuminance_lx, rectangle_illuminance_lx
from iron_bucket.core.photometry.illuminance import obeys_inverse_square
from iron_bucket.core.photometry.widths import beam_deg, beam_width_m, field_deg


def cross_section_lx(configuration: Configuration, throw_m: float, places_m: Array) -> Array:
    """Level on a plane square to the beam, at places across it along C0. Shapes (M,) to (M,).

    Source: I cos^3 / d^2; an evenly glowing face by its area law in place of the point's.
    """
    gamma = np.degrees(np.arctan2(np.abs(places_m), throw_m))
    azimuth = np.where(places_m < 0, 180.0, 0.0)
    reach = max(throw_m + configuration.offset_m, 0.05)
    level = configuration.distribution.intensity_cd(gamma, azimuth) * np.cos(np.radians(gamma)) ** 3 / reach**2
    if not configuration.is_lambertian:
        return np.asarray(level)
    point = throw_m**2 / np.square(throw_m**2 + np.square(places_m))
    return np.asarray(level * _area_law(configuration, throw_m, places_m) / point)


def _area_law(configuration: Configuration, throw_m: float, places_m: Array) -> Array:
    """Illuminance for each candela of axial intensity."""
    face = configuration.face
    if face.shape is FaceShape.DISC:
        radius_m = float(np.sqrt(face.width_m * face.height_m)) / 2.0
        return disc_illuminance_lx(1.0 / (np.pi * radius_m**2), radius_m, throw_m, places_m)
    return rectangle_illuminance_lx(
        1.0 / (face.width_m * face.height_m), face.width_m, face.height_m, throw_m, places_m
    )


def level_lx(configuration: Configuration, throw_m: float) -> float:
    """Level on the axis at full output."""
    return float(cross_section_lx(configuration, throw_m, np.zeros(1))[0])


@dataclass(frozen=True, slots=True, kw_only=True)
class OutputRow:
    """One distance of a head's page. Widths are None where the distribution never falls that low."""

    throw_m: float
    illuminance_lx: float
    half_width_m: float | None
    tenth_width_m: float | None
    law: str


def output_table(configuration: Configuration, throws_m: tuple[float, ...]) -> tuple[OutputRow, ...]:
    """Level and widths of the half and tenth edges at some distances, and which law gave the level."""
    widths = [width(configuration.distribution) for width in (beam_deg, field_deg)]
    return tuple(
        OutputRow(
            throw_m=throw_m,
            illuminance_lx=level_lx(configuration, throw_m),
            law=_law(configuration, throw_m),
            half_width_m=_width_m(widths[0], throw_m),
            tenth_width_m=_width_m(widths[1], throw_m),
        )
        for throw_m in throws_m
    )


def _width_m(angle_deg: float | None, throw_m: float) -> float | None:
    """None for an edge that lies beside or behind the lamp."""
    return beam_width_m(angle_deg, throw_m) if angle_deg is not None and angle_deg < 170.0 else None


def _law(configuration: Configuration, throw_m: float) -> str:
    if obeys_inverse_square(throw_m, configuration.face.longest_side_m):
        return (
            "inverse square"
            if not configuration.offset_m
            else f"inverse square from {configuration.offset_m:g} m behind"
        )
    return (
        "area law, nearer than five sides"
        if configuration.is_lambertian
        else "nearer than five sides: inverse square reads high"
    )
