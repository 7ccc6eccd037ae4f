"""Any spectrum file: which form it is, and the flat form that is stored."""

import numpy as np

from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.errors import BadValue
from iron_bucket.formats.fields import Fields
from iron_bucket.formats.item_rows import Row
from iron_bucket.formats.spectrum_csv import read_spectrum_csv
from iron_bucket.formats.tm27 import is_tm27, read_tm27


def read_spectrum(data: bytes) -> Spectrum:
    """A spectrum from TM-27 XML or CSV, by its first letter. Raises: FormatError."""
    return read_tm27(data) if is_tm27(data) else read_spectrum_csv(data)


def spectrum_row(spectrum: Spectrum) -> Row:
    """Two lists."""
    return {"wavelength_nm": spectrum.wavelength_nm.tolist(), "power": spectrum.power.tolist()}


def spectrum_from_row(fields: Fields) -> Spectrum:
    """The same back. Raises: BadValue."""
    try:
        wavelength, power = (np.array(fields.entries(key), dtype=float) for key in ("wavelength_nm", "power"))
    except (TypeError, ValueError):
        raise BadValue("power", "not all numbers", "two lists of numbers") from None
    return Spectrum(wavelength_nm=wavelength, power=power)
