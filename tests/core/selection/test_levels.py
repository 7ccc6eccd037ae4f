from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.configuration import EmittingFace, FaceShape
from iron_bucket.core.modifiers.cells import grid_cut
from iron_bucket.core.modifiers.kinds import FaceForm, SheetKind
from iron_bucket.core.modifiers.lobe import lobe_exponent
from iron_bucket.core.modifiers.scatter import Scatter, Scattered
from iron_bucket.core.modifiers.two_stage import Head, light_panel
from iron_bucket.core.photometry.distribution import BeamField, straight_cd
from iron_bucket.core.photometry.faces import disc_illuminance_lx, rectangle_illuminance_lx
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.photometry.tabulated import PhotometryType, Tabulated
from iron_bucket.core.selection.directions import candela_row, grid_weights
from iron_bucket.core.selection.fit import fit_of
from iron_bucket.core.selection.fronts import FRAME_PLACES, FrontKind
from iron_bucket.core.selection.geometry import graded_nodes
from iron_bucket.core.selection.levels import (
    behind_sheet,
    coverage_m,
    face_profile,
    fixed_fronts,
    levels,
    seen_deg,
    through_fronts,
)
from iron_bucket.core.selection.open_light import open_levels_lx
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.selection.panel_light import _kind_of
from iron_bucket.core.selection.panel_profile import panels_among
from iron_bucket.core.selection.pick import Candidate
from iron_bucket.core.selection.places import between_smooth, places_across_m
from tests.core.selection.made import answer
from tests.made_up import (
    a_board,
    a_cloth,
    a_configuration,
    a_face,
    a_frame,
    a_gear,
    a_grid,
    a_need,
    a_sheet,
    panel_at,
    typical,
)
from tests.tables import table

BEAMS = table(__file__, "BEAMS")


def found_for(need=None, **gear):
    bench = pack(a_gear(**gear))
    return bench, levels(bench, need or a_need())


def front(bench, **wanted):
    """The index of the first front with those parts."""
    return next(
        i for i, each in enumerate(bench.fronts) if all(getattr(each, name) == value for name, value in wanted.items())
    )


@pytest.mark.parametrize("beam", BEAMS)
def test_the_direction_grid_keeps_the_beam(beam):
    gamma, azimuth = np.array([0.0, 0.7, 4.9, 13.0, 31.0, 62.0]), np.array([0.0, 10.0, 100.0, 200.0, 300.0, 359.0])
    found = candela_row(beam) @ grid_weights(gamma, azimuth, np.ones((6, 1)), np.arange(6), 6)
    np.testing.assert_allclose(found, beam.intensity_cd(gamma, azimuth), atol=0.003 * float(beam.intensity_cd(0.0)))


def test_what_frames_and_grids_catch():
    assert not grid_weights(np.array([91.0]), np.zeros(1), np.ones((1, 1)), np.zeros(1), 1).any()
    # No frame catches more than there is.
    spot = a_configuration(distribution=BeamField(peak_cd=9000.0, beam_deg=14.0, field_deg=26.0))
    _, found = found_for(frames=(a_frame(width_m=6.0, height_m=6.0),), cloths=(a_cloth(),), configurations=(spot,))
    assert 0.9 < found.share_caught.max() <= 1.0
    # Nearer the subject a frame is softer.
    bench, found = found_for(frames=(a_frame(),), cloths=(a_cloth(),))
    by_head, by_subject = (front(bench, head_share=place) for place in FRAME_PLACES)
    assert found.apparent_deg[0, by_subject] > found.apparent_deg[0, by_head]


def test_the_open_level_is_inverse_square():
    bench, found = found_for()
    assert found.open_lx[0] == pytest.approx(1000.0, rel=1e-4)  # 9000 cd / 9 m2
    assert found.full_lx[0, 0] == pytest.approx(1000.0, rel=1e-4)
    assert open_levels_lx(bench, 1.5)[0] == pytest.approx(4000.0, rel=1e-4)
    assert found.apparent_deg[0, 0] == pytest.approx(np.degrees(2 * np.arctan(0.05 / 3.0)))


