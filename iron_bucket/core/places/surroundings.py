"""A place as what surrounds a scene: rooms that reflect, walls that stand in the way, and the light that is there."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from functools import cached_property, lru_cache, partial
from zoneinfo import ZoneInfo

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.colour.light_colour import LightColour, mixed
from iron_bucket.core.colour.tinting import NOTHING, Tinting
from iron_bucket.core.daylight.horizon import Horizon
from iron_bucket.core.daylight.sky import Daylight, Weather, daylight
from iron_bucket.core.daylight.sky_luminance import SkyLuminance
from iron_bucket.core.daylight.sun import SunPosition, sun_position
from iron_bucket.core.figure import Origin
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.photometry.distribution import CosinePower
from iron_bucket.core.photometry.steady import Steady
from iron_bucket.core.places.bearing import along_bearing
from iron_bucket.core.places.daylight_readings import Carried, ReadingFactor, carried
from iron_bucket.core.places.lead_way import LeadWays
from iron_bucket.core.places.place import AmbientReading, OpeningKind, Place, Room, WallOpening
from iron_bucket.core.scene.blocking import NO_TINT, Blocker, Blockers
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.polygon_room import CEILING, Opening, PolygonRoom
from iron_bucket.core.scene.room_grid import RoomGrid
from iron_bucket.core.scene.scene import Light, Mark, Scene, SceneLamp
from iron_bucket.core.scene.skylight import OpenSky, Window
from iron_bucket.core.scene.sunlight import sun_lamp

#: What clear glass sends back into a room, typical; a doorway nothing.
_GLASS_REFLECTS = 0.1
_SAME_PLANE_M = 0.02
#: Where less arrives by the plan, a reading of daylight says nothing of the sky.
_LEAST_COMPUTED_LX = 1e-3
#: With less daylight in it than that, a reading of colour says nothing of the day.
_MOST_DAYLIGHT = 0.5


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class AvailableLight:
    """A light that is there: its name, its colour, and where its level comes from."""

    light: Light
    name: str
    colour: LightColour
    origin: Origin
    is_daylight: bool


@dataclass(eq=False)
class Surroundings:
    """Made once for a place; ``rooms`` in the order of the place's."""

    place: Place

    @cached_property
    def rooms(self) -> tuple[PolygonRoom, ...]:
        """With the openings of each, and those of neighbours in a shared wall."""
        bare = tuple(_bare_room(self.place, room) for room in self.place.rooms)
        found = []
        for at, room in enumerate(self.place.rooms):
            own = [_opening(bare[at], room, each) for each in room.openings]
            shared = [
                _seen_from(bare[at], _opening(bare[other_at], other, each))
                for other_at, other in enumerate(self.place.rooms)
                if other_at != at
                for each in other.openings
            ]
            found.append(replace(bare[at], openings=(*own, *(each for each in shared if each is not None))))
        return tuple(found)

    @cached_property
    def _with_shapes(self) -> tuple[tuple[PolygonRoom, Room], ...]:
        return tuple(zip(self.rooms, self.place.rooms, strict=True))

    @cached_property
    def lead_ways(self) -> LeadWays:
        """How leads lie here."""
        return LeadWays(rooms=self.place.rooms, shapes=self.rooms)

    def fed_by(self, place: Place) -> "Surroundings":
        """The same rooms, solved as they are, with other circuits and sockets."""
        found = Surroundings(place)
        found.__dict__.update({"grids": self.grids, "lead_ways": self.lead_ways} | self.__dict__ | {"place": place})
        return found

    @cached_property
    def walls(self) -> tuple[Blocker, ...]:
        """All that stands in the way."""
        return tuple(blocker for room in self.rooms for blocker in room.blockers())

    @cached_property
    def laid_walls(self) -> Blockers:
        """The same laid out for many rays."""
        return Blockers.of(self.walls)

    def walls_with_film(self, films: Mapping[str, Tinting]) -> tuple[Blocker, ...]:
        """The same with film on some openings, by their ids: it dims and tints whatever comes through, sun and lamps
        alike.
        """
        if not films:
            return self.walls
        return tuple(
            blocker
            for shape, room in self._with_shapes
            for blocker in replace(shape, openings=_filmed(shape, room, films)).blockers()
        )

    @cached_property
    def grids(self) -> tuple[RoomGrid, ...]:
        """Ready to be lit; the radiosity of each is solved once."""
        return tuple(RoomGrid.of(room) for room in self.rooms)

    def room_at(self, x_m: float, y_m: float) -> int | None:
        """Which room a place on the plan is in."""
        spot = np.array([[x_m, y_m, 0.5]])
        return next((at for at, room in enumerate(self.rooms) if room.holds(spot)[0]), None)

    def rooms_at(self, positions_m: Array) -> np.ndarray:
        """The same for many, by their places on the plan: the room's number, -1 outside. Shapes (N, 3) to (N,)."""
        inside = np.array([room.holds(positions_m) for room in self.rooms]).reshape(len(self.rooms), len(positions_m))
        return np.where(inside.any(axis=0), inside.argmax(axis=0) if len(inside) else 0, -1)

    def sun(self, when: datetime) -> SunPosition:
        """Where it stands at a time of the place's own clock."""
        return _sun_at(self, when)

    def is_hidden(self, sun: SunPosition) -> bool:
        """Whether it stands behind what rises round the place."""
        return Horizon(points=self.place.horizon).hides(sun.altitude_deg, sun.azimuth_deg)

    def sun_bearing_deg(self, sun: SunPosition) -> float:
        """The sun's bearing on the plan."""
        return (sun.azimuth_deg + self.place.north_deg) % 360.0

    def available_light(self, when: datetime, weather: Weather) -> tuple[AvailableLight, ...]:
        """Sun, sky and windows at a time, and the lamps of the house.

        Daylight follows the readings of the place, each as a ratio that fades with the hours from it.
        """
        return (*_daylight_of(self, when, weather), *self._house_lamps())

    def sun_light(self, when: datetime, weather: Weather) -> AvailableLight | None:
        """The sun of all that alone; None where it does not shine."""
        return _sun_of(self, when, weather)

    def _as_read(self, by_day: tuple[AvailableLight, ...], when: datetime) -> tuple[AvailableLight, ...]:
        found = carried(self.reading_factors, when)
        if found is None:
            return by_day
        origin = Origin.MEASURED if found.is_measured else Origin.TYPICAL
        return tuple(
            replace(each, light=_brighter(each.light, found.factor), colour=_as_read(each.colour, found), origin=origin)
            for each in by_day
        )

    def _sun(self, sun: SunPosition, there: Daylight) -> tuple[AvailableLight, ...]:
        if not there.sun_lx:
            return ()
        towards = along_bearing(self.sun_bearing_deg(sun), sun.altitude_deg)
        return (_day(sun_lamp(towards, there.sun_lx), "sun", LightColour.of_daylight(there.sun_k)),)

    def _daylight(self, sun: SunPosition, there: Daylight, weather: Weather) -> tuple[AvailableLight, ...]:
        found: list[AvailableLight] = []
        towards = along_bearing(self.sun_bearing_deg(sun), sun.altitude_deg)
        if there.sky_lx:
            sky = SkyLuminance(
                kind=str(weather),
                horizontal_lx=there.sky_lx,
                ground_reflectance=self.place.surface(self.place.ground).reflectance,
                sun_towards=towards,
                sun_normal_lx=there.sun_lx,
            )
            sky_colour, sun_colour = map(LightColour.of_daylight, (there.sky_k, there.sun_k))
            found.append(_day(OpenSky(lamp_id="sky", sky=sky, rooms=self.rooms), "sky", sky_colour))
            found += [
                self._pane(_opening(shape, room, each).panel, each, sky, sky_colour, sun_colour)
                for shape, room in self._with_shapes
                for each in room.openings
                if not self._leads_inside(shape, room, each)
            ]
        return (*found, *self._sun(sun, there))

    def _pane(
        self, panel: Panel, each: WallOpening, sky: SkyLuminance, sky_colour: LightColour, sun_colour: LightColour
    ) -> AvailableLight:
        """A window: the sky through its glass; what hangs before it glows with the sun as well."""
        light = _window(panel, each, sky)
        outwards = -panel.normal
        by_sky = sky.on_plane_lx_without_sun(outwards)
        by_sun = sky.on_plane_lx(outwards) - by_sky
        scattered = each.passes - each.passes_straight
        shares = (by_sky * each.passes, by_sun * scattered)
        colour = mixed((sky_colour, sun_colour), shares) or sky_colour
        return _day(light, each.name, colour.shifted(each.glass_mired, each.glass_duv))

    def panes_of(self, number: int) -> tuple[Opening, ...]:
        """Openings in the walls of one room that the sky shows through."""
        shape, room = self.rooms[number], self.place.rooms[number]
        return tuple(
            _opening(shape, room, each)
            for each in room.openings
            if each.wall != CEILING and each.passes > 0.0 and not self._leads_inside(shape, room, each)
        )

    @property
    def doorways_to_nothing(self) -> tuple[str, ...]:
        """Doorways behind which no room is recorded, by name: they count as open to the sky."""
        return tuple(
            f"{each.name} of {room.name}"
            for shape, room in self._with_shapes
            for each in room.openings
            if each.kind is OpeningKind.DOORWAY and not self._leads_inside(shape, room, each)
        )

    def _leads_inside(self, shape: PolygonRoom, room: Room, opening: WallOpening) -> bool:
        """Whether another room lies behind it: then no sky does."""
        panel = _opening(shape, room, opening).panel
        behind = panel.centre_m - 0.1 * panel.normal
        return any(other is not shape and bool(other.holds(behind[None])[0]) for other in self.rooms)

    def _house_lamps(self) -> tuple[AvailableLight, ...]:
        """Source: I0 = Phi / pi of a matt face that looks down, Phi / 4 pi of a bare globe."""
        found = []
        for each in self.place.house_lamps:
            if not each.is_on:
                continue
            shape = (
                Steady(candela=each.lumens / (4.0 * np.pi))
                if each.is_bare
                else CosinePower(peak_cd=each.lumens / np.pi, exponent=1.0)
            )
            lamp = SceneLamp(
                lamp_id=each.lamp_id,
                position_m=np.array([each.x_m, each.y_m, each.z_m]),
                aim=np.array([0.0, 0.0, -1.0]),
                intensity=shape,
            )
            found.append(
                AvailableLight(
                    light=lamp,
                    name=each.name,
                    colour=LightColour.of_cct(each.cct_k, each.duv, Origin.CLAIMED),
                    origin=Origin.CLAIMED,
                    is_daylight=False,
                )
            )
        return tuple(found)

    @cached_property
    def reading_factors(self) -> tuple[ReadingFactor, ...]:
        """Every reading of daylight over what is computed for its own time and weather; darkness says nothing."""
        found = []
        for each in self.place.readings:
            by_day = self._by_day(each.taken_at, each.weather)
            lights = (*by_day, *self._house_lamps())
            mark = Mark(
                mark_id=each.reading_id,
                position_m=np.array([each.x_m, each.y_m, each.z_m]),
                normal=along_bearing(each.bearing_deg, each.tilt_deg),
            )
            scene = Scene(lamps=tuple(each.light for each in lights), rooms=self.rooms, walls=self.walls, marks=(mark,))
            whole = unit_response(scene, self.grids, fineness=SET).whole_lx[:, 0]
            computed_lx = float(whole[: len(by_day)].sum())
            left_lx = each.illuminance_lx - float(whole[len(by_day) :].sum())
            if computed_lx > _LEAST_COMPUTED_LX and left_lx > 0.0:
                factor = left_lx / computed_lx
                whole[: len(by_day)] *= factor
                shift = _colour_shift(each, lights, whole, left_lx / each.illuminance_lx)
                found.append(ReadingFactor(reading=each, factor=factor, shift=shift))
        return tuple(found)

    def _by_day(self, when: datetime, weather: Weather) -> tuple[AvailableLight, ...]:
        return self._daylight(*self._there(when, weather), weather)

    def _there(self, when: datetime, weather: Weather) -> tuple[SunPosition, Daylight]:
        """Sun and sky over the place; a sun behind what rises round it lights nothing here."""
        sun = self.sun(when)
        there = daylight(weather, sun.altitude_deg)
        return sun, replace(there, sun_lx=0.0) if self.is_hidden(sun) else there


