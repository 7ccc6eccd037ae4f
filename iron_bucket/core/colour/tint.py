"""Green and magenta: in full gels, as the trade counts them, and in Duv."""

from iron_bucket.core.arrays import Floats

#: Typical: what one full plus green adds to Duv. Tints of makers differ by a fifth either way.
FULL_GREEN_DUV = 0.02


def duv_from_tint(full_gels: Floats) -> Floats:
    """Duv of so many full plus greens; minus greens are below 0."""
    return full_gels * FULL_GREEN_DUV


def tint_from_duv(duv: Floats) -> Floats:
    """The way back."""
    return duv / FULL_GREEN_DUV