def test_boxes_and_lanterns_by_their_lumens():
    lantern = a_face(slug="lantern", form=FaceForm.LANTERN, width_m=0.5, height_m=0.5)
    tall = a_face(slug="tall", form=FaceForm.RECTANGLE, width_m=0.3, height_m=1.2)
    bench, found = found_for(faces=(a_face(), lantern, tall))
    flux = bench.lumens[0]
    dome = float(disc_illuminance_lx(0.5 * flux / np.pi / (np.pi * 0.25), 0.5, 3.0))
    strip = float(rectangle_illuminance_lx(0.5 * flux / np.pi / 0.36, 0.3, 1.2, 3.0))
    for face, level, size in (
        ("dome", dome, 1.0),
        ("lantern", 0.5 * flux / (4 * np.pi) / 9.0, 0.5),
        ("tall", strip, 0.6),
    ):
        at = next(i for i, each in enumerate(bench.fronts) if each.key == face)
        assert found.full_lx[0, at] == pytest.approx(level, rel=1e-6), face
        assert found.apparent_deg[0, at] == pytest.approx(np.degrees(2 * np.arctan(size / 2 / 3.0))), face


def test_grids_cut_the_field_and_pass_less():
    bench, found = found_for(
        faces=(a_face(),), grids=(a_grid(), a_grid(slug="fabric", face_slug="dome", cutoff_deg=50.0))
    )
    bare, comb = front(bench, kind="open"), front(bench, kind="grid")
    assert found.full_lx[0, comb] == pytest.approx(0.6 * found.full_lx[0, bare])
    assert found.coverage_m[0, comb] < found.coverage_m[0, bare]
    boxed, gridded = (
        next(i for i, each in enumerate(bench.fronts) if each.key == key) for key in ("dome", "dome+fabric")
    )
    # From so far that the box is a point the cells take what they take on the axis, of a round box and a square one.
    square = a_face(slug="square", form=FaceForm.RECTANGLE, width_m=0.8, height_m=0.5)
    on = tuple(a_grid(slug=f"on-{slug}", face_slug=slug, cutoff_deg=50.0) for slug in ("dome", "square"))
    far_bench, far = found_for(a_need(throw_m=150.0), faces=(a_face(width_m=0.8, height_m=0.8), square), grids=on)
    level = {each.key: far.full_lx[0, at] for at, each in enumerate(far_bench.fronts)}
    for slug in ("dome", "square"):
        assert level[f"{slug}+on-{slug}"] == pytest.approx(0.6 * level[slug], rel=0.01)
    assert 0.4 * found.full_lx[0, boxed] < found.full_lx[0, gridded] < 0.6 * found.full_lx[0, boxed]
    assert found.coverage_m[0, gridded] < found.coverage_m[0, boxed]
    np.testing.assert_allclose(grid_cut(90.0, np.array([0.0, 45.0, 60.0])), [1.0, 0.0, 0.0], atol=1e-12)
    assert grid_cut(90.0, np.array([np.degrees(np.arctan(0.5))]))[0] == pytest.approx(0.5)


