"""A way to run a head other than flat out: quieter, dimmer, thriftier."""

from dataclasses import dataclass

from iron_bucket.core.checks import require_between, require_not_negative, require_positive, require_word
from iron_bucket.core.figure import Figure, Origin


@dataclass(frozen=True, slots=True, kw_only=True)
class Mode:
    """``output_share`` of the head's full output; watts by the name-plate and, where a meter was there, as measured."""

    name: str
    output_share: float
    nameplate_w: float
    measured_w: float | None = None
    fan_db: float = 0.0

    def __post_init__(self) -> None:
        require_word("mode", self.name)
        require_between("output_share", self.output_share, low=0.01, high=1.0, unit="of full output")
        require_positive("nameplate_w", self.nameplate_w, unit="W")
        if self.measured_w is not None:
            require_positive("measured_w", self.measured_w, unit="W")
        require_not_negative("fan_db", self.fan_db, unit="dB(A)")

    @property
    def watts(self) -> Figure:
        """The best there is."""
        if self.measured_w is not None:
            return Figure(value=self.measured_w, origin=Origin.MEASURED)
        return Figure(value=self.nameplate_w, origin=Origin.CLAIMED)
