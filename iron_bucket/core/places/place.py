"""A place and everything in it that light, current and crew have to do with."""

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np

from iron_bucket.core.checks import (
    require_at_most,
    require_between,
    require_cct,
    require_not_negative,
    require_positive,
    require_share,
    require_showable,
    require_time,
    require_word,
)
from iron_bucket.core.daylight.horizon import Horizon
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.surfaces import MOST_DUV, TYPICAL_SURFACES, Surface
from iron_bucket.core.power.battery import require_temperature
from iron_bucket.core.power.lead_choice import HOUSE_PLUG
from iron_bucket.core.power.trip import BreakerCurve
from iron_bucket.core.scene.polygon_room import CEILING, MOST_CORNERS, PolygonRoom

LONGEST_NAME, LONGEST_NOTE = 80, 1000
FARTHEST_M = 500.0
SHORTEST_WALL_M = 0.05
#: Twice the brightest sun on snow.
BRIGHTEST_LX = 250_000.0
#: More than any recce brought home, and what a page computes while somebody waits.
MOST = {
    "rooms": 20,
    "house_lamps": 80,
    "circuits": 60,
    "sockets": 120,
    "kit_areas": 40,
    "readings": 200,
    "surfaces": 60,
}
MOST_OPENINGS = 24
#: A pane that reaches over the wall's edge by less than this is a slip of the tape.
_SLIP_M = 0.005


def require_on_plan(field_name: str, *metres: float) -> None:
    """Lengths on a plan, none beyond it."""
    for metre in metres:
        require_between(field_name, metre, low=-FARTHEST_M, high=FARTHEST_M, unit="m")


def require_named(field_name: str, name: str) -> None:
    """A name of one letter at least, and not a paragraph."""
    require_word(field_name, name, longest=LONGEST_NAME)


class OpeningKind(StrEnum):
    WINDOW = "window"
    DOORWAY = "doorway"


class Cover(StrEnum):
    """What hangs before a window."""

    OPEN = "open"
    SHEER = "sheer"
    BLIND = "blind"

    @property
    def passes(self) -> float:
        """Typical: a sheer passes six tenths and scatters it, a blind that is drawn one in fifty."""
        return _COVER_PASSES[self]

    @property
    def straight_share(self) -> float:
        """Typical, of what it passes: a sheer leaves a soft patch of sun, a blind none."""
        return _COVER_STRAIGHT[self]


_COVER_PASSES: dict["Cover", float] = {Cover.OPEN: 1.0, Cover.SHEER: 0.6, Cover.BLIND: 0.02}
_COVER_STRAIGHT: dict["Cover", float] = {Cover.OPEN: 1.0, Cover.SHEER: 0.4, Cover.BLIND: 0.0}


@dataclass(frozen=True, slots=True, kw_only=True)
class WallOpening:
    """A window or doorway in wall ``wall`` (counted from 0), ``along_m`` from the wall's first corner to the middle of
    the pane, its foot ``sill_m`` up.

    In the ceiling (``CEILING``) ``along_m`` and ``sill_m`` are x and y of its middle. ``film_stops``: ND on the glass.
    ``glass_mired`` and ``glass_duv``: its tint, above 0 warmer and greener.
    """

    opening_id: str
    name: str
    wall: int
    along_m: float
    sill_m: float
    width_m: float
    height_m: float
    kind: OpeningKind = OpeningKind.WINDOW
    glass: float = 0.8
    film_stops: float = 0.0
    glass_mired: float = 0.0
    glass_duv: float = 0.0
    cover: Cover = Cover.OPEN

    def __post_init__(self) -> None:
        require_named("name", self.name)
        require_positive("width_m", self.width_m, unit="m")
        require_positive("height_m", self.height_m, unit="m")
        require_share("glass", self.glass)
        require_between("film_stops", self.film_stops, low=0.0, high=10.0, unit="stops")
        require_between("glass_mired", self.glass_mired, low=-300.0, high=300.0, unit="mired")
        require_between("glass_duv", self.glass_duv, low=-MOST_DUV, high=MOST_DUV, unit="")
        require_on_plan("along_m", self.along_m, self.sill_m)

    @property
    def passes(self) -> float:
        """Share of the light outside that comes through glass, film and what hangs before it."""
        if self.kind is OpeningKind.DOORWAY:
            return 1.0
        return float(self.glass * 2.0**-self.film_stops * self.cover.passes)

    @property
    def passes_straight(self) -> float:
        """What of it is only dimmed; the rest scatters in a sheer or a blind, which glows with it."""
        return self.passes * (1.0 if self.kind is OpeningKind.DOORWAY else self.cover.straight_share)