@pytest.mark.parametrize("kind", ["frame", "board"])
def test_rim_and_lit_part_agree_with_the_panel_itself(kind):
    """Twice as wide as high, from so far that every part of it sends alike to the subject."""
    beam, throw_m, sides = BeamField(peak_cd=90000.0, beam_deg=10.0, field_deg=18.0), 12.0, (2.0, 1.0)
    gear = {"boards": (a_board(width_m=2.0, height_m=1.0),)}
    if kind == "frame":
        gear = {"frames": (a_frame(width_m=2.0, height_m=1.0),), "cloths": (a_cloth(),)}
    own = a_configuration(distribution=beam, lumens=lumens(beam))
    bench, found = found_for(a_need(throw_m=throw_m), configurations=(own,), **gear)
    at = front(bench, kind=kind)
    angle, away_m = (np.radians(30.0), 6.0) if kind == "board" else (0.0, throw_m * bench.fronts[at].head_share)
    head_at = np.array([-np.sin(angle), 0.0, np.cos(angle)]) * away_m
    axes = np.eye(3)
    panel = panel_at((0, 0, 0), axes[0], axes[1], sides[0], sides[1])
    head = Head(position_m=head_at, aim=-head_at / away_m, distribution=beam)
    edges = [way * axes[axis] * sides[axis] / 2.0 for axis in (0, 1) for way in (-1.0, 1.0)]
    middle_lx, rim_lx = head.illuminance_lx(np.zeros((1, 3)), axes[2])[0], head.illuminance_lx(edges, axes[2]).mean()
    assert found.rim_stops[0, at] == pytest.approx(np.log2(middle_lx / rim_lx), abs=0.03)
    width, height = light_panel(head, panel).lit_size_m
    assert found.lit_size_m[0, at] == pytest.approx(np.sqrt(min(width, 2.0) * min(height, 1.0)), rel=0.03)


def test_a_distribution_lies_on_the_grid_by_its_azimuth():
    """Stronger to one side: every plane of the grid has its own, and the last leads back to the first."""

    class Sideways:
        def intensity_cd(self, gamma_deg, azimuth_deg=0.0):
            return 100.0 + np.asarray(azimuth_deg) + 0.0 * np.asarray(gamma_deg)

    azimuth = np.array([0.0, 45.0, 90.0, 180.0, 270.0, 315.0, 337.5])
    found = candela_row(Sideways()) @ grid_weights(np.full(7, 30.0), azimuth, np.ones((7, 1)), np.arange(7), 7)
    assert found == pytest.approx([100.0, 145.0, 190.0, 280.0, 370.0, 415.0, (415.0 + 100.0) / 2.0])
    # Beside the axis left and right count alike: 100 cd and 280 cd, at 45 degrees and 3 m off.
    bench = pack(a_gear(configurations=(a_configuration(distribution=Sideways()),)))
    beside = through_fronts(bench, 3.0, np.array([3.0])).open_profile_lx
    assert beside[0, 0] == pytest.approx(190.0 * 0.5**1.5 / 9.0, rel=1e-4)


def test_a_mirror_throws_the_head_farther():
    mirror = a_board(reflectance=typical(1.0), lobe_deg=4.0, width_m=2.0, height_m=2.0)
    bench, found = found_for(boards=(mirror, a_board(slug="matt", width_m=2.0, height_m=2.0)))
    silver, matt = (next(i for i, each in enumerate(bench.fronts) if each.key == key) for key in ("board", "matt"))
    # The image of the head at d1 + d2 = 4.5 m, a half farther than without.
    assert found.full_lx[0, silver] == pytest.approx(9000.0 / 4.5**2, rel=0.01)
    assert found.apparent_deg[0, silver] == pytest.approx(found.apparent_deg[0, 0] / 1.5, rel=0.001)
    assert found.full_lx[0, silver] > 2 * found.full_lx[0, matt]
    assert found.apparent_deg[0, silver] < found.apparent_deg[0, matt]
    assert lobe_exponent(np.array([60.0]))[0] == pytest.approx(1.0)
    # Of a face as high as 1 m a low mirror shows a band, half as high again as itself.
    low = [replace(mirror, slug=f"{high}", height_m=high) for high in (0.2, 0.4)]
    face = {"face": EmittingFace(shape=FaceShape.RECTANGLE, width_m=0.3, height_m=1.0), "is_lambertian": True}
    _, found = found_for(boards=(mirror, *low), configurations=(a_configuration(**face),))
    assert found.full_lx[0, 1:3] == pytest.approx(found.full_lx[0, 3] * np.array([0.3, 0.6]), rel=1e-3)


