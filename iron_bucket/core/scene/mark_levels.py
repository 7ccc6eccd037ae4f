"""What every lamp does at every mark: straight, by way of each frame, and off the walls.

Everything is computed for each lamp at full output and weighed with its level afterwards, because light adds up: a
dimmer moves no geometry.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.scene.fineness import REFERENCE, Fineness
from iron_bucket.core.scene.frame_points import FramePoints, points_a_side, points_for_near
from iron_bucket.core.scene.later_light import LaterLight, later_at_marks_lx
from iron_bucket.core.scene.light_levels import lamp_flux_lm, levels_lx
from iron_bucket.core.scene.mirrors import mirrored_lx
from iron_bucket.core.scene.origins import Origins
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.room_grid import RoomGrid
from iron_bucket.core.scene.scene import Scene
from iron_bucket.core.scene.standing import Standing

#: What lamps lay on scatterers: by its number, how finely it is cut, and the side.
LitCuts = dict[tuple[int, int, bool], Array]
#: More Gauss points along a side than a mark close to a frame may ask for.
_MOST_NEAR = 96


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


def unit_response(
    scene: Scene,
    grids: Sequence[RoomGrid] | None = None,
    *,
    with_walls: bool = True,
    fineness: Fineness = REFERENCE,
    standing: Standing | None = None,
) -> UnitResponse:
    """Every lamp's share at every mark. ``grids``: the rooms', where they are at hand already; without walls nothing
    comes off them. ``standing``: of the same scene with other lamps, where it is at hand.
    """
    about = standing or Standing.of(scene, grids, with_walls=with_walls, fineness=fineness)
    walls, marks = about.walls, about.marks
    fine_lx = walls.lit_lx(scene.lamps, scene.blockers, fineness) + _frames_on_walls(scene, about)
    lit: LitCuts = {}
    on_marks = first_light(scene, marks, fineness.frame_points, about, lit=lit)
    later = _later(scene, about, fine_lx, fineness.frame_points, lit)
    via = on_marks.via_lx
    if walls.grids or len(scene.scatterers) > 1:
        per_side, nodes = about.nodes_a_side, about.later.nodes
        via = via + later_at_marks_lx(nodes, later.on_nodes, scene.scatterers, marks, scene.blockers, per_side)
        via += _by_lobes_lx(scene, about, fine_lx, later)
    first = (fine_lx * walls.fine.reflectance) @ about.factors.T
    further = (walls.on_fine(later.on_walls) * walls.fine.reflectance) @ about.factors.T
    return UnitResponse(
        direct_lx=levels_lx(scene.lamps, marks, scene.blockers),
        via_lx=via,
        share_caught=on_marks.share_caught,
        first_bounce_lx=first,
        indirect_lx=first + further,
        walls_lx=walls.on_coarse(fine_lx),
    )


def scattered_lx(scene: Scene, points: Points, *, fineness: Fineness) -> Array:
    """What frames, boards and flags send to any points, walls left out. Shape (L, R)."""
    nothing = np.zeros((len(scene.lamps), 0))
    lit: LitCuts = {}
    about = Standing.of(replace(scene, marks=()), with_walls=False, fineness=fineness)
    later = _later(scene, about, nothing, fineness.wall_frame_points, lit)
    first = first_light(scene, points, fineness.wall_frame_points, about, lit=lit).via_lx.sum(axis=1)
    return np.asarray(first + later.on_nodes @ about.later.nodes.sent_lx(points, scene.blockers).T)


def _later(scene: Scene, about: Standing, fine_lx: Array, least_points: int, lit: LitCuts) -> LaterLight:
    """All that has been scattered before, on the scatterers and on walls; nothing where there is only one of them."""
    ways, nodes = about.later, about.later.nodes
    on_nodes = np.zeros((len(scene.lamps), len(nodes.owner)))
    if len(scene.scatterers) > 1:
        on_nodes = first_light(scene, nodes.points, least_points, about, lit=lit).via_lx.sum(axis=1)
    elif not ways.walls.grids:
        return LaterLight(on_nodes=on_nodes, on_walls=fine_lx)
    return ways.light(on_nodes, fine_lx, about.fineness.fine_walls)


def _by_lobes_lx(scene: Scene, about: Standing, fine_lx: Array, later: LaterLight) -> Array:
    """What frost and silver make of light that was scattered before. Shape (L, K, M)."""
    found = np.zeros((len(scene.lamps), len(scene.scatterers), len(scene.marks)))
    if not about.lobed:
        return found
    walls = about.walls
    node_lx = levels_lx(scene.lamps, about.later.nodes.points, scene.blockers) + later.on_nodes
    patch_lm_m2 = (walls.on_coarse(fine_lx) + later.on_walls) * walls.coarse.reflectance
    given = np.concatenate([node_lx, patch_lm_m2], axis=1)
    for of, ways in about.lobed.items():
        found[:, of] = given @ ways
    return found


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class FirstLight:
    """By way of each scatterer once. Shapes (L, K, R), (L, K)."""

    via_lx: Array
    share_caught: Array


def _frames_on_walls(scene: Scene, about: Standing) -> Array:
    """What scatterers send to the fine patches; on a set what is broad, and so smooth, by way of the coarse ones.

    Shape (L, W).
    """
    walls, fineness = about.walls, about.fineness
    if not walls.grids:
        return np.zeros((len(scene.lamps), 0))
    broad = {
        of
        for of, each in enumerate(scene.scatterers)
        if each.lobe_deg >= fineness.broad_lobe_deg and each not in scene.mirrors
    }
    sharp = set(range(len(scene.scatterers))) - broad
    fine, coarse = (
        first_light(scene, points, fineness.wall_frame_points, about, only=only).via_lx.sum(axis=1)
        for points, only in ((walls.points, sharp), (walls.coarse_points, broad))
    )
    return np.asarray(fine + walls.on_fine(coarse))


def first_light(
    scene: Scene,
    points: Points,
    least_points: int,
    about: Standing | None = None,
    *,
    only: set[int] | None = None,
    lit: LitCuts | None = None,
) -> FirstLight:
    """What lamps at full output send to points by one frame, board or flag, or in a mirror; ``only``: by some of them,
    by their numbers. ``about``: what stands in the scene, where it is at hand. ``lit``: what was laid on them before,
    for other points.
    """
    lit = {} if lit is None else lit
    scatterers = scene.scatterers
    via = np.zeros((len(scene.lamps), len(scatterers), len(points.normals)))
    caught = np.zeros(via.shape[:2])
    flux_lm = np.array([lamp_flux_lm(lamp) for lamp in scene.lamps])
    for of, frame in enumerate(scatterers):
        if only is not None and of not in only:
            continue
        needed = points_a_side(frame, scene.lamps, least_points)
        if not points.are_many:
            needed = max(needed, min(int(np.ceil(points_for_near(frame.panel, points.positions_m))), _MOST_NEAR))
        cut = about.cut(of, needed) if about else FramePoints.of(frame, needed)
        for side in (True, False):
            lit_lx = lit.get((of, needed, side))
            if lit_lx is None:
                lit_lx = cut.lit_lx(scene.lamps, scene.blockers, is_lit_in_front=side)
                for mirror in scene.mirrors:
                    if mirror is not frame:
                        lit_lx += mirrored_lx(scene.lamps, mirror, cut.side(is_front=side), scene.blockers)
                lit[of, needed, side] = lit_lx
            caught[:, of] += lit_lx @ cut.area_m2
            if lit_lx.any():
                lit_by = Origins.of(scene.lamps, cut, lit_lx)
                sent = cut.sent_lx(lit_by.places_m, lit_by.lit_lx, points, scene.blockers, is_lit_in_front=side)
                via[:, of] += lit_by.by_lamp(sent, len(lit_lx))
        if frame in scene.mirrors:
            via[:, of] += mirrored_lx(scene.lamps, frame, points, scene.blockers)
    share = np.divide(caught, flux_lm[:, None], out=np.zeros_like(caught), where=flux_lm[:, None] != 0)
    return FirstLight(via_lx=via, share_caught=share)
