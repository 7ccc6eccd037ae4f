"""What every configuration gives through every front at one throw: level, coverage, apparent size, at full output."""

from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.modifiers.cells import grid_cut
from iron_bucket.core.modifiers.kinds import FaceForm
from iron_bucket.core.modifiers.scatter import COUNTED_SHARE, Scatter
from iron_bucket.core.photometry.apparent_size import apparent_size_deg
from iron_bucket.core.scene.light_levels import lamp_level_lx
from iron_bucket.core.scene.points import Points
from iron_bucket.core.scene.scene import GlowingFace, LitShape, SceneLamp
from iron_bucket.core.selection.directions import scattered_rows
from iron_bucket.core.selection.fronts import BOARD_THROW_SHARE, Front
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.open_light import disc_law, open_profile_lx, rectangle_law
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.selection.panel_light import Panels, panel_light, panels_of
from iron_bucket.core.selection.panel_profile import (
    mirror_profile,
    mirrors_among,
    panel_figures,
    panel_profile,
    panels_among,
)
from iron_bucket.core.selection.places import DARK_LX, EVERY_SCATTERED, between_smooth, places_across_m, smooth_places
from iron_bucket.core.threads import in_threads

#: No beam is spread further than this from its axis.
WIDEST_RAD = np.radians(85.0)
_ALONG, _, _AHEAD = np.eye(3)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Levels:
    """Shapes: all (C, F) but one.

    ``share_caught`` and ``evenness`` are 1 where nothing stands free; ``open_lx`` is (C,).
    """

    open_lx: Array
    full_lx: Array
    coverage_m: Array
    behind_sheets_m: Array  # coverage in the open, (C, S)
    apparent_deg: Array
    share_caught: Array
    rim_stops: Array  # how far the rim of a panel lies under its middle
    lit_size_m: Array
    widest_m: float  # coverage is looked for no further; it may be more
    scatter_stops: Array  # what each kind of diffusion sheet on the head takes by spreading its beam, (G, C, F)
    scatter_coverage_m: Array  # coverage behind each, (G, C, F)


def levels(bench: PackedBench, need: Need) -> Levels:
    """Every configuration through every front, sheets and dimmer left out."""
    places = places_across_m(need)
    fixed = fixed_fronts(bench, need.throw_m, places)
    from_m = need.throw_m * np.array([front.seen_share for front in bench.fronts])
    head_deg = apparent_size_deg(np.sqrt(bench.face_width_m * bench.face_height_m), need.throw_m)[:, None]
    fewer = places[::EVERY_SCATTERED]
    boxes = {index: profile[::EVERY_SCATTERED] for index, profile in fixed.boxes.items()}
    thinned = replace(fixed, boxes=boxes)

    def work(sheet: Scatter | None) -> ThroughFronts:
        if sheet is None:
            return through_fronts(bench, need.throw_m, places, fixed)
        return through_fronts(behind_sheet(bench, sheet), need.throw_m, fewer, thinned)

    through, *sheeted = in_threads(work, (None, *bench.scatters))
    behind = [each.meant_lx for each in sheeted]
    full_lx = np.maximum(through.profile_lx[..., 0], DARK_LX)
    none = np.zeros((1, *full_lx.shape))
    covers_m = coverage_m(through.meant_lx, places, need.evenness_stops)
    apparent_deg = seen_deg(through.size_m, from_m, through.scattered, head_deg)
    return Levels(
        open_lx=through.open_profile_lx[:, 0],
        full_lx=full_lx,
        coverage_m=covers_m,
        behind_sheets_m=_behind_sheets_m(bench, through.open_profile_lx, places, need),
        apparent_deg=apparent_deg,
        share_caught=through.caught,
        rim_stops=through.rim_stops,
        lit_size_m=through.size_m,
        widest_m=2.0 * float(places[-1]),
        scatter_stops=np.concatenate(
            [none, *(np.log2(np.maximum(each[None, ..., 0], DARK_LX) / full_lx) for each in behind)]
        ),
        scatter_coverage_m=np.stack([covers_m, *(coverage_m(each, fewer, need.evenness_stops) for each in behind)]),
    )