def test_what_goes_straight_through_keeps_the_head_s_own_size():
    frost = a_cloth(slug="frost", transmittance=typical(0.8), straight_share=0.5)
    bench, found = found_for(frames=(a_frame(),), cloths=(a_cloth(slug="plain", transmittance=typical(0.4)), frost))
    at = {
        each.cloth.slug: i for i, each in enumerate(bench.fronts) if each.cloth and each.head_share == FRAME_PLACES[0]
    }
    # Both scatter 0.4; the frost adds 0.4 of the open level and looks harder for it.
    assert found.full_lx[0, at["frost"]] == pytest.approx(
        found.full_lx[0, at["plain"]] + 0.4 * found.open_lx[0], rel=1e-6
    )
    assert found.apparent_deg[0, at["frost"]] < found.apparent_deg[0, at["plain"]]
    # Four fifths of the light: the straight part in a point, and so much of the even patch within sqrt(f / 0.8) of it.
    scattered = found.full_lx[0, at["plain"]] / found.full_lx[0, at["frost"]]
    part = (0.8 - (1.0 - scattered)) / scattered
    half = np.tan(np.radians(found.apparent_deg[0, at["plain"]] / 2.0)) * np.sqrt(part / 0.8)
    assert found.apparent_deg[0, at["frost"]] == pytest.approx(2.0 * np.degrees(np.arctan(half)), rel=1e-6)
    # With four fifths of it straight, nothing but the head's own size is left.
    assert seen_deg(1.2, 3.0, np.array([0.2, 0.1, 1.0]), np.array(2.0)) == pytest.approx(
        [2.0, 2.0, 2.0 * np.degrees(np.arctan(0.2))]
    )


def test_a_frame_turned_with_the_beam_catches_as_much():
    """A beam that is wide in one plane, through a strip that lies along or across it."""
    angles = np.array([0.0, 10.0, 30.0, 60.0, 90.0])
    wide, narrow = np.array([900.0, 800.0, 500.0, 100.0, 0.0]), np.array([900.0, 300.0, 20.0, 0.0, 0.0])

    def caught(planes, width_m, height_m):
        beam = Tabulated(
            kind=PhotometryType.C, vertical_deg=angles, horizontal_deg=np.array([0.0, 90.0]), candela=np.array(planes)
        )
        strip = a_frame(width_m=width_m, height_m=height_m)
        bench, found = found_for(
            frames=(strip,), cloths=(a_cloth(),), configurations=(a_configuration(distribution=beam),)
        )
        return found.share_caught[0, front(bench, head_share=FRAME_PLACES[0])]

    along, across = caught((wide, narrow), 2.4, 0.3), caught((wide, narrow), 0.3, 2.4)
    assert along > 1.5 * across
    assert caught((narrow, wide), 0.3, 2.4) == pytest.approx(along, rel=1e-3)


def test_what_a_sheet_scatters_begins_at_the_sheet():
    """Behind the lens by its own offset alone what still comes straight, by its share of the axis."""
    lens = a_configuration(offset_m=0.3)
    bench = pack(a_gear(configurations=(lens, a_configuration(slug="lamp.panel", offset_m=0.2, is_lambertian=True))))
    for share in (0.0, 0.4):
        scatter = Scatter(straight_share=share, lobe_deg=25.0)
        left = share * straight_cd(lens.distribution) / straight_cd(Scattered(inner=lens.distribution, scatter=scatter))
        assert behind_sheet(bench, scatter).offset_m == pytest.approx([0.3 * left, 0.2], rel=0.02)


