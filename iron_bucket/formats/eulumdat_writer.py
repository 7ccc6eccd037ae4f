"""A lamp as an EULUMDAT file. It knows C planes only, and intensities per 1000 lamp lumens.

Source: the EULUMDAT/2 description of 1990.
"""

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.luminaire import Luminaire
from iron_bucket.core.photometry.resampled import MOST_GAMMAS, all_planes, on_c_planes
from iron_bucket.core.photometry.tabulated import PhotometryType, Symmetry, Tabulated
from iron_bucket.formats.written import Written

_TEXT = 78
_CODES = {Symmetry.ROTATIONAL: 1, Symmetry.BILATERAL_0_180: 2, Symmetry.QUADRANT: 4}


def write_eulumdat(luminaire: Luminaire) -> Written:
    """The file, and what it cannot hold."""
    table = on_c_planes(luminaire.distribution)
    code = _CODES.get(table.symmetry, 0)
    whole = all_planes(table)
    stored = table if code else whole
    flux_lm = luminaire.rated_lamp_lumens or lumens(table)
    lines = [
        *_head(luminaire, code, whole),
        *_lamp(luminaire, flux_lm),
        *["0"] * 10,
        *_numbers(whole.horizontal_deg),
        *_numbers(table.vertical_deg),
        *_numbers((stored.candela * (1000.0 / flux_lm)).ravel()),
    ]
    data = "\r\n".join(lines) + "\r\n"
    return Written(data=data.encode("latin-1", "replace"), ending="ldt", lost=_lost(luminaire))


def _head(luminaire: Luminaire, code: int, whole: Tabulated) -> list[str]:
    """Lines 1 to 26."""
    length_mm, width_mm = (round(side * 1000.0, 3) for side in luminaire.opening_m)
    opening = [f"{length_mm:g}", "0" if luminaire.is_round else f"{width_mm:g}"]
    name = " ".join(luminaire.name.split())[:_TEXT]
    return [
        " ".join(luminaire.maker.split())[:_TEXT],
        "1" if code == 1 else "2",
        str(code),
        str(len(whole.horizontal_deg)),
        f"{_even_step(whole.horizontal_deg):g}",
        str(len(whole.vertical_deg)),
        f"{_even_step(whole.vertical_deg):g}",
        "",
        name,
        "",
        "",
        "",
        opening[0],
        opening[1],
        "0",
        *opening,
        *["0"] * 4,
        "100",
        "100",
        "1",
        "0",
        "1",
    ]


def _lamp(luminaire: Luminaire, flux_lm: float) -> list[str]:
    """The one lamp set: number, kind, flux, colour, rendering, watts."""
    return ["1", "lamp", f"{flux_lm:.9g}", "", "", repr(luminaire.input_w or 0.0)]


def _even_step(angles: Array) -> float:
    """The step where all are alike; 0 says that they are not."""
    steps = np.diff(angles)
    return float(steps[0]) if len(steps) and np.allclose(steps, steps[0]) else 0.0


def _numbers(values: Array) -> list[str]:
    return [f"{value:.9g}" for value in values]


def _lost(luminaire: Luminaire) -> tuple[str, ...]:
    table = luminaire.distribution
    lost = [f"{note}, which is not written again" for note in luminaire.notes]
    if table.kind is not PhotometryType.C:
        lost.append(f"type {table.kind} photometry: laid out again on C planes, between its own angles")
    elif len(table.vertical_deg) > MOST_GAMMAS:
        lost.append(f"{len(table.vertical_deg)} vertical angles: {MOST_GAMMAS} are written")
    if luminaire.revision:
        lost.append(f"the revision, LM-63 of {luminaire.revision}")
    if luminaire.input_w is None:
        lost.append("the watts are not known and stand as 0")
    return tuple(lost)
