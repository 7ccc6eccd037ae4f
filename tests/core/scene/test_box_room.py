import numpy as np
import pytest

from iron_bucket.core.photometry.contour import form_factors
from iron_bucket.core.scene.blocking import Blockers
from iron_bucket.core.scene.box_room import FACES, BoxRoom
from iron_bucket.core.scene.later_light import LaterWays, Nodes
from iron_bucket.core.scene.patches import Patches
from iron_bucket.core.scene.room_grid import RoomGrid
from iron_bucket.core.scene.walls import Walls
from tests.conftest import golden_cases
from tests.tables import refusals

NOTHING = Blockers.of(())


def later_exitance(grid: RoomGrid, fine_lx: np.ndarray) -> np.ndarray:
    """What the fine patches send on of light that was reflected before."""
    walls = Walls(grids=(grid,))
    later = LaterWays(nodes=Nodes.of((), 1), walls=walls, blockers=NOTHING).light(np.zeros((1, 0)), fine_lx[None], 0)
    return walls.on_fine(later.on_walls)[0] * grid.fine.reflectance


def lit_patch_lx(grid: RoomGrid, given: dict) -> np.ndarray:
    """Flux spread over a rectangle of the wall x0, by how much of each fine patch it covers."""
    (y0, z0), (y1, z1) = given["source"]["min"], given["source"]["max"]
    corners = grid.fine.corners_m
    low, high = corners.min(axis=1), corners.max(axis=1)
    covered = np.maximum(np.minimum(high[:, 1], y1) - np.maximum(low[:, 1], y0), 0.0) * np.maximum(
        np.minimum(high[:, 2], z1) - np.maximum(low[:, 2], z0), 0.0
    )
    glow = given["source"]["flux_lm"] / ((y1 - y0) * (z1 - z0))
    return np.where(grid.fine.face == 0, glow * covered / grid.fine.area_m2, 0.0)


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases("optics.json", "closed_room"))
def test_reference_rooms(given, expected, rel_tol):
    room = BoxRoom(
        dimensions_m=tuple(given["dimensions_m"]), reflectances=tuple(given["reflectances"][face] for face in FACES)
    )
    grid = RoomGrid.of(room)
    fine_lx = lit_patch_lx(grid, given)
    for receiver in expected["receivers"]:
        position, normal = np.array([receiver["position"]]), np.array([receiver["normal"]])
        first = float(form_factors(grid.fine.corners_m, position, normal)[0] @ (grid.fine.reflectance * fine_lx))
        later = float(form_factors(grid.fine.corners_m, position, normal)[0] @ later_exitance(grid, fine_lx))
        assert first == pytest.approx(receiver["first_bounce_lux"], rel=rel_tol, abs=1e-9)
        assert first + later == pytest.approx(receiver["all_bounces_indirect_lux"], rel=rel_tol)


def test_patches_cover_the_room_and_look_inwards():
    room = BoxRoom(dimensions_m=(4.0, 3.0, 2.0), reflectances=(0.1, 0.2, 0.3, 0.4, 0.5, 0.6))
    patches = room.patches(3)
    assert patches.area_m2.sum() == pytest.approx(2 * (12 + 8 + 6))
    middle = np.array([2.0, 1.5, 1.0])
    assert (np.einsum("pk,pk->p", middle - patches.centres_m, patches.normals) > 0).all()
    turned = np.cross(
        patches.corners_m[:, 1] - patches.corners_m[:, 0], patches.corners_m[:, 2] - patches.corners_m[:, 1]
    )
    assert (np.einsum("pk,pk->p", turned, patches.normals) > 0).all()
    assert room.is_convex
    both = Patches.joined([room.patches(1), patches])
    assert both.face.tolist() == [*range(6), *(6 + patches.face)]  # numbered on
    assert both.reflectance[6:] == pytest.approx(patches.reflectance)
    assert sorted(set(patches.reflectance)) == [0.1, 0.2, 0.3, 0.4, 0.5, 0.6]
    assert patches.reflectance[patches.centres_m[:, 2] == 0.0].max() == 0.5  # the floor


@pytest.mark.parametrize("rho", [0.0, 0.3, 0.8])
def test_evenly_lit_walls_of_one_reflectance_settle_at_the_geometric_series(rho):
    # Every wall lit alike in a cube sees itself everywhere: E = E0 / (1 - rho).
    grid = RoomGrid.of(BoxRoom(dimensions_m=(3.0, 3.0, 3.0), reflectances=(rho,) * 6))
    total = grid.solved @ np.full(len(grid.coarse.area_m2), 10.0)
    assert np.average(total, weights=grid.coarse.area_m2) == pytest.approx(
        10.0 / (1.0 - rho), rel=0.02
    )  # corners are the hardest
    later = later_exitance(grid, np.full(len(grid.fine.area_m2), 10.0))
    assert later.mean() == pytest.approx(rho * (10.0 / (1.0 - rho) - 10.0), rel=0.03, abs=1e-12)


def test_fine_patches_are_averaged_into_their_coarse_one():
    grid = RoomGrid.of(BoxRoom(dimensions_m=(4.0, 3.0, 2.0), reflectances=(0.5,) * 6), per_side=2)
    walls = Walls(grids=(grid,))
    assert walls.on_coarse(grid.fine.centres_m[:, 0]) == pytest.approx(grid.coarse.centres_m[:, 0])
    assert walls.on_coarse(grid.fine.centres_m[:, 1]) == pytest.approx(grid.coarse.centres_m[:, 1])
    both = walls.on_coarse(np.stack([grid.fine.centres_m[:, 2], grid.fine.area_m2]))
    assert both[0] == pytest.approx(grid.coarse.centres_m[:, 2])
    assert 16 * both[1] == pytest.approx(grid.coarse.area_m2)


test_what_is_refused = refusals(__file__)
