"""The ground that an arrangement begins on: where its middle is, how large it is, what it can be lit with."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from shapely import Point, Polygon

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.distribution import straight_cd
from iron_bucket.core.places.bearing import along_bearing, bearing_of, turn_between
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.rigging.headroom import highest_head_m
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.core.setups.plan.setup import PlacedLamp
from iron_bucket.core.setups.plan.written import placed_m

#: A room is filled to this share of its longer side; outside a set is so wide.
_FILL, _OUTSIDE_M, _LARGEST_M = 0.8, 8.0, 7.0
_OFF_WALL_M = 0.3
#: What stands in a wall is brought nearer by these shares of its distance, one after the other.
_NEARER = tuple(1.0 - 0.05 * step for step in range(19))
#: The subject stands past the room's middle by this share of its length.
_TOWARDS_BACK = 0.12
#: Eyes of somebody who sits.
FACE_M = 1.3
#: A window can be the key from aside: one at the camera's back is flat, one behind the subject an edge.
_ASIDE_DEG = (35.0, 125.0)
#: A sun of ours stands so far behind the glass.
_BEHIND_GLASS_M = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class PresetGround:
    """Middle of the set, its size, where the camera stands from the subject, how high lamps may go, the largest window
    of the room, and the floor that kit may stand on.
    """

    x_m: float
    y_m: float
    size_m: float
    towards_camera_deg: float
    ceiling_m: float
    look: Look
    gear: Gear
    window: Panel | None = None
    floor: Polygon | None = None

    def at(self, off_camera_deg: float, distance_m: float) -> Array:
        """A place so far from the subject, at an angle from the line to the camera, clockwise seen from above; nearer
        where a wall stands before it. Shape (2,).
        """
        away = distance_m * along_bearing(self.towards_camera_deg + off_camera_deg)[:2]
        place = self.subject_m
        for share in _NEARER:
            place = self.subject_m + share * away
            if self.floor is None or self.floor.contains(Point(*place)):
                break
        return place

    @property
    def subject_m(self) -> Array:
        """On the plan. Shape (2,)."""
        return np.array([self.x_m, self.y_m])

    def off_camera_deg(self, place_m: Array) -> float:
        """At which angle from the line to the camera something lies, clockwise seen from above."""
        return turn_between(self.towards_camera_deg, bearing_of(place_m - self._face))

    @property
    def window_side(self) -> float:
        """1 where the window lies clockwise of the line to the camera, or there is none; -1 where it lies the other
        way.
        """
        if self.window is None:
            return 1.0
        return (
            1.0 if turn_between(self.towards_camera_deg, bearing_of(self.window.centre_m - self._face)) >= 0 else -1.0
        )

    @property
    def behind_window(self) -> Array | None:
        """Where a lamp outside stands so that its light comes through the middle of the window to the face;

        None where the window does not lie aside.
        """
        if self.window is None or not _ASIDE_DEG[0] <= abs(self.off_camera_deg(self.window.centre_m)) <= _ASIDE_DEG[1]:
            return None
        ray = self.window.centre_m - self._face
        return np.asarray(self.window.centre_m + _BEHIND_GLASS_M * ray / np.linalg.norm(ray))

    @property
    def _face(self) -> Array:
        return np.array([self.x_m, self.y_m, FACE_M])

    def lamp(
        self,
        number: int,
        name: str,
        configuration: Configuration,
        off_deg: float,
        distance_m: float,
        height_m: float,
        **more: Any,
    ) -> PlacedLamp:
        """At an angle off the line to the camera, under the ceiling, unless ``more`` says otherwise."""
        place = np.append(self.at(off_deg, distance_m), min(height_m, highest_head_m(self.ceiling_m)))
        given: dict[str, Any] = placed_m(place) | more
        return PlacedLamp(piece_id=f"lamp-{number}", name=name, configuration=configuration.slug, **given)

    def soft(self) -> tuple[Configuration, str]:
        """A head of ours with a box on, the larger the better; where there is no box, a head with a face of its own."""
        heads = {head.slug: head for head in self.gear.heads}
        boxes = (face for face in self.gear.faces if face.is_owned and face.fitting)
        for face in sorted(boxes, key=lambda face: -face.width_m * face.height_m):
            fits = [each for each in self._ours() if each.takes_box and heads[each.head_slug].fitting == face.fitting]
            if fits:
                return max(fits, key=lambda each: (each.lumens, each.slug)), face.slug
        return self._strongest(lambda each: each.is_lambertian), ""

    def small(self) -> Configuration:
        """The lightest head of ours. Raises: BadValue without one."""
        heads = {head.slug: head for head in self.gear.heads}
        return min(self._able(lambda _: True), key=lambda each: (heads[each.head_slug].total_kg, each.slug))

    def narrow(self) -> Configuration:
        """The strongest of ours that leaves less than a third of its peak 30 degrees off its axis.

        Raises: BadValue without one.
        """
        return self._strongest(
            lambda each: (
                not each.is_lambertian
                and float(each.distribution.intensity_cd(30.0)) < 0.3 * straight_cd(each.distribution)
            )
        )

    def _ours(self) -> list[Configuration]:
        """Of heads that are owned and stay cool: nobody begins with what burns."""
        heads = {head.slug: head for head in self.gear.heads}
        return [
            each
            for each in self.gear.configurations
            if heads[each.head_slug].is_owned and not heads[each.head_slug].is_hot
        ]

    def _able(self, able: Callable[[Configuration], bool]) -> list[Configuration]:
        found = [each for each in self._ours() if able(each)]
        if not found:
            raise BadValue(
                "bench", "without a lamp for it", "a head of ours that suits this part; start empty, or add one"
            )
        return found

    def _strongest(self, able: Callable[[Configuration], bool]) -> Configuration:
        return max(self._able(able), key=lambda each: (each.lumens, each.slug))


def preset_ground(surroundings: Surroundings, look: Look, gear: Gear) -> PresetGround:
    """In the largest room, looking along its longer side; outside round the middle of the plan."""
    if not surroundings.rooms:
        return PresetGround(
            **placed_m(np.zeros(2)),
            size_m=_OUTSIDE_M,
            towards_camera_deg=180.0,
            ceiling_m=math.inf,
            look=look,
            gear=gear,
        )
    number = max(range(len(surroundings.rooms)), key=lambda at: surroundings.rooms[at].outline.area)
    room = surroundings.rooms[number]
    middle = room.outline.centroid if room.is_convex else room.outline.representative_point()
    across, up = (float(length) for length in room.corners_m.max(axis=0) - room.corners_m.min(axis=0))
    back = np.array([-across, 0.0] if across >= up else [0.0, up])
    panes = [each.panel for each in surroundings.panes_of(number)]
    return PresetGround(
        **placed_m(np.array([middle.x, middle.y]) + _TOWARDS_BACK * back),
        size_m=min(_FILL * max(across, up), _LARGEST_M),
        towards_camera_deg=90.0 if across >= up else 180.0,
        ceiling_m=room.height_m,
        look=look,
        gear=gear,
        window=max(panes, key=lambda panel: panel.width_m * panel.height_m, default=None),
        floor=room.outline.buffer(-_OFF_WALL_M),
    )
