"""What was computed of lights, kept while nothing that it depends on changes: a dimmer moves no geometry, and one lamp that is dragged moves no other."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.scene.mark_levels import UnitResponse, unit_response
from iron_bucket.core.setups.evaluate.lit_scene import SET_FRAME_POINTS
from iron_bucket.core.setups.scene.build_scene import BuiltLight, BuiltScene, LightKind

#: One light's row is some kilobytes; this many are a few dozen megabytes.
MOST_KEPT = 6000
#: While something moves its frames are cut more coarsely: within a hundredth of a stop of what follows when it is let go.
_PASSING_FRAME_POINTS = 5
_KEPT: OrderedDict[Hashable, UnitResponse] = OrderedDict()
_LOCK = threading.Lock()


_STAGES: OrderedDict[Hashable, BuiltScene] = OrderedDict()
MOST_STAGES = 64


def kept_scene(key: Hashable, make: Callable[[], BuiltScene]) -> BuiltScene:
    """A state that is asked for again and again while something is dragged away from it."""
    with _LOCK:
        if key in _STAGES:
            return _STAGES[key]
    built = make()
    with _LOCK:
        _STAGES[key] = built
        while len(_STAGES) > MOST_STAGES:
            _STAGES.popitem(last=False)
    return built


def response_for(built: BuiltScene) -> UnitResponse:
    """Every light's row, those at hand from before."""
    keys = _keys(built)
    with _LOCK:
        found = {key: _KEPT[key] for key in keys if key in _KEPT}
        for key in found:
            _KEPT.move_to_end(key)
    missing = [at for at, key in enumerate(keys) if key not in found]
    if missing:
        scene = replace(built.scene, lamps=tuple(built.scene.lamps[at] for at in missing))
        fresh = unit_response(scene, built.surroundings.grids, frame_points=SET_FRAME_POINTS)
        with _LOCK:
            for row, at in enumerate(missing):
                found[keys[at]] = _KEPT[keys[at]] = _row(fresh, row)
            while len(_KEPT) > MOST_KEPT:
                _KEPT.popitem(last=False)
    return _stacked([found[key] for key in keys], built)


def passing_response_for(built: BuiltScene, before: BuiltScene) -> UnitResponse:
    """For a piece on the move: what is not at hand is computed without the walls, whose share is taken as it was ``before``."""
    keys = _keys(built)
    with _LOCK:
        found = {key: _KEPT[key] for key in keys if key in _KEPT}
    missing = [at for at, key in enumerate(keys) if key not in found]
    if missing:
        scene = replace(built.scene, lamps=tuple(built.scene.lamps[at] for at in missing))
        fresh = unit_response(scene, with_walls=False, frame_points=_PASSING_FRAME_POINTS)
        old = response_for(before) if len(before.marks) == len(built.marks) else None
        places = {light.light_id: at for at, light in enumerate(before.lights)}
        for row, at in enumerate(missing):
            place = places.get(built.lights[at].light_id)
            alone = _row(fresh, row)
            if old is not None and place is not None:
                alone = replace(
                    alone,
                    first_bounce_lx=old.first_bounce_lx[place : place + 1],
                    indirect_lx=old.indirect_lx[place : place + 1],
                    walls_lx=old.walls_lx[place : place + 1],
                )
            found[keys[at]] = alone
    return _stacked([found[key] for key in keys], built)


def _keys(built: BuiltScene) -> list[Hashable]:
    setup = built.setup
    around: Hashable = (
        built.surroundings.place,
        tuple(replace(each, name="-") for each in setup.people),
        tuple(replace(each, name="-", reflectance=0.0) for each in setup.spots),
        tuple(replace(each, name="-") for each in setup.frames),
        tuple(each.panel.width_m for each in built.scene.frames),  # gear of the same slug may have changed on the bench
        tuple(
            (each.transmittance, each.reflectance, each.straight_share, each.lobe_deg) for each in built.scene.frames
        ),
        tuple(replace(each, name="-") for each in setup.flags),
        tuple(each.transmittance for each in built.scene.solids),
    )
    shared = hash(around)  # once for all lights: tuples do not keep theirs
    return [(shared, _light_key(built, light)) for light in built.lights]


def _light_key(built: BuiltScene, light: BuiltLight) -> Hashable:
    if light.placed is not None and light.fixture is not None:
        aim = tuple(light.light.aim.tolist()) if hasattr(light.light, "aim") else ()
        bare = replace(
            light.placed,
            name="-",
            bearing_deg=0.0,
            tilt_deg=0.0,
            aims_at="",
            level=1.0,
            is_on=True,
            cct_k=0.0,
            feed="",
            purpose="",
            motivation="",
            alternate="",
            is_locked=False,
            group="",
        )
        return (bare, aim, light.fixture.axis_cd, light.fixture.configuration.offset_m)
    if light.kind is LightKind.DAY:
        return (light.light_id, built.setup.when, built.setup.weather)
    return light.light_id


def _row(response: UnitResponse, at: int) -> UnitResponse:
    one = slice(at, at + 1)
    return UnitResponse(
        direct_lx=response.direct_lx[one],
        via_lx=response.via_lx[one],
        share_caught=response.share_caught[one],
        first_bounce_lx=response.first_bounce_lx[one],
        indirect_lx=response.indirect_lx[one],
        walls_lx=response.walls_lx[one],
    )


def _stacked(rows: list[UnitResponse], built: BuiltScene) -> UnitResponse:
    """Rows one below the other; with no lights, empty tables of the right width."""
    if not rows:
        return unit_response(replace(built.scene, lamps=()), with_walls=False)
    return UnitResponse(
        direct_lx=np.concatenate([row.direct_lx for row in rows]),
        via_lx=np.concatenate([row.via_lx for row in rows]),
        share_caught=np.concatenate([row.share_caught for row in rows]),
        first_bounce_lx=np.concatenate([row.first_bounce_lx for row in rows]),
        indirect_lx=np.concatenate([row.indirect_lx for row in rows]),
        walls_lx=np.concatenate([_padded(row.walls_lx, max(row.walls_lx.shape[1] for row in rows)) for row in rows]),
    )


def _padded(walls: Array, width: int) -> Array:
    """A light that is new in passing has nothing on the walls yet."""
    return walls if walls.shape[1] == width else np.zeros((1, width))
