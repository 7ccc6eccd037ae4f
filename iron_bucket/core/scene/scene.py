"""The things in a scene. Vectors have shape (3,); directions have length 1."""

from collections import Counter
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

import numpy as np

from iron_bucket.core.arrays import Array, angle_rad
from iron_bucket.core.checks import require_between, require_not_negative, require_positive, require_share, require_word
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.lobe import MATT_DEG
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.distribution import IntensityDistribution
from iron_bucket.core.scene.blocking import NO_TINT, Blocker, Blockers
from iron_bucket.core.scene.box_room import BoxRoom
from iron_bucket.core.scene.polygon_room import PolygonRoom
from iron_bucket.core.scene.skylight import OpenSky, Window

#: How far from square two sides may be, as the cosine between them.
_SQUARE = 1e-4
#: What stands on a wall may lie this far beyond it.
ON_WALL_M = 1e-6


def direction(field: str, vector: Array) -> Array:
    """A vector brought to length 1. Raises: BadValue for one of three numbers that has no direction."""
    array = np.asarray(vector, dtype=float)
    if array.shape != (3,) or not np.isfinite(array).all():
        raise BadValue(field, np.array2string(array, separator=", "), "three numbers [x, y, z]")
    length = float(np.linalg.norm(array))
    if length < 1e-9:
        raise BadValue(field, "[0, 0, 0]", "a vector with a direction")
    return array / length


def place(field: str, vector: Array) -> Array:
    """A position. Raises: BadValue unless it is three numbers."""
    array = np.asarray(vector, dtype=float)
    if array.shape != (3,) or not np.isfinite(array).all() or np.abs(array).max() > 1e5:
        raise BadValue(field, np.array2string(array, separator=", "), "three numbers [x, y, z] in metres")
    return array


def require_square(field: str, one: Array, other: Array) -> None:
    """Two directions at a right angle."""
    if abs(float(one @ other)) > _SQUARE:
        raise BadValue(field, f"{np.degrees(angle_rad(one @ other)):.1f} degrees from the other", "a right angle")


class LitShape(StrEnum):
    DISC = "disc"
    RECTANGLE = "rectangle"


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class GlowingFace:
    """An evenly glowing Lambertian face. A disc has its diameter in both sides; ``width_along`` is square to the
    lamp's aim.

    ``cutoff_deg``: cells on the face, the full angle beyond which nothing passes.
    """

    shape: LitShape
    width_m: float
    height_m: float
    luminance_cd_m2: float
    width_along: Array
    cutoff_deg: float | None = None

    def __post_init__(self) -> None:
        require_positive("width_m", self.width_m, unit="m")
        require_positive("height_m", self.height_m, unit="m")
        require_not_negative("luminance_cd_m2", self.luminance_cd_m2, unit="cd/m2")

    @property
    def area_m2(self) -> float:
        """Of the glowing part."""
        return self.width_m * self.height_m * (np.pi / 4.0 if self.shape is LitShape.DISC else 1.0)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SceneLamp:
    """A small source with its ``intensity``, or a ``face``; one of the two. ``level``: share of full output."""

    lamp_id: str
    position_m: Array
    aim: Array
    intensity: IntensityDistribution | None = None
    face: GlowingFace | None = None
    level: float = 1.0

    def __post_init__(self) -> None:
        require_word("id", self.lamp_id)
        if (self.intensity is None) == (self.face is None):
            raise BadValue("intensity", "both or neither of intensity and face", "one of the two")
        require_not_negative("level", self.level, unit="of full output")
        if self.face is not None:
            require_square("width_along", self.face.width_along, self.aim)

    @property
    def ball_m(self) -> tuple[Array, float]:
        """Middle and radius of a ball that holds it."""
        return self.position_m, max(self.face.width_m, self.face.height_m) if self.face else 0.0


