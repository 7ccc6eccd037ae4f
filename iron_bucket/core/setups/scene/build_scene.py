"""A set-up in its place, as a scene that can be computed."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum

import numpy as np

from iron_bucket.core.arrays import Array, cross
from iron_bucket.core.bench.flag import FlagKind
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.colour.bands import luminous_shares, sent_on
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.tinting import NOTHING, Tinting
from iron_bucket.core.errors import BadValue
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.figure import Figure, Origin
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.beam_cut import WIDE_OPEN_DEG
from iron_bucket.core.modifiers.kinds import Board, Cloth, Frame
from iron_bucket.core.modifiers.lobe import MIRROR_DEG
from iron_bucket.core.modifiers.two_stage import Panel
from iron_bucket.core.places.bearing import along_bearing, bearing_of, tilt_of
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.scene.scene import Light, Mark, Scene, SceneFrame, SceneLamp, Solid
from iron_bucket.core.scene.skylight import OpenSky
from iron_bucket.core.setups.plan.setup import Person, Piece, PlacedFlag, PlacedFrame, PlacedLamp, Setup, Spot
from iron_bucket.core.setups.scene.fixture import Fixture, fixture_of, source_of
from iron_bucket.core.setups.scene.tinted import films_of, house_light


class Side(StrEnum):
    """Where on a person a meter is held."""

    NOSE = "nose"
    LEFT = "left"
    RIGHT = "right"
    BACK = "back"
    TOP = "top"


#: From the middle of a head to its skin; cheeks look this far off the nose, the back edge stands behind the ear line.
HEAD_RADIUS_M, CHEEK_DEG = 0.1, 55.0
#: Its sides lie just behind the meters, and between the cheeks and the back of the head.
_HEAD_SIDES_DEG, _HEAD_SIDE_M = (0.0, CHEEK_DEG, 125.0, 180.0, 235.0, 360.0 - CHEEK_DEG), HEAD_RADIUS_M - 0.001
_HEAD_HEIGHT_M, _NECK_M = 0.24, 0.3
#: A meter over the head, and one that looks slantwise up behind it, are held so many times as far off its middle.
_OUT = {Side.TOP: 1.3, Side.BACK: 1.1}
_SHOULDERS_M = 0.42
#: Leaves hang so far before the face that they belong to.
_HINGE_M = 0.005
#: Typical, docs/craft.md, section 3: what black cloth sends back.
_BLACK_REFLECTS = 0.03


class LightKind(StrEnum):
    LAMP = "lamp"
    HOUSE = "house"
    DAY = "day"


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class BuiltLight:
    """A light of the scene and what a page says of it.

    ``level`` is 0 where it is off; ``placed`` and ``fixture`` of our own lamps alone.
    """

    light: Light
    light_id: str
    name: str
    kind: LightKind
    colour: LightColour
    origin: Origin
    level: float
    lowest: float
    placed: PlacedLamp | None = None
    fixture: Fixture | None = None

    @property
    def cct_k(self) -> float:
        """Its temperature; NaN of what is no shade of white."""
        return self.colour.cct_k


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class BuiltMark:
    """A place where the level is looked at. ``side`` is empty for a spot, whose surface reflects ``reflectance``."""

    mark: Mark
    piece_id: str
    name: str
    side: str
    reflectance: float | None

    @property
    def mark_id(self) -> str:
        """Such as ``anna.left``, or the spot's own."""
        return self.mark.mark_id


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class BuiltScene:
    """A set-up ready to be computed. ``lights`` in the order of the scene's lamps, ``marks`` of its marks; faces are
    read by the house's ``receptor``, surfaces by a flat one.
    """

    setup: Setup
    surroundings: Surroundings
    scene: Scene
    lights: tuple[BuiltLight, ...]
    marks: tuple[BuiltMark, ...]
    receptor: Receptor
    films: Mapping[str, Tinting] = field(default_factory=dict)

    def mark_index(self, mark_id: str) -> int | None:
        """Where a mark stands in every table."""
        return next((at for at, mark in enumerate(self.marks) if mark.mark_id == mark_id), None)

    @property
    def band_shares(self) -> Array:
        """Of the lux of each light, what lies in each of three bands. Shape (L, 3)."""
        return luminous_shares(np.array([(each.colour.u, each.colour.v) for each in self.lights]).reshape(-1, 2))

    @property
    def levels(self) -> Array:
        """Shape (L,)."""
        return np.array([each.level for each in self.lights])