def behind_sheet(bench: PackedBench, scatter: Scatter) -> PackedBench:
    """The same heads behind one diffusion sheet that takes nothing; what it scatters begins at the sheet, not behind
    the lens. A face that is matt, and one whose light is, stays as it is.
    """
    spread = np.where(bench.is_lambertian[:, None], bench.candela, scattered_rows(bench.candela, scatter))
    axis = np.maximum(spread[:, 0], DARK_LX)
    straight = np.where(bench.is_lambertian, 1.0, scatter.straight_share * bench.candela[:, 0] / axis)
    return replace(bench, candela=spread.astype(np.float32), offset_m=bench.offset_m * straight)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ThroughFronts:
    """Shapes: profile_lx (C, F, M) across the subject; open_profile_lx (C, M) with nothing there; the rest (C, F).

    ``meant_lx``: the profile without what goes past the edge of a frame, which is spill. ``scattered``: share of the
    axis level that was bent.
    """

    profile_lx: Array
    meant_lx: Array
    open_profile_lx: Array
    scattered: Array
    caught: Array
    rim_stops: Array
    size_m: Array


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class FixedFronts:
    """What fronts do at some places whatever the beam before them: frames and bounces, and boxes, by the number of the
    front, for a lumen (M,).
    """

    panels: Panels | None
    boxes: dict[int, Array]


def fixed_fronts(bench: PackedBench, throw_m: float, places_m: Array) -> FixedFronts:
    """Laid out once for all that stands behind it."""
    flats = panels_among(bench)
    return FixedFronts(
        panels=panels_of(bench, flats, throw_m, smooth_places(places_m)) if flats else None,
        boxes={at: _box_profile(front, throw_m, places_m) for at, front in enumerate(bench.fronts) if front.face},
    )


def through_fronts(
    bench: PackedBench, throw_m: float, places_m: Array, fixed: FixedFronts | None = None
) -> ThroughFronts:
    """Levels across the subject, from the axis outwards, of every configuration through every front at full output.

    ``fixed``: where that is laid out for these places already.
    """
    fixed = fixed or fixed_fronts(bench, throw_m, places_m)
    open_profile = open_profile_lx(bench, throw_m, places_m)
    shape = (len(bench.configurations), len(bench.fronts))
    profile = np.repeat(open_profile[:, None, :], shape[1], axis=1)
    size_m = np.repeat(np.sqrt(bench.face_width_m * bench.face_height_m)[:, None], shape[1], axis=1)
    scattered, caught, rim = np.ones(shape), np.ones(shape), np.zeros(shape)
    gain, spill = bench.front_gain[bench.head_class].astype(np.float32), np.zeros_like(profile)
    for index, front in enumerate(bench.fronts):
        if front.face:
            profile[:, index] = (gain[:, index] * bench.lumens)[:, None] * fixed.boxes[index]
            size_m[:, index] = np.sqrt(front.face.width_m * front.face.height_m)
        elif front.grid:
            cut = grid_cut(front.grid.cutoff_deg, np.degrees(np.arctan(places_m / throw_m)))
            profile[:, index] *= gain[:, index, None] * front.grid.on_axis.value * cut
    if fixed.panels:
        flats = [index for index, front in enumerate(bench.fronts) if front.kind.stands_free]
        chosen, light = panels_among(bench), panel_light(bench, fixed.panels)
        profile[:, flats], scattered[:, flats], spill[:, flats] = panel_profile(
            bench, chosen, light, open_profile, places_m, gain[:, flats]
        )
        caught[:, flats], rim[:, flats], size_m[:, flats] = panel_figures(bench, chosen, light)
    for index in mirrors_among(bench):
        profile[:, index] = gain[:, index, None] * mirror_profile(bench, bench.fronts[index], throw_m, places_m)
        size_m[:, index] = np.sqrt(bench.face_width_m * bench.face_height_m) / (1.0 + BOARD_THROW_SHARE)
        scattered[:, index] = 1.0
    for kind, index in np.argwhere(bench.front_spread != 1.0):
        rows = bench.head_class == kind
        profile[rows, index] = spread_profile(profile[rows, index], places_m, throw_m, bench.front_spread[kind, index])
        spill[rows, index] = 0.0
    return ThroughFronts(
        profile_lx=profile,
        meant_lx=profile - spill,
        open_profile_lx=open_profile,
        scattered=scattered,
        caught=caught,
        rim_stops=rim,
        size_m=size_m,
    )