class Gloss(StrEnum):
    """Whether lamps show in a surface."""

    NONE = ""
    GLOSSY = "glossy"
    WET = "wet"


@dataclass(frozen=True, slots=True, kw_only=True)
class Room:
    """``corners`` counter-clockwise in metres on the plan;

    ``walls`` names a surface for each wall, beginning at the first corner.
    """

    room_id: str
    name: str
    corners: tuple[tuple[float, float], ...]
    height_m: float
    walls: tuple[str, ...]
    floor: str = "light wood"
    ceiling: str = "white paint"
    openings: tuple[WallOpening, ...] = ()
    floor_gloss: Gloss = Gloss.NONE
    wall_gloss: Gloss = Gloss.NONE

    def __post_init__(self) -> None:
        require_named("name", self.name)
        require_between("height_m", self.height_m, low=1.5, high=60.0, unit="m")
        if not 3 <= len(self.corners) <= MOST_CORNERS:
            raise BadValue("corners", len(self.corners), f"3 to {MOST_CORNERS} corners")
        if len(self.walls) != len(self.corners):
            raise BadValue("walls", len(self.walls), f"one surface for each of {len(self.corners)} walls")
        for x, y in self.corners:
            require_on_plan("corner", x, y)
        corners_m = np.array(self.corners, dtype=float)
        PolygonRoom(corners_m=corners_m, height_m=self.height_m, walls=(0.0,) * len(corners_m), floor=0.0, ceiling=0.0)
        shortest_m = min(self.wall_length_m(wall) for wall in range(len(self.corners)))
        if shortest_m < SHORTEST_WALL_M:
            raise BadValue(
                "corners",
                f"two of them {shortest_m:.2f} m apart",
                f"walls of {SHORTEST_WALL_M:g} m and more; the last wall closes the room by itself",
            )
        require_at_most("openings", len(self.openings), MOST_OPENINGS)
        for opening in self.openings:
            self._require_in_wall(opening)

    @property
    def floor_area_m2(self) -> float:
        """Source: the shoelace formula."""
        x, y = np.array(self.corners, dtype=float).T
        return float(np.abs(x @ np.roll(y, -1) - y @ np.roll(x, -1)) / 2.0)

    def _require_in_wall(self, opening: WallOpening) -> None:
        if opening.wall == CEILING:
            return
        if not 0 <= opening.wall < len(self.corners):
            raise BadValue("wall", opening.wall + 1, f"a wall from 1 to {len(self.corners)}, or the ceiling")
        length_m = self.wall_length_m(opening.wall)
        if (
            opening.along_m - opening.width_m / 2 < -_SLIP_M
            or opening.along_m + opening.width_m / 2 > length_m + _SLIP_M
        ):
            ends = (
                f"{opening.along_m - opening.width_m / 2:.2f} to {opening.along_m + opening.width_m / 2:.2f} m along"
                f" wall {opening.wall + 1}"
            )
            raise BadValue(opening.name, ends, f"0 to {length_m:.2f} m, the length of that wall")
        if opening.sill_m < 0.0 or opening.sill_m + opening.height_m > self.height_m + _SLIP_M:
            raise BadValue(
                opening.name,
                f"{opening.sill_m:g} to {opening.sill_m + opening.height_m:g} m high",
                f"0 to {self.height_m:g} m, the height of the room",
            )

    def wall_length_m(self, wall: int) -> float:
        """From one corner to the next."""
        start, end = np.array(self.corners[wall]), np.array(self.corners[(wall + 1) % len(self.corners)])
        return float(np.linalg.norm(end - start))


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseLamp:
    """A lamp that is there anyway.

    It shines down like a matt face, unless it is ``bare``: then all round. ``must_stay``: security, exit.
    """

    lamp_id: str
    name: str
    x_m: float
    y_m: float
    z_m: float
    lumens: float
    cct_k: float = 3000.0
    duv: float = 0.0
    is_bare: bool = False
    is_on: bool = True
    can: tuple[str, ...] = ("switched",)
    must_stay: bool = False

    def __post_init__(self) -> None:
        require_named("name", self.name)
        require_on_plan("position", self.x_m, self.y_m, self.z_m)
        require_positive("lumens", self.lumens, unit="lm")
        require_cct("cct_k", self.cct_k)
        require_between("duv", self.duv, low=-MOST_DUV, high=MOST_DUV, unit="")
        for word in self.can:
            if word not in WHAT_LAMPS_CAN:
                raise BadValue("can", repr(word), ", ".join(WHAT_LAMPS_CAN))
        if self.must_stay and not self.is_on:
            raise BadValue(self.name, "off", "on: a security or exit lamp stays as it is")