def build_scene(setup: Setup, surroundings: Surroundings, gear: Gear, rules: HouseRules) -> BuiltScene:
    """Raises: BadValue for gear that is not on the bench."""
    films = films_of(setup, gear)
    lights = [
        *(_own_light(setup, each, gear, rules) for each in setup.lamps),
        *lights_there(setup, surroundings, films, gear),
    ]
    faces = (mark for person in setup.people for mark in _sides(person, rules.receptor))
    marks = (*faces, *(_spot(each) for each in setup.spots))
    scene = Scene(
        lamps=tuple(each.light for each in lights),
        frames=tuple(scene_frame(each, gear) for each in setup.frames),
        solids=(
            *(solid_of(each, rules) for each in setup.flags),
            *(part for each in setup.people for part in _body(each)),
            *(leaf for each in lights for leaf in _leaves(each)),
        ),
        rooms=surroundings.rooms,
        walls=surroundings.walls_with_film(films),
        marks=tuple(each.mark for each in marks),
    )
    return BuiltScene(
        setup=setup,
        surroundings=surroundings,
        scene=scene,
        lights=tuple(lights),
        marks=marks,
        receptor=rules.receptor,
        films=films,
    )


def lights_there(
    setup: Setup, surroundings: Surroundings, films: Mapping[str, Tinting], gear: Gear
) -> tuple[BuiltLight, ...]:
    """Daylight at the hour of the set-up, through the films on the panes, and the lamps of the house as it changes
    them.
    """
    house, found = {each.lamp_id: each for each in setup.house}, []
    for each in surroundings.available_light(setup.when, setup.weather):
        if isinstance(each.light, OpenSky) and not _is_outdoors(setup, surroundings):
            continue
        named = each.light.lamp_id
        is_off = not each.is_daylight and named in setup.house_off
        # House and set-up number their lamps each by themselves.
        light = each.light if each.is_daylight else replace(each.light, lamp_id=f"house-{named}")
        film = films.get(named, NOTHING)
        colour, left = film.of(each.colour), 2.0**-film.stops
        if not each.is_daylight:
            colour, left = house_light(each.colour, house.get(named), gear)
        found.append(
            BuiltLight(
                light=light,
                light_id=light.lamp_id,
                name=each.name,
                kind=LightKind.DAY if each.is_daylight else LightKind.HOUSE,
                colour=colour,
                origin=each.origin,
                level=0.0 if is_off else left,
                lowest=1.0,
            )
        )
    return tuple(found)


def _is_outdoors(setup: Setup, surroundings: Surroundings) -> bool:
    """Whether anything that the open sky could light stands outside all rooms."""
    lit = (*setup.people, *setup.spots, *setup.frames)
    return any(surroundings.room_at(each.x_m, each.y_m) is None for each in lit)


def _own_light(setup: Setup, placed: PlacedLamp, gear: Gear, rules: HouseRules) -> BuiltLight:
    fixture = fixture_of(placed, gear, rules.scrim_school)
    return BuiltLight(
        light=source_of(placed, fixture, aim_of(setup, placed)),
        light_id=placed.piece_id,
        name=placed.name,
        kind=LightKind.LAMP,
        colour=fixture.colour(placed),
        origin=fixture.origin,
        level=fixture.level(placed),
        lowest=fixture.lowest_level,
        placed=placed,
        fixture=fixture,
    )


def position_of(piece: Piece) -> Array:
    """Shape (3,)."""
    return np.array([piece.x_m, piece.y_m, piece.z_m])


def aim_of(setup: Setup, placed: PlacedLamp) -> Array:
    """Where a lamp looks: at what it follows, else along its bearing and tilt. Shape (3,), length 1."""
    followed = setup.find(placed.aims_at) if placed.aims_at else None
    if followed is not None:
        ray = position_of(followed[1]) - position_of(placed)
        length = float(np.linalg.norm(ray))
        if length > 0.01:
            return np.asarray(ray / length)
    return along_bearing(placed.bearing_deg, placed.tilt_deg)


def aimed(setup: Setup, placed: PlacedLamp) -> tuple[float, float]:
    """Bearing and tilt of a lamp, whatever it follows."""
    aim = aim_of(setup, placed)
    return bearing_of(aim), tilt_of(aim)


