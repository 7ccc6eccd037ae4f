"""The light of one set-up through a day, as if nothing but the sun and the sky changed."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import cached_property

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.colour.bands import XYZ_FROM_BANDS, bands_of
from iron_bucket.core.daylight.sky import Weather
from iron_bucket.core.daylight.sun import SunPosition
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.light_levels import levels_lx
from iron_bucket.core.scene.mark_levels import banded_response
from iron_bucket.core.scene.scene import SceneLamp
from iron_bucket.core.scene.skylight import Window
from iron_bucket.core.scene.standing import Standing, mark_points
from iron_bucket.core.scene.sunlight import is_sun
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.evaluate.mark_colours import xyz_at_marks
from iron_bucket.core.setups.plan.camera_view import camera_position
from iron_bucket.core.setups.scene.build_scene import BuiltLight, LightKind, lights_there

#: Sky and what comes off the walls are computed so often, twice as often while the sun is low, and taken straight in
#: between, in stops; where the sun itself falls is looked at in every step.
KNOT = timedelta(hours=1)
STEP = timedelta(minutes=5)
_LOW_SUN_DEG = 12.0
#: As a set-up is computed, but for the edges of the sun's patches, which move on within minutes; frames are cut alike
#: for marks and for walls, so that what lies on them is looked at once.
_FINENESS = replace(SET, splits_suns=False, frame_points=SET.wall_frame_points)
#: Less than that has no logarithm to speak of.
_DARK = 1e-6


@dataclass(frozen=True, kw_only=True, eq=False)
class HoursOfLight:
    """``lit``: at the hour of the set-up, whose lamps burn all day. Shapes, with T times and M marks: xyz (T, M, 3), Y
    in lux, of all light together; sun_lx (T, M) of the sun's own beam; ``windows_cd_m2``: each pane as the camera sees
    it, by its id, (T,).
    """

    lit: LitScene
    times: tuple[datetime, ...]
    suns: tuple[SunPosition, ...]
    xyz: Array
    sun_lx: Array
    windows_cd_m2: dict[str, Array]

    @property
    def lux(self) -> Array:
        """Shape (T, M)."""
        return np.asarray(self.xyz[:, :, 1])

    @cached_property
    def is_sunlit(self) -> np.ndarray:
        """Where the sun itself falls, as far as it counts. Shape (T, M)."""
        return np.asarray(self.sun_lx > 0.02 * np.maximum(self.lux, _DARK))


def hours_of_light(
    lit: LitScene,
    gear: Gear,
    times: Sequence[datetime],
    standing: Standing | None = None,
    sky_at: Callable[[datetime], Weather] | None = None,
) -> HoursOfLight:
    """``standing``: what stands about in the set-up, where it is at hand; ``sky_at``: what sky stands when, that of the
    set-up where nothing says so. ``times`` rise in steps of ``STEP``.
    """
    built, setup = lit.built, lit.built.setup
    around = built.surroundings
    sky_at = sky_at or (lambda _: setup.weather)
    suns = tuple(around.sun(when) for when in times)
    knots = _knots(times, suns)
    there = [lights_there(replace(setup, when=when, weather=sky_at(when)), around, built.films, gear) for when in knots]
    by_day = [[light for light in some if light.kind is LightKind.DAY] for some in there]
    xyz, sun_xyz = _at_knots(lit, by_day, standing)
    at, knot_at = (np.array([(each - datetime.min) / STEP for each in some]) for some in (times, knots))
    own = _of_sun(lit, times, sky_at)
    off_sun = np.stack([_between(knot_at, each, at) for each in (xyz, sun_xyz)]).sum(axis=0)
    burning = np.array([light.kind is not LightKind.DAY for light in built.lights], dtype=bool)
    lamps = xyz_at_marks(lit)[burning].sum(axis=0)
    return HoursOfLight(
        lit=lit,
        times=tuple(times),
        suns=suns,
        xyz=lamps + off_sun + own,
        sun_lx=own[:, :, 1],
        windows_cd_m2=_windows(lit, by_day, knot_at, at),
    )


def _knots(times: Sequence[datetime], suns: Sequence[SunPosition]) -> list[datetime]:
    a_knot = int(KNOT / STEP)
    chosen = [
        at
        for at, sun in enumerate(suns)
        if at % a_knot == 0 or (2 * at % a_knot == 0 and abs(sun.altitude_deg) < _LOW_SUN_DEG)
    ]
    return [times[at] for at in sorted({*chosen, len(times) - 1})]


def _at_knots(lit: LitScene, by_day: list[list[BuiltLight]], standing: Standing | None) -> tuple[Array, Array]:
    """At every knot the light of windows and sky, and what becomes of the sun's after it has met something. Shapes
    (K, M, 3).
    """
    built = lit.built
    marks = len(built.marks)
    numbered = [(at, light) for at, some in enumerate(by_day) for light in some]
    off_sky, off_sun = np.zeros((2, len(by_day), marks, 3))
    lights = tuple(
        replace(light, light_id=f"{number}", light=replace(light.light, lamp_id=f"{number}"))
        for number, (_, light) in enumerate(numbered)
    )
    scene = replace(built.scene, lamps=tuple(light.light for light in lights))
    about = standing.looked_at(_FINENESS) if standing else None
    banded = banded_response(scene, built.surroundings.grids, fineness=_FINENESS, standing=about)
    is_no_sun = np.array([not _is_sun(light) for light in lights], dtype=bool)[:, None]
    alone = tuple(replace(each, direct_lx=each.direct_lx * is_no_sun) for each in banded)
    there = LitScene(built=replace(built, scene=scene, lights=lights), banded=alone)
    xyz = xyz_at_marks(there)
    for row, (at, light) in enumerate(numbered):
        (off_sun if _is_sun(light) else off_sky)[at] += xyz[row]
    return off_sky, off_sun


def _is_sun(light: BuiltLight) -> bool:
    return isinstance(light.light, SceneLamp) and is_sun(light.light)


def _between(knot_at: Array, values: Array, at: Array) -> Array:
    """Straight in stops between the knots. Shapes (K,), (K, ...), (T,) to (T, ...)."""
    flat = np.log(values.reshape(len(knot_at), -1) + _DARK)
    rows = np.array([np.interp(at, knot_at, column) for column in flat.T]).T
    return np.asarray(np.maximum(np.exp(rows) - _DARK, 0.0)).reshape(len(at), *values.shape[1:])


def _of_sun(lit: LitScene, times: Sequence[datetime], sky_at: Callable[[datetime], Weather]) -> Array:
    """The sun's own beam at every mark, through what tints it. Shape (T, M, 3)."""
    built, around = lit.built, lit.built.surroundings
    found = np.zeros((len(times), len(built.marks), 3))
    there = [(row, around.sun_light(when, sky_at(when))) for row, when in enumerate(times)]
    shining = [(row, sun) for row, sun in there if sun is not None and built.marks]
    if not shining:
        return found
    rows, lights = zip(*shining, strict=True)
    marks = mark_points([mark.mark for mark in built.marks])
    # One ray each: its disc would soften an edge by half a degree, two minutes of its way.
    points = replace(marks, are_many=True)
    in_bands = bands_of(np.array([sun.colour.uv for sun in lights]))
    for band in range(3):
        scene = replace(built.scene, band=band)
        level = levels_lx([sun.light for sun in lights], points, scene.blockers)
        found[list(rows)] += (level * in_bands[:, band, None])[:, :, None] * XYZ_FROM_BANDS[:, band]
    return found


def _windows(lit: LitScene, by_day: list[list[BuiltLight]], knot_at: Array, at: Array) -> dict[str, Array]:
    eye, found = camera_position(lit.built.setup.camera), {}
    panes = [light.light_id for light in lit.built.lights if isinstance(light.light, Window)]
    for name in panes:
        seen = np.zeros(len(by_day))
        for row, some in enumerate(by_day):
            for each in some:
                if each.light_id == name and isinstance(each.light, Window):
                    seen[row] = each.light.seen_from_cd_m2(eye) * each.level
        found[name] = _between(knot_at, seen, at)
    return found


def times_of_day(day_start: datetime, hours: float = 16.0) -> tuple[datetime, ...]:
    """Every step of so many hours."""
    return tuple(day_start + STEP * each for each in range(int(timedelta(hours=hours) / STEP) + 1))
