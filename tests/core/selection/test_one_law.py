"""Pick and set-ups know one law of light: what a pick computes for a stack is what its scene gives."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.configuration import EmittingFace, FaceShape
from iron_bucket.core.modifiers.lobe import MIRROR_DEG
from iron_bucket.core.modifiers.scatter import Scatter, Scattered
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.core.scene.fineness import REFERENCE
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.scene import GlowingFace, LitShape, Mark, Scene, SceneFrame, SceneLamp
from iron_bucket.core.selection.fronts import BOARD_ANGLE_DEG, BOARD_THROW_SHARE, BOOK_CLOTH_SHARE, Front, FrontKind
from iron_bucket.core.selection.levels import behind_sheet, through_fronts
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.selection.pick import geometry_of, laid_out, pick
from tests.made_up import a_configuration, a_gear, panel_at
from tests.tables import table

GEAR = table(__file__, "GEAR")
BEAMS = table(__file__, "BEAMS")
FINE = replace(REFERENCE, frame_points=25, series_points=9)
#: What is no point before a frame: faces that glow evenly, and a source behind its lens.
FACES = {"panel": (FaceShape.RECTANGLE, 1.2, 0.6), "round": (FaceShape.DISC, 1.2, 1.2)}
SOURCES = (
    *(a_configuration(slug=name, distribution=beam, lumens=lumens(beam)) for name, beam in BEAMS.items()),
    *(a_configuration(slug=f"lens-{cm}", distribution=BEAMS["reflector"], offset_m=cm / 100) for cm in (10, 30, 100)),
    *(
        a_configuration(
            slug=name,
            distribution=BEAMS["bare"],
            face=EmittingFace(shape=shape, width_m=width_m, height_m=height_m),
            is_lambertian=True,
        )
        for name, (shape, width_m, height_m) in FACES.items()
    ),
)


def scene_lx(source, front: Front, throw_m: float, aside_m: np.ndarray, sheet: Scatter | None) -> np.ndarray:
    """The same stack as a scene: its lamp, its frame or board, and marks so far beside the axis, looking at it."""
    turn, head_m, subject_m = 0.0, throw_m * front.head_share, throw_m * (1.0 - front.head_share)
    if front.board:
        turn, head_m, subject_m = np.radians(BOARD_ANGLE_DEG), throw_m * BOARD_THROW_SHARE, throw_m
    head = np.array([-np.sin(turn), 0.0, (1.0 if front.board else -1.0) * np.cos(turn)]) * max(head_m, 1e-9)
    towards, aside = np.array([np.sin(turn), 0.0, np.cos(turn)]), np.array([np.cos(turn), 0.0, -np.sin(turn)])
    frames = []
    if board := front.board:
        glass = {"lobe_deg": board.lobe_deg, "is_mirror": board.lobe_deg < MIRROR_DEG}
        panel = panel_at((0, 0, 0), (1, 0, 0), (0, 1, 0), board.width_m, board.height_m)
        frames.append(
            SceneFrame(frame_id="b", panel=panel, transmittance=None, reflectance=board.reflectance.value, **glass)
        )
    if cloth := front.cloth:
        middle = towards * throw_m * BOOK_CLOTH_SHARE if board else (0, 0, 0)
        frames.append(
            SceneFrame(
                frame_id="c",
                panel=panel_at(middle, aside, (0, 1, 0), front.frame.width_m, front.frame.height_m),
                transmittance=cloth.transmittance.value,
                straight_share=cloth.straight_share,
                lobe_deg=cloth.lobe_deg,
                back_reflectance=cloth.back_reflectance() if board else 0.0,
            )
        )
    aim = -head / np.linalg.norm(head) if frames else towards
    lamp = lamp_of(source, head, aim, sheet)
    spots = towards * subject_m + aside_m[:, None] * aside
    marks = tuple(Mark(mark_id=str(at), position_m=spot, normal=-towards) for at, spot in enumerate(spots))
    scene = Scene(lamps=(lamp,), frames=tuple(frames), marks=marks)
    response = unit_response(scene, fineness=FINE)
    if not board:
        return response.whole_lx[0]
    scattered, *_ = response.via_lx[:, -1]  # past a board it is spill
    if not cloth:
        return scattered
    opaque = replace(scene, frames=(frames[0], replace(frames[1], straight_share=0.0)))
    return scattered + response.via_lx[0, 0] - unit_response(opaque, fineness=FINE).via_lx[0, 0]


def lamp_of(source, head, aim, sheet: Scatter | None) -> SceneLamp:
    """As a set-up builds it: a face of its own luminance, or a small source behind its housing."""
    size, beam = source.face, source.distribution
    if source.is_lambertian:
        is_disc = size.shape is FaceShape.DISC
        face = GlowingFace(
            shape=LitShape.DISC if is_disc else LitShape.RECTANGLE,
            width_m=size.width_m,
            height_m=size.height_m,
            luminance_cd_m2=3000.0 / (size.width_m * size.height_m * (np.pi / 4.0 if is_disc else 1.0)),
            width_along=np.cross((0.0, 1.0, 0.0), aim),
        )
        return SceneLamp(lamp_id="l", position_m=head, aim=aim, face=face)
    begins_m = head - aim * source.offset_m * (sheet.straight_share if sheet else 1.0)
    return SceneLamp(
        lamp_id="l", position_m=begins_m, aim=aim, intensity=Scattered(inner=beam, scatter=sheet) if sheet else beam
    )


@pytest.mark.parametrize("sheet", [None, Scatter(straight_share=0.45, lobe_deg=12.0), Scatter(straight_share=0.0)])
@pytest.mark.parametrize("throw_m", [1.7, 6.5])
def test_a_stack_gives_what_its_scene_gives(throw_m, sheet):
    bench = pack(a_gear(configurations=SOURCES, **GEAR))
    places = np.array([0.0, 0.2, 0.5]) * throw_m / 2.0
    profiles = through_fronts(behind_sheet(bench, sheet) if sheet else bench, throw_m, places).profile_lx
    for source, found in zip(bench.configurations, profiles, strict=True):
        for at, front in enumerate(bench.fronts):
            largest_m = max(
                source.offset_m, source.face.longest_side_m, front.board.width_m / 2.0 if front.board else 0
            )
            if front.kind is FrontKind.BOOK and largest_m > throw_m / 2.0:
                continue  # such a head, or its virtual source, does not fit between the pages
            # Beside a bounce the side away from the lamp counts, else both.
            sides = places if front.board else np.concatenate([places, -places])
            expected = scene_lx(source, front, throw_m, sides, sheet).reshape(-1, len(places)).mean(axis=0)
            near = pytest.approx(expected, rel=0.07, abs=float(0.002 * found[at, 0]))
            assert found[at] == near, f"{source.slug} through {front.key}"


def test_what_is_laid_out_for_one_need_serves_every_need_of_its_geometry(gear):
    """A softer, dimmer, lighter wish at the same distance is answered alike, whether the bench was laid out for it."""
    bench = pack(gear)
    first = Need(illuminance_lx=640.0, throw_m=3.0, width_m=1.5, cct_k=5600.0)
    other = replace(first, illuminance_lx=90.0, least_apparent_deg=9.0, most_weight_kg=12.0, own_only=True)
    assert geometry_of(first) == geometry_of(other)
    changes = ({"throw_m": 3.1}, {"width_m": 1.6}, {"cct_k": 5500.0}, {"evenness_stops": 0.9})
    assert len({geometry_of(replace(first, **change)) for change in changes} | {geometry_of(first)}) == 5
    served, alone = pick(bench, other, laid=laid_out(bench, first)), pick(bench, other)
    assert (served.fits.points == alone.fits.points).all()
    assert (served.tally.counts, served.fitting) == (alone.tally.counts, alone.fitting)