#: All that sends light of its own.
Light = SceneLamp | Window | OpenSky


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SceneFrame:
    """A cloth (``transmittance``) or a bounce (``reflectance``). ``straight_share`` of what a cloth passes is only
    dimmed, the rest scattered; ``back_reflectance`` of what falls on it goes back matt from the side it came from.

    ``lobe_deg``: half width of the scattering about the way that light was going (cloth) or its mirror image (bounce);
    90 is matt, whatever way it came. ``is_mirror``: a bounce that shows the lamps and scatters nothing. ``tint``: what
    it makes of three bands of light, over what it makes of all of it.
    """

    frame_id: str
    panel: Panel
    transmittance: float | None = None
    reflectance: float | None = None
    straight_share: float = 0.0
    lobe_deg: float = MATT_DEG
    back_reflectance: float = 0.0
    is_mirror: bool = False
    tint: tuple[float, float, float] = NO_TINT

    def __post_init__(self) -> None:
        require_word("id", self.frame_id)
        require_between("lobe_deg", self.lobe_deg, low=3.0, high=MATT_DEG, unit="degrees")
        if (self.transmittance is None) == (self.reflectance is None):
            raise BadValue("transmittance", "both or neither of transmittance and reflectance", "one of the two")
        for field, value in (
            ("transmittance", self.transmittance),
            ("reflectance", self.reflectance),
            ("straight_share", self.straight_share),
            ("back_reflectance", self.back_reflectance),
        ):
            if value is not None:
                require_share(field, value)
        if self.reflectance is not None and self.straight_share:
            raise BadValue("straight_share", self.straight_share, "0 for a bounce: nothing goes straight through it")
        if self.reflectance is not None and self.back_reflectance:
            raise BadValue("back_reflectance", self.back_reflectance, "0 for a bounce: it has its reflectance")
        if self.is_mirror and self.reflectance is None:
            raise BadValue("mirror", "true of a cloth", "a mirror only where there is a reflectance")
        if self.transmittance is not None and self.transmittance + self.back_reflectance > 1.0:
            raise BadValue("back_reflectance", self.back_reflectance, "no more than the transmittance leaves")
        require_square("side_y", self.panel.side_x, self.panel.side_y)

    @property
    def scatterer_id(self) -> str:
        """Its id, as of anything that sends light on."""
        return self.frame_id

    @property
    def through_share(self) -> float:
        """Of what lands on it, scattered on the far side."""
        return 0.0 if self.transmittance is None else self.transmittance * (1.0 - self.straight_share)

    @property
    def back_share(self) -> float:
        """Of what lands on it, scattered on the side it came from."""
        if self.is_mirror:
            return 0.0
        return self.back_reflectance if self.reflectance is None else self.reflectance

    @property
    def straight_transmittance(self) -> float:
        """Of a ray that meets it, what goes on along its line."""
        return 0.0 if self.transmittance is None else self.transmittance * self.straight_share


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Solid:
    """A flag, cutter or net: rays through it keep ``transmittance``.

    ``reflectance``: what goes back matt from the side that light came from.
    """

    solid_id: str
    panel: Panel
    transmittance: float = 0.0
    reflectance: float = 0.0

    def __post_init__(self) -> None:
        require_word("id", self.solid_id)
        require_share("transmittance", self.transmittance)
        require_share("reflectance", self.reflectance)
        if self.transmittance + self.reflectance > 1.0:
            raise BadValue("reflectance", self.reflectance, "no more than the transmittance leaves")
        require_square("side_y", self.panel.side_x, self.panel.side_y)

    @property
    def scatterer_id(self) -> str:
        """Its id, as of anything that sends light on."""
        return self.solid_id

    @property
    def through_share(self) -> float:
        """A net scatters nothing through."""
        return 0.0

    @property
    def back_share(self) -> float:
        """Of what lands on it, scattered on the side it came from."""
        return self.reflectance

    @property
    def lobe_deg(self) -> float:
        """Matt."""
        return MATT_DEG

    @property
    def tint(self) -> tuple[float, float, float]:
        """None: black cloth and nets."""
        return NO_TINT


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Mark:
    """Where a meter is held, which way it looks, and whether by its dome."""

    mark_id: str
    position_m: Array
    normal: Array
    is_dome: bool = False

    def __post_init__(self) -> None:
        require_word("id", self.mark_id)


