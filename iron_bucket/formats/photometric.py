"""Any photometric file: which format it is, and what is asked of it most."""

from pathlib import PurePath

from iron_bucket.core.photometry import lumens as flux
from iron_bucket.core.photometry.distribution import straight_cd
from iron_bucket.core.photometry.illuminance import illuminance_lx
from iron_bucket.core.photometry.luminaire import Luminaire
from iron_bucket.core.photometry.widths import beam_deg, field_deg
from iron_bucket.formats.eulumdat import read_eulumdat
from iron_bucket.formats.lm63 import read_lm63

PLANES = {"c0": 0.0, "c90": 90.0}


def read_photometric(data: bytes, file_name: str) -> Luminaire:
    """One lamp from LM-63 or, by its ending, EULUMDAT. Raises: FormatError."""
    return read_eulumdat(data) if PurePath(file_name).suffix.lower() == ".ldt" else read_lm63(data)


def photometry_json(luminaire: Luminaire, throws_m: dict[str, float]) -> dict[str, object]:
    """The figures of one lamp, as the command line prints them. ``throws_m``: distance as typed, and in metres."""
    table = luminaire.distribution
    vertical, horizontal = table.peak_at_deg
    axis_cd = straight_cd(table)
    return {
        "format": luminaire.file_format,
        "revision": luminaire.revision,
        "vertical_angles": len(table.vertical_deg),
        "horizontal_angles": len(table.horizontal_deg),
        "photometry_type": table.kind.value,
        "peak_cd": table.peak_cd,
        "peak_vertical_deg": vertical,
        "peak_horizontal_deg": horizontal,
        "axis_cd": axis_cd,
        "lumens": flux.lumens(table),
        "beam_deg": {plane: beam_deg(table, angle) for plane, angle in PLANES.items()},
        "field_deg": {plane: field_deg(table, angle) for plane, angle in PLANES.items()},
        "input_w": luminaire.input_w,
        "lux_at": {typed: float(illuminance_lx(axis_cd, throw_m)) for typed, throw_m in throws_m.items()},
    }
