"""What was placed: camera, people, measuring points, lamps, frames, flags, and what is wanted of them."""

from collections import Counter
from dataclasses import dataclass, field, replace
from datetime import datetime
from enum import StrEnum
from typing import Any

from iron_bucket.core.bench.flag import FlagKind
from iron_bucket.core.checks import (
    require_at_most,
    require_between,
    require_cct,
    require_share,
    require_showable,
    require_time,
)
from iron_bucket.core.colour.gel_stacks import MOST_SHEETS
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.effects.effect import Effect, EffectKind
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.beam_cut import OPEN_DOORS, OPEN_SHUTTERS, BeamCut, Four
from iron_bucket.core.modifiers.kinds import ScrimSchool
from iron_bucket.core.places.place import LONGEST_NAME, LONGEST_NOTE, Gloss, require_named, require_on_plan
from iron_bucket.core.setups.plan.look import Look

#: docs/craft.md, section 2: a third of a stop is what a meter and an eye agree on.
TYPICAL_TOLERANCE_STOPS = 1.0 / 3.0
#: What nobody minds much. Source: docs/craft.md, section 5, between hardly seen and clear.
TYPICAL_TOLERANCE_MIRED = 20.0
HIGHEST_M = 60.0
#: Layers of gauze before the lower half of a lens.
HALF_SCRIMS = {"": 0, "single": 1, "double": 2}


class Width(StrEnum):
    """How close the camera is."""

    WIDE = "wide"
    MEDIUM = "medium"
    TIGHT = "tight"


@dataclass(frozen=True, slots=True, kw_only=True)
class Camera:
    """Where the lens stands, and where it looks."""

    x_m: float = 0.0
    y_m: float = 0.0
    z_m: float = 1.5
    bearing_deg: float = 0.0
    tilt_deg: float = 0.0
    focal_mm: float = 35.0

    def __post_init__(self) -> None:
        require_on_plan("camera", self.x_m, self.y_m)
        require_between("camera height", self.z_m, low=0.0, high=HIGHEST_M, unit="m")
        require_between("focal length", self.focal_mm, low=3.0, high=2000.0, unit="mm")
        require_between("tilt", self.tilt_deg, low=-90.0, high=90.0, unit="degrees")


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """Anything that stands somewhere and looks somewhere.

    ``z_m`` is the height of its middle; ``group`` moves together.
    """

    piece_id: str
    name: str
    x_m: float
    y_m: float
    z_m: float
    bearing_deg: float = 0.0
    tilt_deg: float = 0.0
    group: str = ""
    is_locked: bool = False

    def __post_init__(self) -> None:
        require_named("name", self.name)
        require_showable("id", self.piece_id, longest=LONGEST_NAME)
        require_showable("group", self.group, longest=LONGEST_NAME)
        require_on_plan("position", self.x_m, self.y_m)
        require_between("height", self.z_m, low=0.0, high=HIGHEST_M, unit="m")
        require_between("tilt", self.tilt_deg, low=-90.0, high=90.0, unit="degrees")
        require_between("bearing", self.bearing_deg, low=-3600.0, high=3600.0, unit="degrees")