def _sides(person: Person, receptor: Receptor) -> tuple[BuiltMark, ...]:
    """A person's nose, two cheeks, the edge behind the ears, the top of the head. Left is the person's own."""
    bearing = person.bearing_deg
    looks = {
        Side.NOSE: along_bearing(bearing),
        Side.LEFT: along_bearing(bearing - CHEEK_DEG),
        Side.RIGHT: along_bearing(bearing + CHEEK_DEG),
        Side.BACK: along_bearing(bearing + 180.0, 20.0),
        Side.TOP: np.array([0.0, 0.0, 1.0]),
    }
    middle = position_of(person)
    return tuple(
        BuiltMark(
            mark=Mark(
                mark_id=f"{person.piece_id}.{side}",
                position_m=middle + HEAD_RADIUS_M * _OUT.get(side, 1.0) * normal,
                normal=normal,
                is_dome=receptor is Receptor.DOME,
            ),
            piece_id=person.piece_id,
            name=f"{person.name}, {side}",
            side=side.value,
            reflectance=None,
        )
        for side, normal in looks.items()
    )


def _spot(spot: Spot) -> BuiltMark:
    normal = along_bearing(spot.bearing_deg, spot.tilt_deg)
    # A hand's breadth of air keeps the point off the wall it stands on.
    mark = Mark(mark_id=spot.piece_id, position_m=position_of(spot) + 0.01 * normal, normal=normal)
    return BuiltMark(mark=mark, piece_id=spot.piece_id, name=spot.name, side="", reflectance=spot.reflectance)


def panel_of(piece: Piece, width_m: float, height_m: float) -> Panel:
    """A flat thing whose front looks along its bearing and tilt."""
    front = along_bearing(piece.bearing_deg, piece.tilt_deg)
    across = along_bearing(piece.bearing_deg - 90.0)
    return Panel(
        centre_m=position_of(piece), side_x=across, side_y=cross(front, across), width_m=width_m, height_m=height_m
    )


def frame_parts(placed: PlacedFrame, gear: Gear) -> tuple[Frame, Cloth] | Board:
    """What it is made of. Raises:

    BadValue for gear that is not on the bench, and for a cloth that is not sold that large.
    """
    if placed.board:
        return gear.by_slug(Board, placed.board)
    frame = gear.by_slug(Frame, placed.frame)
    cloth = gear.by_slug(Cloth, placed.cloth)
    if not cloth.fits(frame):
        raise BadValue(
            "cloth",
            repr(cloth.name),
            f"one that comes {max(frame.width_m, frame.height_m):g} m wide; it ends at {cloth.widest_m:g} m",
        )
    return frame, cloth


def frame_size_m(placed: PlacedFrame, gear: Gear) -> tuple[float, float]:
    """Width and height."""
    parts = frame_parts(placed, gear)
    holder = parts if isinstance(parts, Board) else parts[0]
    return holder.width_m, holder.height_m


def flat_size_m(placed: PlacedFrame | PlacedFlag, gear: Gear) -> tuple[float, float]:
    """Width and height of anything flat that stands."""
    return (placed.width_m, placed.height_m) if isinstance(placed, PlacedFlag) else frame_size_m(placed, gear)


def half_height_m(placed: PlacedFrame | PlacedFlag, gear: Gear) -> float:
    """From its middle to its upper edge, as it is tilted.

    Source: a flat of height h, tilted by t, stands h cos t high.
    """
    return float(np.cos(np.radians(placed.tilt_deg)) * flat_size_m(placed, gear)[1] / 2.0)


def frame_figure(placed: PlacedFrame, gear: Gear) -> Figure:
    """What it passes or sends back. A meter's figure of that cloth counts where one class of head has it."""
    parts = frame_parts(placed, gear)
    part, stated = (parts, parts.reflectance) if isinstance(parts, Board) else (parts[1], parts[1].transmittance)
    found = next((each for each in gear.measured if each.modifier_slug == part.slug), None)
    return Figure(value=min(found.passes, 1.0), origin=Origin.MEASURED) if found else stated