@lru_cache(maxsize=2000)
def _sun_at(around: Surroundings, when: datetime) -> SunPosition:
    place = around.place
    local = when.replace(tzinfo=ZoneInfo(place.time_zone))
    return sun_position(local, latitude_deg=place.latitude_deg, longitude_deg=place.longitude_deg)


@lru_cache(maxsize=1000)
def _daylight_of(around: Surroundings, when: datetime, weather: Weather) -> tuple[AvailableLight, ...]:
    """Kept: all passes of a day in one place ask for the same hours."""
    return around._as_read(around._by_day(when, weather), when)


@lru_cache(maxsize=2000)
def _sun_of(around: Surroundings, when: datetime, weather: Weather) -> AvailableLight | None:
    return next(iter(around._as_read(around._sun(*around._there(when, weather)), when)), None)


def _day(light: Light, name: str, colour: LightColour) -> AvailableLight:
    return AvailableLight(light=light, name=name, colour=colour, origin=Origin.TYPICAL, is_daylight=True)


def _colour_shift(
    reading: AmbientReading, lights: Sequence[AvailableLight], levels_lx: Array, by_day: float
) -> tuple[float, float] | None:
    """What its daylight must be shifted by for the point to read as it was read, tint of walls left out; None where no
    colour was read, or most of the light was no daylight.
    """
    there = mixed([each.colour for each in lights], levels_lx.tolist())
    if not reading.cct_k or by_day < _MOST_DAYLIGHT or there is None or not there.is_white:
        return None
    return (1e6 / reading.cct_k - there.mired) / by_day, (reading.duv - there.duv) / by_day