WHAT_LAMPS_CAN = ("switched", "dimmed", "covered")


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseCircuit:
    """``used_a`` is drawn already, by ``used_by``. ``rcd_ma``: what its leakage protection opens at, 0 where there is
    none; ``sag_v``: how far its volts fell on the meter under ``sag_at_a``.
    """

    name: str
    voltage_v: float
    breaker_a: float
    used_a: float = 0.0
    used_by: str = ""
    curve: BreakerCurve = BreakerCurve.B
    rcd_ma: float = 0.0
    sag_v: float = 0.0
    sag_at_a: float = 0.0

    def __post_init__(self) -> None:
        require_named("circuit", self.name)
        require_between("voltage_v", self.voltage_v, low=12.0, high=480.0, unit="V")
        require_between("breaker_a", self.breaker_a, low=1.0, high=400.0, unit="A")
        require_between("used_a", self.used_a, low=0.0, high=self.breaker_a, unit="A")
        require_between("rcd_ma", self.rcd_ma, low=0.0, high=1000.0, unit="mA")
        require_between("sag_v", self.sag_v, low=0.0, high=self.voltage_v / 2.0, unit="V")
        require_between("sag_at_a", self.sag_at_a, low=0.0, high=400.0, unit="A")
        if self.sag_v and not self.sag_at_a:
            raise BadValue("sag_at_a", "0 A", "the amps under which those volts were lost")

    def sag_under_v(self, amps: float) -> float:
        """Volts that its own wiring loses under some amps. Source: Ohm's law, by what was measured."""
        return self.sag_v * amps / self.sag_at_a if self.sag_at_a else 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Socket:
    """Where current comes out; ``circuit`` by its name, ``outlet``: the kind of plug that goes in."""

    socket_id: str
    name: str
    x_m: float
    y_m: float
    circuit: str
    outlet: str = HOUSE_PLUG

    def __post_init__(self) -> None:
        require_named("name", self.name)
        require_named("outlet", self.outlet)
        require_on_plan("position", self.x_m, self.y_m)


@dataclass(frozen=True, slots=True, kw_only=True)
class AmbientReading:
    """A meter held at a point, looking along a bearing and a tilt, with nothing of ours burning.

    ``taken_at`` is the place's own clock, ``weather`` that of the moment. ``cct_k`` and ``duv``: what a colour meter
    said there, 0 K where none was held up.
    """

    reading_id: str
    x_m: float
    y_m: float
    z_m: float
    bearing_deg: float
    tilt_deg: float
    illuminance_lx: float
    taken_at: datetime
    weather: Weather = Weather.OVERCAST
    note: str = ""
    cct_k: float = 0.0
    duv: float = 0.0

    def __post_init__(self) -> None:
        require_on_plan("position", self.x_m, self.y_m, self.z_m)
        if self.cct_k:
            require_cct("cct_k", self.cct_k)
        require_between("duv", self.duv, low=-0.05, high=0.05, unit="")
        require_between("illuminance_lx", self.illuminance_lx, low=0.001, high=BRIGHTEST_LX, unit="lx")
        require_between("tilt_deg", self.tilt_deg, low=-90.0, high=90.0, unit="degrees")
        require_time("taken_at", self.taken_at)
        require_showable("note", self.note, longest=LONGEST_NOTE, may_break=True)