@dataclass(frozen=True, kw_only=True, eq=False)
class Scene:
    """Everything. ``rooms`` reflect; ``walls`` stand in the way, with their openings. Where a box is the only room,
    lamps and marks are inside it. ``band``: the one of three that light is followed in, None: all at once.
    """

    lamps: tuple[Light, ...]
    frames: tuple[SceneFrame, ...] = ()
    solids: tuple[Solid, ...] = ()
    rooms: tuple[BoxRoom | PolygonRoom, ...] = ()
    walls: tuple[Blocker, ...] = ()
    marks: tuple[Mark, ...] = ()
    band: int | None = None

    def __post_init__(self) -> None:
        for kind, names in (
            ("lamps", [each.lamp_id for each in self.lamps]),
            ("frames", [each.frame_id for each in self.frames]),
            ("solids", [each.solid_id for each in self.solids]),
            ("marks", [each.mark_id for each in self.marks]),
        ):
            twice = next((name for name, count in Counter(names).items() if count > 1), None)
            if twice is not None:
                raise BadValue("id", repr(twice), f"an id that is used once among the {kind}")
        for room in self.rooms:
            if isinstance(room, BoxRoom):
                self._require_inside(np.array(room.dimensions_m))

    @property
    def scatterers(self) -> "tuple[SceneFrame | Solid, ...]":
        """All that sends light on beside the walls: the frames, then the solids that reflect."""
        return (*self.frames, *(each for each in self.solids if each.reflectance))

    @property
    def mirrors(self) -> tuple[SceneFrame, ...]:
        """The frames that show the lamps."""
        return tuple(each for each in self.frames if each.is_mirror)

    @cached_property
    def blockers(self) -> Blockers:
        """Walls, solids, and frames by what they let straight through."""
        solids = [Blocker(panel=each.panel, passes=each.transmittance) for each in self.solids]
        frames = [Blocker(panel=each.panel, passes=each.straight_transmittance, tint=each.tint) for each in self.frames]
        every = (*self.walls, *solids, *frames)
        return Blockers.of(every if self.band is None else [each.in_band(self.band) for each in every])

    @property
    def meets_tint(self) -> np.ndarray:
        """Which lamps may send light straight through what tints it: any where a cloth does, else those that a tinted
        pane parts from a mark. Shape (L,).
        """
        tinting = [part for blocker in self.blockers for part in blocker.tinting]
        if not tinting or not self.lamps:
            return np.zeros(len(self.lamps), dtype=bool)
        panes = [part.panel for blocker in self.walls for part in blocker.tinting]
        marks = np.array([mark.position_m for mark in self.marks]).reshape(-1, 3)
        return np.array(
            [
                len(panes) < len(tinting)
                or (isinstance(lamp, SceneLamp) and any(_parts(panel, lamp.position_m, marks) for panel in panes))
                for lamp in self.lamps
            ]
        )

    def _require_inside(self, dimensions_m: Array) -> None:
        named = [
            *((each.lamp_id, each.position_m) for each in self.lamps if isinstance(each, SceneLamp)),
            *((each.mark_id, each.position_m) for each in self.marks),
        ]
        for name, position in named:
            if (position < -ON_WALL_M).any() or (position > dimensions_m + ON_WALL_M).any():
                size = " × ".join(f"{side:g}" for side in dimensions_m)
                raise BadValue("position_m", f"{position.tolist()} of {name!r}", f"a place inside the room of {size} m")


def _parts(panel: Panel, place_m: Array, others_m: Array) -> bool:
    """Whether a place lies on the other side of a plane than some others."""
    side = float(panel.normal @ (place_m - panel.centre_m))
    return bool((((others_m - panel.centre_m) @ panel.normal) * side < 0.0).any())
