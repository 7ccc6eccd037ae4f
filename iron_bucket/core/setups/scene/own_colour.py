"""The colour of a placed lamp before anything that it wears."""

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.head import Head
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.colour.tint import duv_from_tint
from iron_bucket.core.colour.tungsten import CCT_EXPONENT, FLUX_EXPONENT
from iron_bucket.core.power.load import DrawCurve
from iron_bucket.core.setups.plan.setup import PlacedLamp

#: A spectrum tells of settings so near to its own.
_SAME_SETTING_MIRED = 15.0


def own_colour(
    head: Head,
    configuration: Configuration,
    spectra: tuple[Spectrum, ...],
    placed: PlacedLamp,
    level_limit: float = 1.0,
) -> LightColour:
    """Its setting (the nearest it can), its tint and its age, and a filament's fall on the dimmer; by a spectrum of it
    where one was taken near that setting.
    """
    if placed.colour_xy:
        x, y = placed.colour_xy
        return LightColour.of_xy(x, y, configuration.origin).shifted(head.drift_mired)
    own_k = head.nearest_cct_k(placed.cct_k)
    if head.draw.curve is DrawCurve.FILAMENT:
        own_k *= min(placed.level, level_limit) ** (CCT_EXPONENT / FLUX_EXPONENT)
    known = _by_spectrum(spectra, own_k) if not placed.tint else None
    if known is not None:
        return known
    tint = head.tint + min(max(placed.tint, head.lowest_tint), head.highest_tint)
    plain = LightColour.of_cct(own_k, origin=configuration.origin)
    return plain.shifted(head.drift_mired, float(duv_from_tint(tint)))


def _by_spectrum(spectra: tuple[Spectrum, ...], cct_k: float) -> LightColour | None:
    """By the one that was taken nearest to that setting; None where none was taken near it."""
    whites = [each for each in map(LightColour.of_spectrum, spectra) if each.is_white]
    near = min(whites, key=lambda each: abs(each.mired - 1e6 / cct_k), default=None)
    return near if near is not None and abs(near.mired - 1e6 / cct_k) <= _SAME_SETTING_MIRED else None
