"""What every lamp does at every mark: straight, by way of each frame, and off the walls.

Everything is computed for each lamp at full output and weighed with its level afterwards, because light adds up: a
dimmer moves no geometry.
"""

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.scene.fineness import REFERENCE, Fineness
from iron_bucket.core.scene.first_light import LitCuts, first_light
from iron_bucket.core.scene.later_light import LaterLight, later_at_marks_lx
from iron_bucket.core.scene.light_levels import levels_lx
from iron_bucket.core.scene.patches import Band
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.room_grid import RoomGrid
from iron_bucket.core.scene.scene import Light, Scene
from iron_bucket.core.scene.standing import Standing


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class UnitResponse:
    """All lamps at full output. Shapes: with L lamps, K scatterers (the scene's frames, then its solids that reflect),
    M marks: direct_lx (L, M), via_lx (L, K, M) by the one that light met last, share_caught (L, K), first_bounce_lx and
    indirect_lx (L, M); the latter counts all light that met a wall last.

    ``walls_lx`` (L, W): first light on the coarse patches of every room that holds a mark, room after room.
    """

    direct_lx: Array
    via_lx: Array
    share_caught: Array
    first_bounce_lx: Array
    indirect_lx: Array
    walls_lx: Array

    @property
    def whole_lx(self) -> Array:
        """Every way of each lamp together. Shape (L, M)."""
        return np.asarray(self.direct_lx + self.via_lx.sum(axis=1) + self.indirect_lx)

    def total_lx(self, levels: Array) -> Array:
        """Everything at the marks with the lamps at some levels. Shapes (L,) to (M,)."""
        return np.asarray(levels @ self.whole_lx)

    def times(self, weights: Array) -> "UnitResponse":
        """Every row so many times as bright; what is caught is a share, and stays. ``weights``: shape (L,)."""
        rows = weights[:, None]
        return UnitResponse(
            direct_lx=self.direct_lx * rows,
            via_lx=self.via_lx * rows[:, None],
            share_caught=self.share_caught,
            first_bounce_lx=self.first_bounce_lx * rows,
            indirect_lx=self.indirect_lx * rows,
            walls_lx=self.walls_lx * rows,
        )

    def ordered(self, rows: np.ndarray) -> "UnitResponse":
        """The same lamps in another order. Shape (L,)."""
        return UnitResponse(**{each.name: getattr(self, each.name)[rows] for each in fields(self)})


#: One for each band of light that was followed, in their order; one alone where nothing tints it.
BandedResponse = tuple[UnitResponse, ...]


def unit_response(
    scene: Scene,
    grids: Sequence[RoomGrid] | None = None,
    *,
    with_walls: bool = True,
    fineness: Fineness = REFERENCE,
    standing: Standing | None = None,
) -> UnitResponse:
    """Every lamp's share at every mark, as if nothing tinted its light. ``grids``: the rooms', where they are at hand
    already; without walls nothing comes off them. ``standing``: of the same scene with other lamps, where it is at
    hand.
    """
    about = standing or Standing.of(scene, grids, with_walls=with_walls, fineness=fineness)
    return _FirstOf.of(scene, about).response(None)


def banded_response(
    scene: Scene,
    grids: Sequence[RoomGrid] | None = None,
    *,
    with_walls: bool = True,
    fineness: Fineness = REFERENCE,
    standing: Standing | None = None,
) -> BandedResponse:
    """The same band by band, for light that has as much in each; what stands where is looked at once for all."""
    about = standing or Standing.of(scene, grids, with_walls=with_walls, fineness=fineness)
    meets_tint = scene.meets_tint
    if not meets_tint.any():
        first = _FirstOf.of(scene, about)
        return tuple(first.response(band) for band in about.bands)
    # Only light that may go straight through something tinted is followed from the lamp on in every band.
    plain, tinted = (replace(scene, lamps=_chosen(scene.lamps, each)) for each in (~meets_tint, meets_tint))
    first, order = _FirstOf.of(plain, about), np.argsort(np.argsort(meets_tint, kind="stable"))
    return tuple(
        _joined(first, _FirstOf.of(replace(tinted, band=band), about)).response(band).ordered(order)
        for band in about.bands
    )


