"""One candidate as a chain: steps in stops from the bare head to the subject, with the running level and what each
rests on.
"""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.bench.dimmed_filament import filament_words
from iron_bucket.core.bench.dimming import DimmingCurve
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bench.setting_output import has_two_whites, setting_share
from iron_bucket.core.figure import Figure, Origin, least_trusted
from iron_bucket.core.modifiers.kinds import FaceForm, ScrimSchool, Sheet
from iron_bucket.core.modifiers.lobe import is_matt
from iron_bucket.core.modifiers.scatter import Scatter
from iron_bucket.core.quantities.display import distance, signed
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.selection.blocks import judge_stacks
from iron_bucket.core.selection.fronts import BOARD_THROW_SHARE, Front, FrontKind
from iron_bucket.core.selection.levels import Levels, levels
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.open_light import open_levels_lx
from iron_bucket.core.selection.packing import PackedBench
from iron_bucket.core.selection.pick import Candidate

REFERENCE_THROW_M = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One link. ``stops`` is what it changes, ``illuminance_lx`` the level behind it."""

    label: str
    stops: float
    illuminance_lx: float
    formula: str
    origin: Origin


@dataclass(frozen=True, slots=True, kw_only=True)
class Chain:
    """All links of a candidate, the dimmer last."""

    steps: tuple[Step, ...]
    wanted_lx: float
    headroom_stops: float
    level: float


def chain_of(
    bench: PackedBench,
    need: Need,
    candidate: Candidate,
    found: Levels | None = None,
    units: UnitSystem = UnitSystem.METRIC,
) -> Chain:
    """The chain of one candidate, its formulas in a system.

    It ends on the wanted level, above it where the lowest level is too hot, below where short.
    """
    found = found or levels(bench, need)
    row, front = candidate.row, bench.fronts[candidate.front]
    at_throw_lx, through_lx = float(found.open_lx[row]), float(found.full_lx[row, candidate.front])
    steps = _bare_steps(bench, need, row, at_throw_lx, units)
    level_lx = at_throw_lx
    for sheet in bench.sheet_sets[candidate.sheets].sheets:
        passes = sheet_figure(bench, row, sheet, need.scrim_school)
        level_lx *= passes.value
        steps.append(
            Step(
                label=sheet.name,
                stops=float(np.log2(passes.value)),
                illuminance_lx=level_lx,
                formula=f"log2({passes.value:.3g} passed){_shift_words(sheet)}"
                f"{'' if front.parts else spread_words(bench, row, sheet)}",
                origin=passes.origin,
            )
        )
    kind = bench.sheet_scatter[bench.head_class[row], candidate.sheets]
    if kind:
        spread_stops = float(found.scatter_stops[kind, row, candidate.front])
        level_lx *= 2.0**spread_stops
        steps.append(
            Step(
                label=f"{_diffusion_of(bench, candidate)}, spread",
                stops=spread_stops,
                illuminance_lx=level_lx,
                formula=scatter_formula(bench.scatters[kind - 1]),
                origin=Origin.TYPICAL,
            )
        )
    if front.parts:
        stops = float(np.log2(through_lx / at_throw_lx))
        level_lx *= through_lx / at_throw_lx
        steps.append(
            Step(
                label=front_label(front),
                stops=stops,
                illuminance_lx=level_lx,
                formula=front_formula(bench, need, found, candidate, units)
                + spread_words(bench, row, front.passing[-1][0]),
                origin=front_origin(bench, row, front),
            )
        )
    figures = judge_stacks(bench, need, found, np.array([[row, candidate.front]])).figures
    level = float(figures.level[0, candidate.sheets])
    steps.append(_dimmer_step(bench, row, level, level_lx))
    return Chain(
        steps=tuple(steps),
        wanted_lx=need.illuminance_lx,
        level=level,
        headroom_stops=float(figures.headroom_stops[0, candidate.sheets]),
    )


def _diffusion_of(bench: PackedBench, candidate: Candidate) -> str:
    """The name of the sheet that spreads the beam; a set has one at most."""
    return next(sheet.name for sheet in bench.sheet_sets[candidate.sheets].sheets if sheet.scatter)


def scatter_formula(scatter: Scatter) -> str:
    """What a diffusion sheet does to the beam."""
    lobe = "matt" if is_matt(scatter.lobe_deg) else f"by ±{scatter.lobe_deg:.3g}°"
    return f"{scatter.straight_share * 100:.0f} % goes straight, the rest is scattered {lobe}"


def _bare_steps(bench: PackedBench, need: Need, row: int, at_throw_lx: float, units: UnitSystem) -> list[Step]:
    """The head alone at one metre, then at the throw."""
    configuration = bench.configurations[row]
    axis_cd = float(bench.candela[row, 0])
    offset_m = configuration.offset_m
    at_one_lx = float(open_levels_lx(bench, REFERENCE_THROW_M)[row])
    throw = str(distance(need.throw_m, units))
    if offset_m:
        throw += f" {'+' if offset_m > 0.0 else '−'} {distance(abs(offset_m), units)}"
    law, head = f"{axis_cd:,.0f} cd / ({throw})²", bench.heads[row]
    if configuration.is_lambertian:
        face = configuration.face
        width, high = (distance(each, units) for each in (face.width_m, face.height_m))
        law = f"{axis_cd:,.0f} cd from a face {width.value} × {high}, area law"
    return [
        Step(
            label=f"{configuration.name} at {distance(REFERENCE_THROW_M, units)}",
            stops=0.0,
            illuminance_lx=at_one_lx,
            formula=f"{axis_cd:,.0f} cd on the axis{_setting_words(bench, need, row)}",
            origin=configuration.origin,
        ),
        Step(
            label="to the subject",
            stops=float(np.log2(at_throw_lx / at_one_lx)),
            illuminance_lx=at_throw_lx,
            formula=law,
            origin=configuration.origin,
        ),
        *(
            [
                Step(
                    label="its age",
                    stops=0.0,
                    illuminance_lx=at_throw_lx,
                    formula=f"{signed(head.drift_mired)} mired of drift, as entered on the bench",
                    origin=Origin.CLAIMED,
                )
            ]
            if head.drift_mired
            else []
        ),
    ]


def _setting_words(bench: PackedBench, need: Need, row: int) -> str:
    """What a head of two whites is set to, and what that leaves of its light."""
    head = bench.heads[row]
    if need.cct_k is None or not has_two_whites(head):
        return ""
    set_k = head.nearest_cct_k(need.cct_k)
    share = setting_share(head, set_k, bench.configurations[row].told_at_k)
    return f", set to {set_k:.0f} K: {signed(float(np.log2(share.value)), 1)} stops, {share.origin.value}"


def _shift_words(sheet: Sheet) -> str:
    """What a gel does to the colour."""
    shift = f", {signed(sheet.shift_mired)} mired" if sheet.shift_mired else ""
    return f"{shift}, {signed(sheet.tint, 2)} green" if sheet.tint else shift


def _dimmer_step(bench: PackedBench, row: int, level: float, level_lx: float) -> Step:
    head = bench.heads[row]
    formula = f"{level * 100:.3g} % of full"
    if filament := filament_words(head, level):
        formula += f", {filament}"
    elif head.dimming.curve is not DimmingCurve.LINEAR:
        formula += f", the dimmer at {float(head.dimming.setting(level)) * 100:.0f} % ({head.dimming.curve.value})"
    return Step(
        label=f"dim {level * 100:.3g} %" if level < 1.0 else "full",
        stops=float(np.log2(level)),
        illuminance_lx=level_lx * level,
        formula=formula,
        origin=head.lumens.origin,
    )


def front_label(front: Front) -> str:
    """What stands there, in the crew's order: grid on box, cloth on frame."""
    return (", " if front.frame else " + ").join(front.names) or "open"


