"""A head from what a gaffer has of it: so many lux at a distance, and how wide the beam is; the rest typical."""

from dataclasses import dataclass

from iron_bucket.core.bench.configuration import Configuration, EmittingFace, FaceShape
from iron_bucket.core.bench.head import Head, Technology
from iron_bucket.core.bench.usual_head import usual_head
from iron_bucket.core.checks import require_between, require_cct, require_positive
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.photometry.distribution import BeamField
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.typical import typical

#: Typical: a field is so much wider than its beam, a reflector so wide.
_FIELD_TO_BEAM, _WIDEST_DEG, _MOUTH_M = 1.7, 178.0, 0.15
#: Typical: a head weighs a kilogram, and one more for each so many watts.
_BARE_KG, _W_A_KG = 1.0, 80.0


@dataclass(frozen=True, slots=True, kw_only=True)
class BeamSeen:
    """``illuminance_lx`` at ``at_m``, straight ahead; ``beam_deg`` between the half peaks; ``origin`` of that figure.

    ``watts`` and ``weight_kg``: None where nobody knows.
    """

    name: str
    technology: Technology
    illuminance_lx: float
    at_m: float
    beam_deg: float
    origin: Origin
    cct_k: float = 5600.0
    watts: float | None = None
    weight_kg: float | None = None
    owned: int = 0
    day_price: float | None = None

    def __post_init__(self) -> None:
        require_between("illuminance_lx", self.illuminance_lx, low=0.01, high=1e6, unit="lx")
        require_between("at_m", self.at_m, low=0.2, high=100.0, unit="m")
        require_between("beam_deg", self.beam_deg, low=1.0, high=170.0, unit="degrees")
        require_cct("cct_k", self.cct_k)
        for field, value in (("watts", self.watts), ("weight_kg", self.weight_kg)):
            if value is not None:
                require_positive(field, value, unit="")

    @property
    def distribution(self) -> BeamField:
        """Source: I = E d^2; between beam and field the usual fall."""
        return BeamField(
            peak_cd=self.illuminance_lx * self.at_m**2,
            beam_deg=self.beam_deg,
            field_deg=min(self.beam_deg * _FIELD_TO_BEAM, _WIDEST_DEG),
        )


def head_from_beam(slug: str, seen: BeamSeen) -> tuple[Head, Configuration]:
    """The head and its one configuration; what is not known is typical, and says so.

    Source: lumens are the beam's integral; watts by the lumens that a watt of this technology gives.
    """
    flux_lm = lumens(seen.distribution)
    watts = seen.watts or flux_lm / typical("lumens_per_watt")[seen.technology]
    head = usual_head(
        {
            "slug": slug,
            "name": seen.name,
            "maker": "",
            "weight_kg": seen.weight_kg or round(_BARE_KG + watts / _W_A_KG, 1),
            "owned": seen.owned,
            "day_price": seen.day_price,
        },
        seen.technology,
        lumens=Figure(value=flux_lm, origin=Origin.TYPICAL),
        full_w=Figure(value=round(watts, 1), origin=Origin.CLAIMED if seen.watts else Origin.TYPICAL),
        cct_k=seen.cct_k,
    )
    configuration = Configuration(
        slug=f"{slug}.beam",
        name=f"beam {seen.beam_deg:g}°",
        maker="",
        weight_kg=0.01,
        owned=seen.owned,
        head_slug=slug,
        distribution=seen.distribution,
        lumens=flux_lm,
        face=EmittingFace(shape=FaceShape.DISC, width_m=_MOUTH_M, height_m=_MOUTH_M),
        origin=seen.origin,
    )
    return head, configuration
