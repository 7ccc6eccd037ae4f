"""Every light's row of a built scene, computed once while nothing that it depends on changes: a dimmer moves no
geometry, and one lamp that is dragged moves no other.
"""

from collections.abc import Callable, Hashable, Sequence
from dataclasses import replace
from typing import Protocol, TypeVar

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.scene.fineness import PASSING, SET
from iron_bucket.core.scene.mark_levels import BandedResponse, UnitResponse, banded_response, in_bands
from iron_bucket.core.scene.standing import Standing
from iron_bucket.core.setups.scene.build_scene import BuiltLight, BuiltScene, LightKind

Value = TypeVar("Value")


class Kept(Protocol[Value]):
    """Where something is kept between evaluations."""

    def get_or_make(self, key: Hashable, make: Callable[[], Value]) -> Value:
        """What is at hand, or what ``make`` gives, kept for the next."""
        ...


class Rows(Protocol):
    """Where rows are kept between evaluations."""

    def get(self, key: Hashable) -> BandedResponse | None:
        """What is at hand."""
        ...

    def put(self, key: Hashable, value: BandedResponse) -> None:
        """Keep it."""
        ...


class RowKey:
    """All that a row depends on, compared by value.

    The hash of what is shared by all lights is taken once: tuples do not keep theirs.
    """

    __slots__ = ("_hash", "_value")

    def __init__(self, value: Hashable) -> None:
        self._value, self._hash = value, hash(value)

    def __hash__(self) -> int:
        return self._hash

    def __eq__(self, other: object) -> bool:
        return isinstance(other, RowKey) and self._value == other._value


def response_for(built: BuiltScene, rows: Rows, standings: Kept[Standing]) -> BandedResponse:
    """Every light's row, those at hand from before; ``standings``: what stands about, of scenes before."""
    keys = row_keys(built)
    found = [rows.get(key) for key in keys]
    missing = [at for at, row in enumerate(found) if row is None]
    if missing:
        scene = replace(built.scene, lamps=tuple(built.scene.lamps[at] for at in missing))
        standing = standing_for(built, standings)
        fresh = banded_response(scene, built.surroundings.grids, fineness=SET, standing=standing)
        for row, at in enumerate(missing):
            found[at] = _row(fresh, row, 1.0 / _passes(built.lights[at]))
            rows.put(keys[at], found[at])  # type: ignore[arg-type]
    return _stacked([_dimmed(row, built.lights[at]) for at, row in enumerate(found) if row is not None], built)


def standing_for(built: BuiltScene, standings: Kept[Standing]) -> Standing:
    """What stands about in it, at hand from before where it was computed with other lamps."""
    bare, grids = replace(built.scene, lamps=()), built.surroundings.grids
    key = next(iter(row_keys(built)), (built,))[0]
    return standings.get_or_make(key, lambda: Standing.of(bare, grids, with_walls=True, fineness=SET))


def passing_response_for(
    built: BuiltScene, before: BuiltScene, rows: Rows, standings: Kept[Standing]
) -> BandedResponse:
    """For a piece on the move: what is not at hand is computed without the walls, whose share is taken as it was
    ``before``.
    """
    keys = row_keys(built)
    found = [rows.get(key) for key in keys]
    missing = [at for at, row in enumerate(found) if row is None]
    if missing:
        scene = replace(built.scene, lamps=tuple(built.scene.lamps[at] for at in missing))
        bare = replace(scene, lamps=())
        standing = standings.get_or_make(
            ("passing", keys[0][0]), lambda: Standing.of(bare, with_walls=False, fineness=PASSING)
        )
        fresh = banded_response(scene, with_walls=False, fineness=PASSING, standing=standing)
        old = response_for(before, rows, standings) if len(before.marks) == len(built.marks) else None
        places = {light.light_id: at for at, light in enumerate(before.lights)}
        for row, at in enumerate(missing):
            place = places.get(built.lights[at].light_id)
            alone = _row(fresh, row, 1.0 / _passes(built.lights[at]))
            if old is not None and place is not None:
                was = _row(old, place, 1.0 / _passes(before.lights[place]))
                alone = tuple(map(_with_walls_of, in_bands(alone, len(was)), was))
            found[at] = alone
    return _stacked([_dimmed(row, built.lights[at]) for at, row in enumerate(found) if row is not None], built)


def _with_walls_of(row: UnitResponse, was: UnitResponse) -> UnitResponse:
    walls = {name: getattr(was, name) for name in ("first_bounce_lx", "indirect_lx", "walls_lx")}
    return replace(row, **walls)