def _chosen(lamps: Sequence[Light], are_chosen: np.ndarray) -> tuple[Light, ...]:
    return tuple(lamp for lamp, is_chosen in zip(lamps, are_chosen.tolist(), strict=True) if is_chosen)


def weighed(banded: BandedResponse, shares: Array) -> UnitResponse:
    """What lights of some colours do: ``shares``: of the lux of each, what lies in each band. Shape (L, 3)."""
    if len(banded) == 1:
        return banded[0]
    parts = [each.times(shares[:, band]) for band, each in enumerate(banded)]
    summed = {
        name: sum(getattr(part, name) for part in parts)
        for name in ("direct_lx", "via_lx", "first_bounce_lx", "indirect_lx", "walls_lx")
    }
    return UnitResponse(share_caught=banded[0].share_caught, **summed)


def in_bands(banded: BandedResponse, count: int) -> BandedResponse:
    """As many as are asked for: what was followed once is alike in all of them."""
    return banded if len(banded) == count else banded * count


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _FirstOf:
    """Of L lamps all that does not depend on the band: light that has met nothing, or one scatterer. Shapes:
    on_walls_lx (L, W), frames_on_walls_lx (L, K, W), on_nodes_lx (L, N), between_lx (L, K, N), direct_lx (L, M), via_lx
    (L, K, M), share_caught (L, K).
    """

    about: Standing
    on_walls_lx: Array
    frames_on_walls_lx: Array
    on_nodes_lx: Array
    between_lx: Array
    direct_lx: Array
    via_lx: Array
    share_caught: Array

    @classmethod
    def of(cls, scene: Scene, about: Standing) -> "_FirstOf":
        fineness, lit = about.fineness, LitCuts()
        on_marks = first_light(scene, about.marks, fineness.frame_points, about, lit=lit)
        return cls(
            about=about,
            on_walls_lx=about.walls.lit_lx(scene.lamps, scene.blockers, fineness),
            frames_on_walls_lx=_frames_on_walls(scene, about, lit),
            on_nodes_lx=_on_nodes(scene, about),
            between_lx=_between(scene, about, fineness.frame_points, lit),
            direct_lx=levels_lx(scene.lamps, about.marks, scene.blockers),
            via_lx=on_marks.via_lx,
            share_caught=on_marks.share_caught(scene.lamps),
        )

    def response(self, band: Band) -> UnitResponse:
        """In one band of light."""
        about, walls, scene = self.about, self.about.walls, self.about.scene
        tints = about.tints(band)
        fine_lx = self.on_walls_lx + np.tensordot(self.frames_on_walls_lx, tints, axes=([1], [0]))
        later = _later(self.between_lx, fine_lx, about, band)
        via = self.via_lx
        if walls.grids or len(scene.scatterers) > 1:
            per_side, nodes = about.nodes_a_side, about.later.nodes
            via = via + later_at_marks_lx(
                nodes, later.on_nodes, scene.scatterers, about.marks, scene.blockers, per_side
            )
            via += _by_lobes_lx(self.on_nodes_lx, about, fine_lx, later, band)
        fine_sends = walls.fine.in_band(band)
        first = (fine_lx * fine_sends) @ about.factors.T
        further = (walls.on_fine(later.on_walls) * fine_sends) @ about.factors.T
        return UnitResponse(
            direct_lx=self.direct_lx,
            via_lx=via * tints[:, None],
            share_caught=self.share_caught,
            first_bounce_lx=first,
            indirect_lx=first + further,
            walls_lx=walls.on_coarse(fine_lx),
        )