def sheet_figure(bench: PackedBench, row: int, sheet: Sheet, school: ScrimSchool) -> Figure:
    """What passes a sheet on the class of head of one configuration: a meter's figure before the house's."""
    found = bench.found(sheet.slug, row)
    return Figure(value=found.passes, origin=Origin.MEASURED) if found else sheet.passes(school)


def spread_words(bench: PackedBench, row: int, part: Item) -> str:
    """What a meter found of the beam behind a part; nothing where nobody looked."""
    found = bench.found(part.slug, row)
    return f"; beam × {found.spread:.2f} by the meter" if found and found.spread else ""


def front_figures(bench: PackedBench, row: int, front: Front) -> tuple[Figure, ...]:
    """The figures that decide how much comes through, in the order of ``Front.passing``; measured ones where there are
    any.
    """
    return tuple(
        Figure(value=found.passes, origin=Origin.MEASURED) if (found := bench.found(part.slug, row)) else figure
        for part, figure in front.passing
    )


def front_origin(bench: PackedBench, row: int, front: Front) -> Origin:
    """Where the figure of its loss comes from: the weakest of its parts."""
    return least_trusted(tuple(figure.origin for figure in front_figures(bench, row, front)) or (Origin.TYPICAL,))


def front_formula(bench: PackedBench, need: Need, found: Levels, candidate: Candidate, units: UnitSystem) -> str:
    """How the loss of this front comes about, with its own figures."""
    front, place = bench.fronts[candidate.front], (candidate.row, candidate.front)
    lumens = bench.lumens[candidate.row]
    passes = [f"{figure.value:.2g}" for figure in front_figures(bench, candidate.row, front)]
    if front.face:
        share = "4π" if front.face.form is FaceForm.LANTERN else "π"
        cells = f", cells pass {passes[1]}" if front.grid else ""
        return f"{passes[0]} × {lumens:,.0f} lm / {share}, area law{cells}"
    if front.grid:
        return f"cells pass {passes[0]} on the axis, nothing beyond {front.grid.cutoff_deg:.3g}°"
    lit = distance(float(found.lit_size_m[place]), units)
    caught = f"catches {found.share_caught[place] * 100:.0f} % of the light, lit over {lit}"
    from_board = f"head {distance(need.throw_m * BOARD_THROW_SHARE, units)} from the board"
    if front.kind is FrontKind.BOOK:
        cloth_m = need.throw_m * front.seen_share
        return (
            f"board returns {passes[0]}, cloth passes {passes[1]} and sends some back to it, {caught}; {from_board}, "
            f"cloth {distance(need.throw_m - cloth_m, units)} before it, {distance(cloth_m, units)} from the subject"
        )
    if front.frame:
        head_m = need.throw_m * front.head_share
        return (
            f"cloth passes {passes[0]}, {caught}, rim {found.rim_stops[place]:.1f} stops under the middle; "
            f"{distance(head_m, units)} from the head, {distance(need.throw_m - head_m, units)} from the subject"
        )
    return f"returns {passes[0]}, {caught}; {from_board}, board {distance(need.throw_m, units)} from the subject"