def row_keys(built: BuiltScene) -> list[tuple[RowKey, Hashable]]:
    """One for each light: what stands about it, and the light itself as far as its row depends on it."""
    setup = built.setup
    around = RowKey(
        (
            built.surroundings.place,
            built.receptor,
            tuple(replace(each, name="-") for each in setup.people),
            tuple(replace(each, name="-", reflectance=0.0) for each in setup.spots),
            tuple(replace(each, name="-") for each in setup.frames),
            tuple(each.panel.width_m for each in built.scene.frames),  # gear of the same slug may have changed
            tuple(
                (each.through_share, each.back_share, each.straight_transmittance, each.lobe_deg, each.tint)
                for each in built.scene.frames
            ),
            tuple(replace(each, name="-") for each in setup.flags),
            tuple((each.transmittance, each.reflectance) for each in built.scene.solids),
            tuple(each.panel.centre_m.tobytes() + each.panel.side_x.tobytes() for each in built.scene.solids),
            _films(built),
        )
    )
    return [(around, _light_key(built, light)) for light in built.lights]


def _light_key(built: BuiltScene, light: BuiltLight) -> Hashable:
    if light.placed is not None and light.fixture is not None:
        aim = tuple(light.light.aim.tolist()) if hasattr(light.light, "aim") else ()
        placed = light.placed
        geometry = (placed.piece_id, placed.x_m, placed.y_m, placed.z_m)
        scatters = tuple(sheet.scatter for sheet in light.fixture.sheets if sheet.scatter)
        gear = (placed.configuration, scatters, placed.face, placed.grid, light.fixture.cut)
        undimmed_cd = round(light.fixture.axis_cd / light.fixture.sheets_pass, 6)
        return (geometry, gear, aim, undimmed_cd, light.fixture.configuration.offset_m)
    if light.kind is LightKind.DAY:
        return (light.light_id, built.setup.when, built.setup.weather)
    return light.light_id


def _films(built: BuiltScene) -> Hashable:
    """What stands on the panes: every ray through one is dimmed and tinted by it."""
    return tuple(sorted((name, each.stops, each.shift_mired, each.duv) for name, each in built.films.items()))


def _passes(light: BuiltLight) -> float:
    """What gels, nets and scrims on a lamp let through: they change its row by that factor alone."""
    return light.fixture.sheets_pass if light.fixture else 1.0


def _dimmed(row: BandedResponse, light: BuiltLight) -> BandedResponse:
    """A row that is at hand, behind what the lamp wears now."""
    return row if _passes(light) == 1.0 else _row(row, 0, _passes(light))


def _row(banded: BandedResponse, at: int, factor: float) -> BandedResponse:
    """A row of its own, so many times as bright: a view would hold all the others in memory."""
    one = slice(at, at + 1)
    return tuple(
        UnitResponse(
            direct_lx=each.direct_lx[one] * factor,
            via_lx=each.via_lx[one] * factor,
            share_caught=each.share_caught[one].copy(),
            first_bounce_lx=each.first_bounce_lx[one] * factor,
            indirect_lx=each.indirect_lx[one] * factor,
            walls_lx=each.walls_lx[one] * factor,
        )
        for each in banded
    )


def _stacked(rows: list[BandedResponse], built: BuiltScene) -> BandedResponse:
    """Rows one below the other; with no lights, empty tables of the right width."""
    if not rows:
        return banded_response(replace(built.scene, lamps=(), rooms=()), fineness=SET)
    most = max(map(len, rows))
    return tuple(_one_below_the_other(several) for several in zip(*(in_bands(row, most) for row in rows), strict=True))


def _one_below_the_other(rows: Sequence[UnitResponse]) -> UnitResponse:
    widest = max(row.walls_lx.shape[1] for row in rows)
    return UnitResponse(
        direct_lx=np.concatenate([row.direct_lx for row in rows]),
        via_lx=np.concatenate([row.via_lx for row in rows]),
        share_caught=np.concatenate([row.share_caught for row in rows]),
        first_bounce_lx=np.concatenate([row.first_bounce_lx for row in rows]),
        indirect_lx=np.concatenate([row.indirect_lx for row in rows]),
        walls_lx=np.concatenate([_padded(row.walls_lx, widest) for row in rows]),
    )


def _padded(walls: Array, width: int) -> Array:
    """A light that is new in passing has nothing on the walls yet."""
    return walls if walls.shape[1] == width else np.zeros((1, width))