def spread_profile(profile: Array, places_m: Array, throw_m: float, spread: float) -> Array:
    """The same levels on the axis, the candela's angles times ``spread``.

    Shapes (N, M), (M,); beyond the last place the slope goes on.
    """
    if len(places_m) < 2:
        return profile
    gamma = np.arctan(places_m / throw_m)
    cosines = 3.0 * np.log2(np.cos(gamma))
    inner = throw_m * np.tan(np.minimum(gamma / spread, WIDEST_RAD))
    below = np.clip(np.searchsorted(places_m, inner, side="right") - 1, 0, len(places_m) - 2)
    share = (inner - places_m[below]) / (places_m[below + 1] - places_m[below])
    stops = np.log2(np.maximum(profile, DARK_LX)) - cosines
    return np.asarray(np.exp2(stops[:, below] * (1.0 - share) + stops[:, below + 1] * share + cosines))


def _behind_sheets_m(bench: PackedBench, open_profile: Array, places_m: Array, need: Need) -> Array:
    """Coverage of every configuration in the open with every sheet set on it. Shape (C, S).

    A sheet changes it only where a meter found that it spreads (or narrows) the beam.
    """
    bare_m = coverage_m(open_profile, places_m, need.evenness_stops)
    found_m = np.repeat(bare_m[:, None], len(bench.sheet_sets), axis=1) if bench.sheets_spread else bare_m[:, None]
    for kind, spreads in enumerate(bench.sheet_spread):
        rows = np.flatnonzero(bench.head_class == kind)
        for spread in np.unique(spreads[spreads != 1.0]):
            profile = spread_profile(open_profile[rows], places_m, need.throw_m, spread)
            behind_m = coverage_m(profile, places_m, need.evenness_stops)
            found_m[np.ix_(rows, np.flatnonzero(spreads == spread))] = behind_m[:, None]
    return np.broadcast_to(found_m, (len(bench.configurations), len(bench.sheet_sets)))


def sheet_coverage_m(bench: PackedBench, found: Levels, rows: np.ndarray, fronts: np.ndarray) -> Array:
    """Coverage of pairs with every sheet set; sheets count in the open, behind a front the front shapes the beam.

    Shapes: rows, fronts (P,); gives (P, S).
    """
    behind_m = by_scatter(bench, found.scatter_coverage_m, rows, fronts)
    is_open = bench.front_is_open[fronts]
    by_meter = bench.sheet_scatter[bench.head_class[rows[is_open]]] == 0
    behind_m[is_open] = np.where(by_meter, found.behind_sheets_m[rows[is_open]], behind_m[is_open])
    return behind_m


def by_scatter(bench: PackedBench, figures: Array, rows: np.ndarray, fronts: np.ndarray) -> Array:
    """Of pairs with every sheet set what is told by kind of scatter, none first. Shapes: figures (G, C, F), rows and
    fronts (P,); gives (P, S), float32.
    """
    of_pairs = figures[:, rows, fronts].T.astype(np.float32)
    found = np.empty((len(rows), len(bench.sheet_sets)), dtype=np.float32)
    for kind, scatters in enumerate(bench.sheet_scatter):
        chosen = np.flatnonzero(bench.head_class[rows] == kind)
        found[chosen] = of_pairs[chosen].take(scatters, axis=1)
    return np.asarray(found)


