"""What a photometric file tells of one lamp: its distribution, what it draws, how large it glows."""

from dataclasses import dataclass

from iron_bucket.core.photometry.tabulated import Tabulated


@dataclass(frozen=True, slots=True, kw_only=True)
class Luminaire:
    """``opening_m``: width and height of the luminous opening, 0 where it is a point.

    ``notes``: what was read but not used.
    """

    file_format: str
    revision: str | None
    name: str
    maker: str
    distribution: Tabulated
    input_w: float | None
    rated_lamp_lumens: float | None
    opening_m: tuple[float, float]
    is_round: bool
    notes: tuple[str, ...] = ()