def _as_read(colour: LightColour, found: Carried) -> LightColour:
    shifted = colour.shifted(found.shift_mired, found.shift_duv)
    return LightColour.of(shifted.uv, Origin.MEASURED) if found.is_colour_measured else shifted


def _brighter(light: Light, factor: float) -> Light:
    if isinstance(light, SceneLamp):
        return replace(light, intensity=Steady(candela=light.intensity.candela * factor))  # type: ignore[union-attr]
    return light.brighter(factor)


def _window(panel: Panel, opening: WallOpening, sky: SkyLuminance) -> Window:
    """A pane: what hangs before it glows with all that falls on its outer side, the sun too."""
    scattered = opening.passes - opening.passes_straight
    return Window(
        lamp_id=opening.opening_id,
        panel=panel,
        passes=opening.passes_straight,
        sky=sky,
        is_glass=opening.kind is not OpeningKind.DOORWAY,
        glow_cd_m2=scattered * sky.on_plane_lx(-panel.normal) / np.pi if scattered else 0.0,
    )


def _bare_room(place: Place, room: Room) -> PolygonRoom:
    surfaces = [place.surface(name) for name in (*room.walls, room.floor, room.ceiling)]
    *walls, floor, ceiling = (each.reflectance for each in surfaces)
    return PolygonRoom(
        corners_m=np.array(room.corners, dtype=float),
        height_m=room.height_m,
        walls=tuple(walls),
        floor=floor,
        ceiling=ceiling,
        tints=tuple(each.tint for each in surfaces) if any(each.is_tinted for each in surfaces) else (),
    )


