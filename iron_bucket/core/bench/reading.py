"""One look at a meter: how many lux, how far, with what on the lamp."""

from dataclasses import dataclass
from datetime import datetime

from iron_bucket.core.checks import HIGHEST_CCT_K, LOWEST_CCT_K, require_between, require_not_negative, require_positive
from iron_bucket.core.errors import BadValue

LONGEST_TEXT = 300


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """``illuminance_lx`` as the meter showed it; ``ambient_lx`` of it was there before the lamp. ``setting``: of the
    dimmer, 1 full.

    ``aside_m``: sideways from the axis, on a plane square to the beam. ``modifier_slug``: what was on or in front, of
    a frame its cloth;
    then ``frame_slug`` names the frame and ``head_to_frame_m`` its distance from the head. ``unit_slug``: which very
    lamp.
    """

    configuration_slug: str
    throw_m: float
    illuminance_lx: float
    setting: float = 1.0
    ambient_lx: float = 0.0
    aside_m: float = 0.0
    modifier_slug: str = ""
    frame_slug: str = ""
    head_to_frame_m: float | None = None
    unit_slug: str = ""
    set_cct_k: float | None = None
    set_tint: float | None = None
    cct_k: float | None = None
    duv: float | None = None
    ra: float | None = None
    r9: float | None = None
    watts: float | None = None
    amps: float | None = None
    meter: str = ""
    taken_at: datetime | None = None
    note: str = ""

    def __post_init__(self) -> None:
        require_between("distance", self.throw_m, low=0.05, high=500.0, unit="m")
        require_between("level", self.illuminance_lx, low=0.01, high=5e6, unit="lx")
        require_between("setting", self.setting, low=0.0001, high=1.0, unit="of full")
        require_not_negative("ambient", self.ambient_lx, unit="lx")
        if self.ambient_lx >= self.illuminance_lx:
            raise BadValue(
                "ambient", f"{self.ambient_lx:g} lx of {self.illuminance_lx:g} lx", "less than the reading itself"
            )
        require_between("aside", self.aside_m, low=-100.0, high=100.0, unit="m")
        for field, value, low, high, unit in (
            ("set colour", self.set_cct_k, LOWEST_CCT_K, HIGHEST_CCT_K, "K"),
            ("set tint", self.set_tint, -3.0, 3.0, "full gels"),
            ("CCT", self.cct_k, LOWEST_CCT_K, HIGHEST_CCT_K, "K"),
            ("Duv", self.duv, -0.1, 0.1, ""),
            ("Ra", self.ra, -100.0, 100.0, ""),
            ("R9", self.r9, -500.0, 100.0, ""),
        ):
            if value is not None:
                require_between(field, value, low=low, high=high, unit=unit)
        for field, value in (("watts", self.watts), ("amps", self.amps), ("head to frame", self.head_to_frame_m)):
            if value is not None:
                require_positive(field, value, unit="")
        if self.head_to_frame_m is not None and self.head_to_frame_m >= self.throw_m:
            raise BadValue(
                "head to frame", f"{self.head_to_frame_m:g} m", f"nearer than the subject at {self.throw_m:g} m"
            )
        for field, text in (("meter", self.meter), ("note", self.note)):
            if len(text) > LONGEST_TEXT:
                raise BadValue(field, f"{len(text)} letters long", f"up to {LONGEST_TEXT} letters")

    @property
    def net_lx(self) -> float:
        """What the lamp gave, the ambient taken off."""
        return self.illuminance_lx - self.ambient_lx

    @property
    def is_on_axis(self) -> bool:
        """Within two degrees or so of where the lamp looks."""
        return abs(self.aside_m) <= 0.03 * self.throw_m