@dataclass(frozen=True, slots=True, kw_only=True)
class KitArea:
    """A rectangle where kit may stand out of frame."""

    area_id: str
    name: str
    x_m: float
    y_m: float
    width_m: float
    depth_m: float

    def __post_init__(self) -> None:
        require_named("name", self.name)
        require_on_plan("position", self.x_m, self.y_m)
        require_positive("width_m", self.width_m, unit="m")
        require_positive("depth_m", self.depth_m, unit="m")


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """``north_deg``: the bearing of true north on the plan; ``is_wet``: water, hoses, wet ground; ``horizon``: what
    hides a low sun, by true bearing and angle.

    ``ground`` lies outside the rooms, and everywhere where there are none.
    """

    name: str
    latitude_deg: float = 0.0
    longitude_deg: float = 0.0
    time_zone: str = "UTC"
    north_deg: float = 0.0
    ground: str = "gravel"
    rooms: tuple[Room, ...] = ()
    house_lamps: tuple[HouseLamp, ...] = ()
    circuits: tuple[HouseCircuit, ...] = ()
    sockets: tuple[Socket, ...] = ()
    kit_areas: tuple[KitArea, ...] = ()
    readings: tuple[AmbientReading, ...] = ()
    surfaces: tuple[Surface, ...] = ()
    horizon: tuple[tuple[float, float], ...] = ()
    most_noise_db: float | None = None
    temperature_c: float | None = None
    is_wet: bool = False
    hazards: str = ""
    access: str = ""
    note: str = ""
    _by_name: dict[str, Surface] = field(default_factory=dict, init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        require_named("name", self.name)
        require_between("latitude", self.latitude_deg, low=-90.0, high=90.0, unit="degrees")
        require_between("longitude", self.longitude_deg, low=-180.0, high=180.0, unit="degrees")
        require_between("north", self.north_deg, low=-360.0, high=360.0, unit="degrees")
        try:
            ZoneInfo(self.time_zone)
        except (ZoneInfoNotFoundError, ValueError, OSError):
            raise BadValue("time_zone", repr(self.time_zone), "a zone such as UTC or Etc/GMT-1") from None
        if self.most_noise_db is not None:
            require_not_negative("most_noise_db", self.most_noise_db, unit="dB")
        if self.temperature_c is not None:
            require_temperature("temperature_c", self.temperature_c)
        for text_name in ("hazards", "access", "note"):
            require_showable(text_name, getattr(self, text_name), longest=LONGEST_NOTE, may_break=True)
        for list_name, most in MOST.items():
            require_at_most(list_name.replace("_", " "), len(getattr(self, list_name)), most)
        Horizon(points=self.horizon)
        self._by_name.update({each.name: each for each in (*TYPICAL_SURFACES, *self.surfaces)})
        _require_unlike("circuit", (each.name for each in self.circuits))
        _require_unlike("id", self.ids())
        for name in (self.ground, *(name for room in self.rooms for name in (*room.walls, room.floor, room.ceiling))):
            self.surface(name)
        known = {each.name for each in self.circuits}
        for socket in self.sockets:
            if socket.circuit not in known:
                raise BadValue(
                    "circuit",
                    repr(socket.circuit),
                    "a circuit of this place: " + (", ".join(sorted(known)) or "none is noted yet"),
                )

    def ids(self) -> tuple[str, ...]:
        """Of all its pieces."""
        return (
            *(room.room_id for room in self.rooms),
            *(opening.opening_id for room in self.rooms for opening in room.openings),
            *(each.lamp_id for each in self.house_lamps),
            *(each.socket_id for each in self.sockets),
            *(each.area_id for each in self.kit_areas),
            *(each.reading_id for each in self.readings),
        )

    def surface(self, name: str) -> Surface:
        """Raises: BadValue for one that is neither typical nor the place's own."""
        if name not in self._by_name:
            raise BadValue("surface", repr(name), "one of " + ", ".join(self._by_name))
        return self._by_name[name]

    def surface_names(self) -> tuple[str, ...]:
        """All that may be chosen here."""
        return tuple(self._by_name)

    def circuit(self, name: str) -> HouseCircuit | None:
        """The circuit of that name, if it is noted."""
        return next((each for each in self.circuits if each.name == name), None)


def _require_unlike(what: str, names: Iterable[str]) -> None:
    twice = next((name for name, count in Counter(names).items() if count > 1), None)
    if twice is not None:
        raise BadValue(what, repr(twice), f"a {what} that is used once in the place")