def seen_deg(size_m: Array, from_m: Array | float, scattered: Array, head_deg: Array) -> Array:
    """Apparent size of what holds four fifths of the light: what goes straight through a cloth still comes from the
    small head, and with four fifths of it nothing else counts.

    Source: docs/craft.md, section 3; of an even patch a part f of its light lies within sqrt(f / 0.8) of the size.
    """
    part = np.clip((COUNTED_SHARE - (1.0 - scattered)) / np.maximum(scattered, DARK_LX), 0.0, COUNTED_SHARE)
    most_deg = apparent_size_deg(size_m * np.sqrt(part / COUNTED_SHARE), from_m)
    return np.asarray(np.maximum(most_deg, np.minimum(head_deg, apparent_size_deg(size_m, from_m))))


def _box_profile(front: Front, throw_m: float, places_m: Array) -> Array:
    """``face_profile``, behind a grid at fewer places."""
    if front.grid is None:
        return face_profile(front, throw_m, places_m)
    return between_smooth(face_profile(front, throw_m, smooth_places(places_m)), places_m)


def face_profile(front: Front, throw_m: float, places_m: Array) -> Array:
    """Levels across the subject per lumen of the head, from a box or lantern. Shape (M,).

    Source: I0 = eta Phi / pi for a flat Lambertian face, eta Phi / 4 pi for a lantern all round; near field by area.
    """
    face = front.face
    if face is None:
        raise ValueError("a front without a face has no face profile")
    if face.form is FaceForm.LANTERN:
        return np.asarray(
            face.efficiency.value / (4.0 * np.pi) * throw_m / np.power(throw_m**2 + np.square(places_m), 1.5)
        )
    law = disc_law if face.form is FaceForm.DISC else rectangle_law
    profile = (
        face.efficiency.value / np.pi * law(np.array([face.width_m]), np.array([face.height_m]), throw_m, places_m)[0]
    )
    if front.grid is None:
        return np.asarray(profile)
    # Seen from the subject every part of the face lies at its own angle, and the grid cuts each by that: as in a scene.
    is_disc = face.form is FaceForm.DISC
    luminance = face.efficiency.value * front.grid.on_axis.value / np.pi / (face.width_m * face.height_m)
    glowing = GlowingFace(
        shape=LitShape.DISC if is_disc else LitShape.RECTANGLE,
        width_m=face.width_m,
        height_m=face.height_m,
        luminance_cd_m2=luminance / (np.pi / 4.0 if is_disc else 1.0),
        width_along=_ALONG,
        cutoff_deg=front.grid.cutoff_deg,
    )
    lamp = SceneLamp(lamp_id="face", position_m=np.zeros(3), aim=_AHEAD, face=glowing)
    places = np.outer(places_m, _ALONG) + throw_m * _AHEAD
    return lamp_level_lx(lamp, Points(positions_m=places, normals=np.broadcast_to(-_AHEAD, places.shape)), ())


def coverage_m(profile: Array, places_m: Array, evenness_stops: float) -> Array:
    """Width over which the level stays within ``evenness_stops`` of the middle. Shapes (..., M), (M,) to (...).

    Twice the outermost place where it never leaves; between places the stops are interpolated.
    """
    stops = np.abs(np.log2(np.maximum(profile, DARK_LX) / np.maximum(profile[..., :1], DARK_LX)))
    outside = stops > evenness_stops
    first = np.argmax(outside, axis=-1)
    inner = np.maximum(first - 1, 0)
    low = np.take_along_axis(stops, inner[..., None], axis=-1)[..., 0]
    high = np.take_along_axis(stops, first[..., None], axis=-1)[..., 0]
    share = np.divide(evenness_stops - low, high - low, out=np.zeros_like(low), where=high > low)
    edge = places_m[inner] + share * (places_m[first] - places_m[inner])
    return np.asarray(np.where(outside.any(axis=-1), 2.0 * edge, 2.0 * places_m[-1]))