@dataclass(frozen=True, slots=True, kw_only=True)
class Person(Piece):
    """``z_m``: the height of the face; ``bearing_deg``: where the nose points."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Position(Piece):
    """Where somebody walks to, in the order of the list; where the ``person`` stands in the set-up is the first."""

    person: str

    def __post_init__(self) -> None:
        Piece.__post_init__(self)
        require_showable("person", self.person, longest=LONGEST_NAME)


@dataclass(frozen=True, slots=True, kw_only=True)
class Spot(Piece):
    """A measuring point on a wall or an object, which looks out of the surface. ``reflectance``: of that surface;
    ``gloss``: whether lamps show in it.
    """

    reflectance: float = 0.3
    gloss: Gloss = Gloss.NONE

    def __post_init__(self) -> None:
        Piece.__post_init__(self)
        require_share("reflectance", self.reflectance)


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedLamp(Piece):
    """A head in one configuration, with what it wears, by slug. ``aims_at``: a person or spot that it follows.
    ``level``: share of full output.

    ``doors_deg`` to ``slide``: what cuts its beam, as in ``BeamCut``. ``cct_k`` and ``tint``: what a head that can is
    set to; 0 for as it comes; tint in full gels, plus is green. ``colour_xy``: instead, of a full colour head.
    ``effect``: what it plays, with events a second and depth, 0 for the usual.
    ``feed``: a socket's id, or a kind of battery. ``alternate``: what would do instead.
    """

    configuration: str
    sheets: tuple[str, ...] = ()
    face: str = ""
    grid: str = ""
    doors_deg: Four = OPEN_DOORS
    snoot_m: float = 0.0
    half_scrims: str = ""
    iris: float = 1.0
    shutters: Four = OPEN_SHUTTERS
    slide: str = ""
    cct_k: float = 0.0
    tint: float = 0.0
    colour_xy: tuple[float, ...] = ()
    effect: str = ""
    effect_rate: float = 0.0
    effect_depth: float = 0.0
    effect_seed: int = 1
    level: float = 1.0
    is_on: bool = True
    aims_at: str = ""
    feed: str = ""
    purpose: str = ""
    motivation: str = ""
    alternate: str = ""

    def __post_init__(self) -> None:
        Piece.__post_init__(self)
        require_between("level", self.level, low=0.0001, high=1.0, unit="of full output")
        if self.cct_k:
            require_cct("cct", self.cct_k)
        require_between("tint", self.tint, low=-3.0, high=3.0, unit="full gels")
        _ = self.played
        if len(self.colour_xy) not in (0, 2):
            raise BadValue("colour", repr(self.colour_xy), "x and y, or nothing")
        for words in (self.purpose, self.motivation, self.alternate):
            require_showable("note", words, longest=LONGEST_NOTE, may_break=True)
        if self.half_scrims not in HALF_SCRIMS:
            raise BadValue("half-scrims", repr(self.half_scrims), "none, single or double")
        self.cut(ScrimSchool.HALF_AND_ONE)

    @property
    def is_practical(self) -> bool:
        """Whether the picture shows it, by what is said of it."""
        return "practical" in f"{self.piece_id} {self.name} {self.purpose} {self.motivation}".casefold()

    @property
    def played(self) -> Effect | None:
        """What it plays; None where it burns steadily. Raises: BadValue."""
        if not self.effect:
            return None
        if self.effect not in list(EffectKind):
            raise BadValue("effect", repr(self.effect), ", ".join(EffectKind))
        usual = Effect.usual(EffectKind(self.effect), self.effect_seed)
        return replace(usual, rate_hz=self.effect_rate or usual.rate_hz, depth=self.effect_depth or usual.depth)

    def cut(self, school: ScrimSchool) -> BeamCut:
        """All that cuts its beam."""
        return BeamCut(
            doors_deg=self.doors_deg,
            snoot_m=self.snoot_m,
            half_passes=school.transmittance(HALF_SCRIMS[self.half_scrims]),
            iris=self.iris,
            shutters=self.shutters,
            slide=self.slide,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedFrame(Piece):
    """A frame with a cloth, or a board, by slug; one of the two. ``bearing_deg``: where its front looks."""

    frame: str = ""
    cloth: str = ""
    board: str = ""

    def __post_init__(self) -> None:
        Piece.__post_init__(self)
        if bool(self.board) == bool(self.frame and self.cloth):
            raise BadValue("frame", "neither or both", "a frame with its cloth, or a board")


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedFlag(Piece):
    """A flag, cutter, net or black cloth."""

    width_m: float = 0.6
    height_m: float = 0.9
    kind: FlagKind = FlagKind.SOLID

    def __post_init__(self) -> None:
        Piece.__post_init__(self)
        require_between("width", self.width_m, low=0.05, high=20.0, unit="m")
        require_between("height", self.height_m, low=0.05, high=20.0, unit="m")


@dataclass(frozen=True, slots=True, kw_only=True)
class Target:
    """Where one mark should lie: a side of a person (such as ``anna.key``) or a spot, in stops from middle exposure."""

    piece_id: str
    mark: str
    stops: float
    tolerance: float = TYPICAL_TOLERANCE_STOPS

    def __post_init__(self) -> None:
        require_between("stops", self.stops, low=-16.0, high=12.0, unit="stops")
        require_between("tolerance", self.tolerance, low=0.05, high=4.0, unit="stops")


@dataclass(frozen=True, slots=True, kw_only=True)
class ColourTarget:
    """What colour one mark should have, off the white balance: above 0 warmer, and greener; ``tolerance`` in mired."""

    piece_id: str
    mark: str
    mired: float = 0.0
    duv: float = 0.0
    tolerance: float = TYPICAL_TOLERANCE_MIRED

    def __post_init__(self) -> None:
        require_between("warmer", self.mired, low=-400.0, high=600.0, unit="mired")
        require_between("greener", self.duv, low=-0.05, high=0.05, unit="")
        require_between("tolerance", self.tolerance, low=1.0, high=200.0, unit="mired")


#: What film on a window may take.
LEAST_FILM_STOPS, MOST_FILM_STOPS = 0.05, 8.0


@dataclass(frozen=True, slots=True, kw_only=True)
class WindowFilm:
    """Film that this set-up puts on a window of the place: ND of so many stops, and colour gels by slug."""

    piece_id: str
    opening_id: str
    stops: float = 0.0
    sheets: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        least = 0.0 if self.sheets else LEAST_FILM_STOPS
        require_between("film", self.stops, low=least, high=MOST_FILM_STOPS, unit="stops")
        require_at_most("gels on a window", len(self.sheets), MOST_SHEETS)


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseColour:
    """What this set-up does to the colour of a lamp of the house: another globe of ``globe_k`` and ``globe_duv``, 0 for
    its own, and gels round it, by slug.
    """

    piece_id: str
    lamp_id: str
    globe_k: float = 0.0
    globe_duv: float = 0.0
    sheets: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        if self.globe_k:
            require_cct("globe", self.globe_k)
        require_between("globe tint", self.globe_duv, low=-0.05, high=0.05, unit="")
        require_at_most("gels round a lamp", len(self.sheets), MOST_SHEETS)


#: The lists of a set-up by name, and what stands in each.
LISTS: dict[str, type] = {
    "people": Person,
    "positions": Position,
    "spots": Spot,
    "lamps": PlacedLamp,
    "frames": PlacedFrame,
    "flags": PlacedFlag,
    "targets": Target,
    "films": WindowFilm,
    "house": HouseColour,
    "colour_targets": ColourTarget,
}
#: A crowded set-up has half of it; with all of it a page still answers while somebody waits.
MOST = {
    "people": 20,
    "positions": 20,
    "spots": 40,
    "lamps": 40,
    "frames": 12,
    "flags": 30,
    "targets": 100,
    "films": 60,
    "house": 80,
    "colour_targets": 100,
    "house_off": 80,
}
PLACED = ("people", "positions", "spots", "lamps", "frames", "flags")


@dataclass(frozen=True, slots=True, kw_only=True)
class Setup:
    """One pass of one set-up.

    ``when`` is the place's own clock. ``house_off``: lamps of the house that are switched off for it.
    """

    name: str
    width: Width = Width.WIDE
    when: datetime = datetime(2026, 6, 1, 12, 0)
    weather: Weather = Weather.OVERCAST
    look: Look = field(default_factory=Look)
    camera: Camera = field(default_factory=Camera)
    people: tuple[Person, ...] = ()
    positions: tuple[Position, ...] = ()
    spots: tuple[Spot, ...] = ()
    lamps: tuple[PlacedLamp, ...] = ()
    frames: tuple[PlacedFrame, ...] = ()
    flags: tuple[PlacedFlag, ...] = ()
    targets: tuple[Target, ...] = ()
    films: tuple[WindowFilm, ...] = ()
    house: tuple[HouseColour, ...] = ()
    colour_targets: tuple[ColourTarget, ...] = ()
    house_off: tuple[str, ...] = ()
    note: str = ""

    def __post_init__(self) -> None:
        require_named("name", self.name)
        require_showable("note", self.note, longest=LONGEST_NOTE, may_break=True)
        require_time("when", self.when)
        for list_name, most in MOST.items():
            require_at_most(list_name, len(getattr(self, list_name)), most)
        ids = [each.piece_id for name in LISTS for each in getattr(self, name)]
        twice = next((name for name, count in Counter(ids).items() if count > 1), None)
        if twice is not None:
            raise BadValue("id", repr(twice), "an id that is used once in the set-up")

    def positions_of(self, person_id: str) -> tuple[Position, ...]:
        """Where somebody walks to, one after the other."""
        return tuple(each for each in self.positions if each.person == person_id)

    def find(self, piece_id: str) -> tuple[str, Any] | None:
        """A piece and the list that it is in."""
        return next(((name, each) for name in LISTS for each in getattr(self, name) if each.piece_id == piece_id), None)

    def with_piece(self, piece_id: str, **changes: Any) -> "Setup":
        """The same with one piece changed. Raises: KeyError where there is none of that id."""
        found = self.find(piece_id)
        if found is None:
            raise KeyError(piece_id)
        name = found[0]
        pieces = tuple(replace(each, **changes) if each.piece_id == piece_id else each for each in getattr(self, name))
        changed: dict[str, Any] = {name: pieces}
        return replace(self, **changed)
