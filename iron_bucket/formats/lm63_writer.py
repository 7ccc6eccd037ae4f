"""A lamp as an LM-63 file of the 2002 revision, which every reader knows.

Source: ANSI/IESNA LM-63-02; absolute photometry, so that the lamp lumens are written as -1.
"""

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.photometry.luminaire import Luminaire
from iron_bucket.core.photometry.tabulated import PhotometryType
from iron_bucket.formats.written import Written

_CODES = {PhotometryType.C: 1, PhotometryType.B: 2, PhotometryType.A: 3}
_METRES = 2
_LONGEST_LINE = 120


def write_lm63(luminaire: Luminaire) -> Written:
    """The file, and what it cannot hold."""
    table = luminaire.distribution
    length, width = luminaire.opening_m
    sides = (-length, -width, 0.0) if luminaire.is_round else (length, width, 0.0)
    lines = [
        "IESNA:LM-63-2002",
        f"[TEST] {_plain(luminaire.name)}",
        "[TESTLAB] none",
        "[ISSUEDATE] none",
        f"[MANUFAC] {_plain(luminaire.maker)}",
        f"[LUMINAIRE] {_plain(luminaire.name)}",
        "TILT=NONE",
        f"1 -1 1 {len(table.vertical_deg)} {len(table.horizontal_deg)} {_CODES[table.kind]} {_METRES} "
        + " ".join(f"{side:.7g}" for side in sides),
        f"1 1 {luminaire.input_w or 0.0!r}",
        *_wrapped(table.vertical_deg),
        *_wrapped(table.horizontal_deg),
        *(line for plane in table.candela for line in _wrapped(plane)),
    ]
    lost = tuple(f"{note}, which is not written again" for note in luminaire.notes)
    if luminaire.input_w is None:
        lost = (*lost, "the watts are not known and stand as 0")
    return Written(data=("\r\n".join(lines) + "\r\n").encode("ascii", "replace"), ending="ies", lost=lost)


def _plain(text: str) -> str:
    return " ".join(text.replace("[", "(").replace("]", ")").split())


def _wrapped(values: Array) -> list[str]:
    """Numbers over as many lines as they need."""
    lines, line = [], ""
    for value in np.asarray(values, dtype=float):
        word = f"{value:.7g}"
        if line and len(line) + 1 + len(word) > _LONGEST_LINE:
            lines.append(line)
            line = word
        else:
            line = f"{line} {word}".strip()
    return [*lines, line]
