"""What the camera wants and what it holds."""

import math
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.checks import require_at_most, require_between, require_cct
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.errors import BadValue
from iron_bucket.core.exposure.incident import Camera, Receptor, illuminance_lx, t_stop_for
from iron_bucket.core.exposure.shutter import exposure_time_s

#: Middle grey, what an incident meter is made for.
MIDDLE_GREY = 0.18


MOST_ISO_ROWS = 24


@dataclass(frozen=True, slots=True, kw_only=True)
class Look:
    """``above`` and ``below``: stops from middle grey to clip and to floor, where ``by_iso`` says nothing else.
    ``nd_stops`` in front of the lens, ``filter_stops`` all else there. ``white_balance_duv``: above 0 is set for green.

    ``by_iso``: the camera's profile, rows of ISO, stops above and stops below; between two rows it changes evenly with
    every stop of ISO, beyond them it stays.
    """

    t_stop: float = 2.8
    iso: float = 800.0
    fps: float = 24.0
    shutter_deg: float = 180.0
    nd_stops: float = 0.0
    filter_stops: float = 0.0
    white_balance_k: float = 5600.0
    white_balance_duv: float = 0.0
    above: float = 6.0
    below: float = 6.5
    by_iso: tuple[tuple[float, float, float], ...] = ()
    sensor_width_mm: float = 24.9
    sensor_height_mm: float = 14.0

    def __post_init__(self) -> None:
        require_cct("white_balance", self.white_balance_k)
        require_between("white_balance_duv", self.white_balance_duv, low=-0.03, high=0.03, unit="")
        for iso, above, below in (*self.by_iso, (self.iso, self.above, self.below)):
            require_between("iso", iso, low=6.0, high=409_600.0, unit="")
            require_between("above", above, low=1.0, high=12.0, unit="stops")
            require_between("below", below, low=1.0, high=16.0, unit="stops")
        if len({row[0] for row in self.by_iso}) < len(self.by_iso):
            raise BadValue("by_iso", "an ISO twice", "each ISO once")
        require_between("nd_stops", self.nd_stops, low=0.0, high=15.0, unit="stops")
        require_between("filter_stops", self.filter_stops, low=0.0, high=10.0, unit="stops")
        require_between("t_stop", self.t_stop, low=0.5, high=64.0, unit="")
        require_between("sensor_width_mm", self.sensor_width_mm, low=1.0, high=200.0, unit="mm")
        require_between("sensor_height_mm", self.sensor_height_mm, low=1.0, high=200.0, unit="mm")
        require_between("fps", self.fps, low=1.0, high=10_000.0, unit="frames a second")
        require_between("shutter_deg", self.shutter_deg, low=1.0, high=360.0, unit="degrees")
        require_at_most("by_iso", len(self.by_iso), MOST_ISO_ROWS)
        exposure_time_s(angle_deg=self.shutter_deg, fps=self.fps)

    @property
    def white(self) -> LightColour:
        """What the camera takes for white."""
        return LightColour.of_cct(self.white_balance_k, self.white_balance_duv)

    @property
    def time_s(self) -> float:
        """Seconds that each frame is exposed."""
        return exposure_time_s(angle_deg=self.shutter_deg, fps=self.fps)

    @property
    def clip_stops(self) -> float:
        """From middle grey to clip, at this ISO."""
        return self._at_iso(1, self.above)

    @property
    def floor_stops(self) -> float:
        """From middle grey down to the floor, at this ISO."""
        return self._at_iso(2, self.below)

    def _at_iso(self, column: int, otherwise: float) -> float:
        if not self.by_iso:
            return otherwise
        rows = sorted(self.by_iso)
        return float(np.interp(math.log2(self.iso), [math.log2(row[0]) for row in rows], [row[column] for row in rows]))

    def wanted_lx(self, receptor: Receptor) -> float:
        """The level that puts a face on middle exposure."""
        camera = Camera(
            t_stop=self.t_stop, iso=self.iso, time_s=self.time_s, filter_stops=self.nd_stops + self.filter_stops
        )
        return illuminance_lx(camera, receptor)

    def t_stop_at(self, level_lx: float, receptor: Receptor) -> float:
        """The stop at which a level is middle exposure: for those who begin with the light they have."""
        return t_stop_for(
            level_lx,
            iso=self.iso,
            time_s=self.time_s,
            filter_stops=self.nd_stops + self.filter_stops,
            receptor=receptor,
        )


def surface_stops(reflectance: float, level_lx: float, wanted_lx: float) -> float:
    """Where a lit surface sits, in stops from middle grey. Source: log2(rho E / (0.18 E_key))."""
    return math.log2(max(reflectance * level_lx, 1e-9) / (MIDDLE_GREY * wanted_lx))


def luminance_stops(luminance_cd_m2: float, wanted_lx: float) -> float:
    """Where something that glows sits. Source: a surface's luminance is rho E / pi, so log2(pi L / (0.18 E_key))."""
    return math.log2(max(math.pi * luminance_cd_m2, 1e-9) / (MIDDLE_GREY * wanted_lx))


def grey_luminance_cd_m2(level_lx: float) -> float:
    """How bright middle grey is under a level. Source: L = 0.18 E / pi."""
    return MIDDLE_GREY * level_lx / math.pi


@dataclass(frozen=True, slots=True, kw_only=True)
class HeldWindow:
    """What a window reads, and what each single way to hold it asks for; None where it holds already."""

    stops: float
    holds: bool
    key_lx: float
    film_stops: float
    lens_stops: float
    outside_lx: float


def held_window(*, luminance_cd_m2: float, passes: float, look: Look, receptor: Receptor) -> HeldWindow:
    """A view of ``luminance_cd_m2`` outside, through glass and film that pass a share.

    ``key_lx``: the key at which it just holds; ``film_stops``: more ND on the glass instead; ``outside_lx``: at what
    level outside (on middle grey) it would hold,
    which is a question of the hour. Source: it holds below the clip margin; key needed = pi tau L / (0.18 2^clip).
    """
    wanted = look.wanted_lx(receptor)
    stops = luminance_stops(luminance_cd_m2 * passes, wanted)
    over = max(stops - look.clip_stops, 0.0)
    return HeldWindow(
        stops=stops,
        holds=over <= 0.0,
        key_lx=math.pi * luminance_cd_m2 * passes / (MIDDLE_GREY * 2.0**look.clip_stops),
        film_stops=over,
        lens_stops=over,
        outside_lx=wanted * 2.0**look.clip_stops / passes,
    )