def test_scattered_light_is_looked_at_out_to_the_last_place():
    matt = a_sheet("white", SheetKind.DIFFUSION, 0.5, straight_share=0.0, lobe_deg=60.0)
    bench, found = found_for(a_need(evenness_stops=6.0), sheets=(matt,), faces=(a_face(),))
    assert found.scatter_coverage_m[1, 0, 0] == found.widest_m
    # What the sheet takes is taken on the axis: of a spot most of what it had.
    spot = BeamField(peak_cd=90000.0, beam_deg=10.0, field_deg=20.0)
    _, narrow = found_for(sheets=(matt,), configurations=(a_configuration(distribution=spot),))
    spread = Scattered(inner=spot, scatter=matt.scatter)
    taken = np.log2(straight_cd(spread) / straight_cd(spot))
    assert narrow.scatter_stops[:, 0, 0] == pytest.approx([0.0, taken], abs=0.02)
    picked = answer(a_need(illuminance_lx=50.0), sheets=(matt,), configurations=(a_configuration(distribution=spot),))
    bare, white = (fit_of(picked, Candidate(row=0, front=0, sheets=at)) for at in (0, 1))
    assert white.headroom_stops == pytest.approx(bare.headroom_stops - 1.0 + taken, abs=0.02)  # it passes a half
    assert (bare.covers_more, white.covers_more) == (False, True)
    # In the open the sheet decides how much is covered; a box stays as it is.
    assert bench.sheets_decide_width.tolist() == [each.parts == () for each in bench.fronts]


def test_a_box_is_looked_at_everywhere_and_behind_a_grid_as_good_as():
    bench = pack(a_gear(faces=(a_face(),), grids=(a_grid(slug="fabric", face_slug="dome", cutoff_deg=50.0),)))
    places = places_across_m(a_need())
    for at, box in fixed_fronts(bench, 3.0, places).boxes.items():
        whole = face_profile(bench.fronts[at], 3.0, places)
        if bench.fronts[at].grid is None:
            np.testing.assert_array_equal(box, whole)
        else:
            assert box != pytest.approx(whole, rel=1e-6)
            assert coverage_m(box, places, 1.0) == pytest.approx(coverage_m(whole, places, 1.0), rel=0.005)


def test_between_places_levels_fall_with_the_square():
    places = np.linspace(0.0, 1.8, 49)
    bell = 900.0 * 2.0 ** -np.square(places)  # 3.24 stops down at the last place
    np.testing.assert_allclose(between_smooth(np.stack([bell, 3.0 * bell])[:, ::4], places), [bell, 3.0 * bell])
    assert between_smooth(np.zeros((1, 13)), places).max() < 1e-8
    np.testing.assert_array_equal(between_smooth(bell[:5], places[:5]), bell[:5])


def test_coverage_is_read_between_places_and_follows_the_half_edge():
    places = np.array([0.0, 1.0, 2.0])
    profile = np.array([[100.0, 50.0, 12.5], [100.0, 90.0, 80.0], [100.0, 200.0, 400.0]])
    # One stop at 1 m, three at 2 m: a stop and a half lies at 1.25 m on either side.
    np.testing.assert_allclose(coverage_m(profile, places, 1.5), [2.5, 4.0, 3.0])
    _, found = found_for(a_need(width_m=2.0, evenness_stops=1.0))
    # I cos^3 is half at 17.9 degrees (by hand: 0.579 x 0.862): 2 x 3 m x tan 17.9.
    assert found.coverage_m[0, 0] == pytest.approx(1.938, rel=0.01)
    assert found.widest_m == pytest.approx(3.6)


def test_a_book_so_near_that_its_cloth_hides_its_board_still_has_a_size():
    large = {"width_m": 2.4, "height_m": 2.4}
    gear = {"boards": (a_board(lobe_deg=90.0, **large),), "frames": (a_frame(**large),), "cloths": (a_cloth(),)}
    _, found = found_for(a_need(throw_m=1.0), **gear)
    assert np.isfinite(found.apparent_deg).all()
    assert np.isfinite(found.lit_size_m).all()


def test_alike_panels_are_laid_out_once_and_every_book_by_itself(gear):
    fronts = panels_among(pack(gear))
    books = [front for front in fronts if front.kind is FrontKind.BOOK]
    assert len({_kind_of(front) for front in books}) == len(books) > 1
    assert len({_kind_of(front) for front in fronts}) < len(fronts)


def test_nodes_are_drawn_to_the_middle_and_weigh_a_whole_side():
    places, weights = graded_nodes()
    assert weights.sum() == pytest.approx(2.0)
    assert (weights * places**2).sum() == pytest.approx(2 / 3)
    assert np.diff(places).min() < np.diff(places).max() / 3
