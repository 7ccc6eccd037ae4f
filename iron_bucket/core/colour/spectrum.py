"""A spectrum as a meter gives it: relative power by wavelength."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.errors import BadValue
from iron_bucket.core.quantities.rounding import at_most

LOWEST_NM, HIGHEST_NM = 300.0, 830.0
#: What must be covered at least for the figures of colour to mean anything.
NEEDED_FROM_NM, NEEDED_TO_NM = 400.0, 700.0
WIDEST_STEP_NM = 10.0
NARROWEST_STEP_NM = 0.1


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Spectrum:
    """Shapes: both (N,). Steps of at most 10 nm between 300 and 830 nm, at least from 400 to 700; power in any unit."""

    wavelength_nm: Array
    power: Array

    def __post_init__(self) -> None:
        wavelength = self.wavelength_nm
        if wavelength.ndim != 1 or wavelength.shape != self.power.shape or len(wavelength) < 2:
            raise BadValue(
                "wavelength_nm", f"{len(self.wavelength_nm)} values", "as many wavelengths as powers, two or more"
            )
        if not np.isfinite(wavelength).all() or wavelength[0] < LOWEST_NM or wavelength[-1] > HIGHEST_NM:
            raise BadValue("wavelength_nm", f"{wavelength[0]:g} to {wavelength[-1]:g}", "300 to 830 nm")
        steps = np.diff(wavelength)
        worst = steps[np.argmax(~((steps >= NARROWEST_STEP_NM) & (steps <= WIDEST_STEP_NM)))]
        if not (worst >= NARROWEST_STEP_NM and at_most(worst, WIDEST_STEP_NM)):
            raise BadValue("wavelength_nm", f"a step of {worst:g} nm", "rising wavelengths in steps of up to 10 nm")
        if wavelength[0] > NEEDED_FROM_NM or wavelength[-1] < NEEDED_TO_NM:
            raise BadValue("wavelength_nm", f"{wavelength[0]:g} to {wavelength[-1]:g}", "at least 400 to 700 nm")
        good = np.isfinite(self.power) & (self.power >= 0.0)
        if not good.all():
            raise BadValue("power", float(self.power[~good][0]), "0 or more at every wavelength")
        if not self.power.max() > 0.0:
            raise BadValue("power", "0 everywhere", "some light")

    def at_every_nm(self) -> "Spectrum":
        """The same at whole nanometres, linear in between."""
        whole = np.arange(np.ceil(self.wavelength_nm[0]), np.floor(self.wavelength_nm[-1]) + 0.5)
        return Spectrum(wavelength_nm=whole, power=np.interp(whole, self.wavelength_nm, self.power))
