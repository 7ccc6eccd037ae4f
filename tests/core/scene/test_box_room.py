import numpy as np
import pytest

from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.contour import polygon_illuminance_lx
from iron_bucket.core.scene.box_room import FACES, BoxRoom, indirect_illuminance_lx, patches_of, total_illuminance_lx
from tests.conftest import golden_cases


@pytest.mark.parametrize(("given", "expected", "rel_tol"), golden_cases("optics.json", "closed_room"))
def test_reference_rooms(given, expected, rel_tol):
    room = BoxRoom(
        dimensions_m=tuple(given["dimensions_m"]), reflectances=tuple(given["reflectances"][face] for face in FACES)
    )
    patches = patches_of(room)
    (y0, z0), (y1, z1) = given["source"]["min"], given["source"]["max"]
    source = np.array([[0, y0, z0], [0, y1, z0], [0, y1, z1], [0, y0, z1]], dtype=float)
    area = (y1 - y0) * (z1 - z0)
    first = np.zeros(len(patches.centres_m))
    # The source is a glowing part of the wall itself: its flux leaves the wall, and counts as reflected once already.
    glow = given["source"]["flux_lm"] / area
    on_source = (patches.face == 0) & (np.abs(patches.centres_m[:, 1] - (y0 + y1) / 2) < (y1 - y0) / 2) & (
        np.abs(patches.centres_m[:, 2] - (z0 + z1) / 2) < (z1 - z0) / 2)  # fmt: skip
    assert on_source.any()
    first = np.where(patches.face == 0, 0.0, first)
    first += _from_patch(source, patches, glow)
    total = total_illuminance_lx(patches, first)
    for receiver in expected["receivers"]:
        position, normal = np.array([receiver["position"]]), np.array([receiver["normal"]])
        # "First bounce" of a glowing patch is its own light reflected once; the patch is lit by `flux`, so what it sends out is rho x flux.
        rho = given["reflectances"]["x0"]
        sent = rho * _at(source, position, normal, glow)[0]
        indirect = sent + indirect_illuminance_lx(patches, total * rho, position, normal)[0]
        assert indirect == pytest.approx(receiver["all_bounces_indirect_lux"], rel=rel_tol)


def _from_patch(source, patches, glow):
    level = _at(source, patches.centres_m, patches.normals, glow)
    return np.where(patches.face == 0, 0.0, level)


def _at(source, positions, normals, glow):
    return polygon_illuminance_lx(glow / np.pi, source, positions, normals)


def test_a_room_absorbs_somewhere():
    with pytest.raises(BadValue, match="reflectances is"):
        BoxRoom(dimensions_m=(4, 4, 4), reflectances=(1.0,) * 6)
    with pytest.raises(BadValue, match="reflectances is 1.2"):
        BoxRoom(dimensions_m=(4, 4, 4), reflectances=(1.2, 0, 0, 0, 0, 0))
    with pytest.raises(BadValue, match="dimensions_m is 0"):
        BoxRoom(dimensions_m=(4, 0, 4), reflectances=(0.5,) * 6)


def test_energy_is_kept():
    # An integrating sphere's law for a box of one reflectance: mean level = flux / (A (1 - rho)).
    room = BoxRoom(dimensions_m=(3.0, 4.0, 5.0), reflectances=(0.6,) * 6)
    patches = patches_of(room, per_side=8)
    first = np.where(patches.face == 5, 100.0, 0.0)
    total = total_illuminance_lx(patches, first)
    flux = float(first @ patches.area_m2)
    assert total @ patches.area_m2 / patches.area_m2.sum() == pytest.approx(
        flux / (patches.area_m2.sum() * 0.4), rel=0.01
    )
    assert patches.area_m2.sum() == pytest.approx(94.0)