def _joined(one: _FirstOf, other: _FirstOf) -> _FirstOf:
    """The lamps of one, and those of the other below them, among the same things."""
    names = [each.name for each in fields(one) if each.name != "about"]
    return _FirstOf(
        about=one.about, **{name: np.concatenate([getattr(one, name), getattr(other, name)]) for name in names}
    )


def scattered_lx(scene: Scene, points: Points, *, fineness: Fineness) -> Array:
    """What frames, boards and flags send to any points, walls and tints left out. Shape (L, R)."""
    nothing, lit = np.zeros((len(scene.lamps), 0)), LitCuts()
    about = Standing.of(replace(scene, marks=()), with_walls=False, fineness=fineness)
    first = first_light(scene, points, fineness.wall_frame_points, about, lit=lit).via_lx.sum(axis=1)
    later = _later(_between(scene, about, fineness.wall_frame_points, lit), nothing, about, None)
    return np.asarray(first + later.on_nodes @ about.later.nodes.sent_lx(points, scene.blockers).T)


def _on_nodes(scene: Scene, about: Standing) -> Array:
    """Straight from the lamps, where anything asks for it. Shape (L, N)."""
    nodes = about.later.nodes.points
    return levels_lx(scene.lamps, nodes, scene.blockers) if about.lobed else np.zeros((len(scene.lamps), 0))


def _between(scene: Scene, about: Standing, least_points: int, lit: LitCuts) -> Array:
    """What each scatterer sends the others of its first light. Shape (L, K, N)."""
    nodes = about.later.nodes
    if len(scene.scatterers) < 2:
        return np.zeros((len(scene.lamps), len(scene.scatterers), len(nodes.owner)))
    return first_light(scene, nodes.points, least_points, about, lit=lit).via_lx


def _later(between_lx: Array, fine_lx: Array, about: Standing, band: Band) -> LaterLight:
    """All that has been scattered before, on the scatterers and on walls; nothing where there is only one of them."""
    ways, tints = about.later, about.tints(band)
    on_nodes = np.tensordot(between_lx, tints, axes=([1], [0]))
    if len(tints) < 2 and not ways.walls.grids:
        return LaterLight(on_nodes=on_nodes, on_walls=fine_lx)
    return ways.light(on_nodes, fine_lx, about.fineness.fine_walls, band, tints[ways.nodes.owner])


def _by_lobes_lx(on_nodes_lx: Array, about: Standing, fine_lx: Array, later: LaterLight, band: Band) -> Array:
    """What frost and silver make of light that was scattered before, but for their own tint. Shape (L, K, M)."""
    found = np.zeros((len(fine_lx), len(about.scene.scatterers), len(about.scene.marks)))
    if not about.lobed:
        return found
    walls, nodes = about.walls, about.later.nodes
    node_lx = on_nodes_lx + later.on_nodes
    patch_lm_m2 = (walls.on_coarse(fine_lx) + later.on_walls) * walls.coarse.in_band(band)
    given = np.concatenate([node_lx * about.tints(band)[nodes.owner], patch_lm_m2], axis=1)
    for of, ways in about.lobed.items():
        found[:, of] = given @ ways
    return found


def _frames_on_walls(scene: Scene, about: Standing, lit: LitCuts) -> Array:
    """What scatterers send to the fine patches; on a set what is broad, and so smooth, by way of the coarse ones.

    Shape (L, K, W).
    """
    walls, fineness = about.walls, about.fineness
    if not walls.grids or not scene.scatterers:
        return np.zeros((len(scene.lamps), len(scene.scatterers), len(walls.fine.area_m2)))
    broad = {
        of
        for of, each in enumerate(scene.scatterers)
        if each.lobe_deg >= fineness.broad_lobe_deg and each not in scene.mirrors
    }
    sharp = set(range(len(scene.scatterers))) - broad
    fine, coarse = (
        first_light(scene, points, fineness.wall_frame_points, about, only=only, lit=lit).via_lx
        for points, only in ((walls.points, sharp), (walls.coarse_points, broad))
    )
    return np.asarray(fine + walls.on_fine(coarse))