def scene_frame(placed: PlacedFrame, gear: Gear) -> SceneFrame:
    """As it stands in the scene."""
    parts, passes = frame_parts(placed, gear), frame_figure(placed, gear).value
    panel = panel_of(placed, *frame_size_m(placed, gear))
    if isinstance(parts, Board):
        return SceneFrame(
            frame_id=placed.piece_id,
            panel=panel,
            reflectance=passes,
            lobe_deg=parts.lobe_deg,
            is_mirror=parts.lobe_deg < MIRROR_DEG,
            tint=sent_on(parts.shift_mired, 0.0),
        )
    cloth = parts[1]
    return SceneFrame(
        frame_id=placed.piece_id,
        panel=panel,
        transmittance=passes,
        straight_share=cloth.straight_share,
        lobe_deg=cloth.lobe_deg,
        back_reflectance=cloth.back_reflectance(passes),
        tint=sent_on(cloth.shift_mired, 0.0),
    )


def solid_of(flag: PlacedFlag, rules: HouseRules) -> Solid:
    """A flag or net; nets by the house's school."""
    layers = {FlagKind.SINGLE_NET: 1, FlagKind.DOUBLE_NET: 2}.get(flag.kind)
    passes = rules.scrim_school.transmittance(layers) if layers else 0.0
    return Solid(
        solid_id=flag.piece_id,
        panel=panel_of(flag, flag.width_m, flag.height_m),
        transmittance=passes,
        reflectance=0.0 if layers else _BLACK_REFLECTS,
    )


def _body(person: Person) -> tuple[Solid, ...]:
    """A head of flat sides, one close behind each meter that is held to it, and a body of two crossed upright boards:
    they stand in the light of others, and in the person's own from behind.
    """
    foot_to_neck_m = max(person.z_m - _NECK_M, 0.2)
    parts = []
    for turn in (0.0, 90.0):
        across = along_bearing(person.bearing_deg + turn)
        middle = np.array([person.x_m, person.y_m, foot_to_neck_m / 2.0])
        parts.append((f"body.{turn:g}", middle, across, _SHOULDERS_M, foot_to_neck_m))
    looks = np.array([along_bearing(person.bearing_deg + turn) for turn in _HEAD_SIDES_DEG])
    edges = np.array([_meet(one, other) for one, other in zip(looks, np.roll(looks, -1, axis=0), strict=True)])
    for at, (start, end) in enumerate(zip(np.roll(edges, 1, axis=0), edges, strict=True)):
        width_m = float(np.linalg.norm(end - start))
        middle = position_of(person) + (start + end) / 2.0
        parts.append((f"head.{at}", middle, (end - start) / width_m, width_m, _HEAD_HEIGHT_M))
    upright = np.array([0.0, 0.0, 1.0])
    return tuple(
        Solid(
            solid_id=f"{person.piece_id}.{name}",
            panel=Panel(centre_m=middle, side_x=across, side_y=upright, width_m=width_m, height_m=height_m),
        )
        for name, middle, across, width_m, height_m in parts
    )


def _leaves(light: BuiltLight) -> tuple[Solid, ...]:
    """Barn doors of a head that is a glowing face: four flat things hinged at its edges, each as long as it is wide."""
    lamp, fixture = light.light, light.fixture
    if not isinstance(lamp, SceneLamp) or lamp.face is None or fixture is None:
        return ()
    left, up = -lamp.face.width_along, cross(lamp.face.width_along, lamp.aim)
    leaves = []
    for at, (leaf_deg, way) in enumerate(zip(fixture.cut.doors_deg, (up, -up, left, -left), strict=True)):
        if leaf_deg < WIDE_OPEN_DEG:
            size_m, across_m = (lamp.face.height_m, lamp.face.width_m) if at < 2 else fixture.size_m
            opened = np.radians(leaf_deg)
            along = np.cos(opened) * lamp.aim + np.sin(opened) * way
            hinge = lamp.position_m + way * size_m / 2.0 + lamp.aim * _HINGE_M
            panel = Panel(
                centre_m=hinge + along * size_m / 2.0,
                side_x=cross(lamp.aim, way),
                side_y=along,
                width_m=across_m,
                height_m=size_m,
            )
            leaves.append(Solid(solid_id=f"{light.light_id}.leaf.{at}", panel=panel))
    return tuple(leaves)


def _meet(one: Array, other: Array) -> Array:
    """Where two sides of a head meet, off its middle. Source: of planes at one distance, along the line between."""
    between = one + other
    return np.asarray(_HEAD_SIDE_M * between / (between @ one))