def _opening(shape: PolygonRoom, room: Room, each: WallOpening) -> Opening:
    """A window of the place as a rectangle in its wall."""
    is_glass = each.kind is not OpeningKind.DOORWAY
    pane = partial(
        Opening,
        passes=each.passes_straight,
        reflectance=_GLASS_REFLECTS if is_glass else 0.0,
        is_glass=is_glass,
        tint=NOTHING.bands(each.glass_mired, each.glass_duv),
    )
    if each.wall == CEILING:
        centre = np.array([each.along_m, each.sill_m, room.height_m])
        panel = Panel(
            centre_m=centre,
            side_x=np.array([1.0, 0.0, 0.0]),
            side_y=np.array([0.0, -1.0, 0.0]),
            width_m=each.width_m,
            height_m=each.height_m,
        )
        return pane(surface=CEILING, panel=panel)
    wall = shape.wall(each.wall)
    first_corner = np.append(shape.corners_m[each.wall], 0.0)
    centre = first_corner - each.along_m * wall.side_x + (each.sill_m + each.height_m / 2.0) * wall.side_y
    panel = replace(wall, centre_m=centre, width_m=each.width_m, height_m=each.height_m)
    return pane(surface=each.wall, panel=panel)


def _filmed(shape: PolygonRoom, room: Room, films: Mapping[str, Tinting]) -> tuple[Opening, ...]:
    """Openings of a room, its own first, with the film that is put on them."""
    on = [films.get(each.opening_id, NOTHING) for each in room.openings]
    own = tuple(
        replace(opening, passes=opening.passes * 2.0**-film.stops, tint=film.bands(each.glass_mired, each.glass_duv))
        for opening, each, film in zip(shape.openings, room.openings, on, strict=False)
    )
    return (*own, *shape.openings[len(own) :])


def _seen_from(shape: PolygonRoom, opening: Opening) -> Opening | None:
    """A neighbour's opening in this room's wall, where the two walls are one."""
    if opening.surface == CEILING:
        return None
    for number in range(len(shape.corners_m)):
        wall = shape.wall(number)
        offset = opening.panel.centre_m - wall.centre_m
        facing: Array = wall.normal + opening.panel.normal
        if (
            np.linalg.norm(facing) < 1e-3
            and abs(offset @ wall.normal) < _SAME_PLANE_M
            and abs(offset @ wall.side_x) < wall.width_m / 2.0
        ):
            panel = replace(
                wall,
                centre_m=opening.panel.centre_m - (offset @ wall.normal) * wall.normal,
                width_m=opening.panel.width_m,
                height_m=opening.panel.height_m,
            )
            # Light through it meets the neighbour's own pane, and is tinted there.
            return replace(opening, surface=number, panel=panel, tint=NO_TINT)
    return None
