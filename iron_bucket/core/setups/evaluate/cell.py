"""One cell of who lights what, step by step: what a light gives at a mark, and by which law."""

from dataclasses import dataclass, replace

import numpy as np

from iron_bucket.core.arrays import angle_rad
from iron_bucket.core.bench.dimmed_filament import filament_words
from iron_bucket.core.bench.head import Head
from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.figure import Origin
from iron_bucket.core.modifiers.cut_words import cut_words
from iron_bucket.core.modifiers.lobe import is_matt
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.scene import Mark, SceneFrame, SceneLamp
from iron_bucket.core.setups.evaluate.beams import axis_cd
from iron_bucket.core.setups.evaluate.lit_scene import LitScene

#: Less from flags and blacks is not told.
_SHOWN_LX = 1e-3


@dataclass(frozen=True, slots=True, kw_only=True)
class CellStep:
    """``illuminance_lx``: what this way adds at the mark, at the level that the light burns at;

    None for a step that only leads on.
    """

    label: str
    formula: str
    illuminance_lx: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """The steps add up to ``total_lx``, read by ``receptor``; ``other_lx`` is what the other kind of receptor reads."""

    light: str
    mark: str
    origin: Origin
    steps: tuple[CellStep, ...]
    total_lx: float
    receptor: Receptor
    other_lx: float

    @property
    def other_receptor(self) -> Receptor:
        """The one that gives ``other_lx``."""
        return Receptor.DOME if self.receptor is Receptor.FLAT else Receptor.FLAT


def cell_of(lit: LitScene, light_id: str, mark_id: str, units: UnitSystem) -> Cell | None:
    """None where there is no such light or mark."""
    built = lit.built
    at = next((at for at, each in enumerate(built.lights) if each.light_id == light_id), None)
    place = lit.place_of(mark_id)
    if at is None or place is None:
        return None
    light, mark, response = built.lights[at], built.marks[place], lit.response
    level = light.level
    steps: list[CellStep] = []
    if light.fixture:
        passed = [
            f"{link.label} passes {link.figure.value:.2g} ({link.figure.origin.value})" for link in light.fixture.links
        ]
        links = ", ".join([*passed, *cut_words(light.fixture.cut, units)])
        steps.append(
            CellStep(
                label=f"{light.fixture.head.name}, {light.fixture.configuration.name}",
                formula=f"{light.fixture.axis_cd:,.0f} cd on the axis at full{'; ' + links if links else ''}",
                illuminance_lx=None,
            )
        )
        steps.append(
            CellStep(
                label=f"at {display.share(level)}", formula=_dimmed(light.fixture.head, level), illuminance_lx=None
            )
        )
    steps.append(
        CellStep(
            label="straight",
            formula=_straight(lit, at, place, units),
            illuminance_lx=level * float(response.direct_lx[at, place]),
        )
    )
    for of, frame in enumerate(built.setup.frames):
        given = level * float(response.via_lx[at, of, place])
        if given > 1e-3:
            part = built.scene.frames[of]
            share = (
                f"passes {part.transmittance:.2g}"
                if part.transmittance is not None
                else f"returns {part.reflectance:.2g}"
            )
            caught = float(response.share_caught[at, of])
            formula = f"{share}{f', catches {caught * 100:.0f} % of the light' if caught > 0 else ''}; {_sum_of(part)}"
            steps.append(CellStep(label=f"by way of {frame.name}", formula=formula, illuminance_lx=given))
    off_solids = level * float(response.via_lx[at, len(built.scene.frames) :, place].sum())
    if off_solids > _SHOWN_LX:
        steps.append(
            CellStep(label="off flags and blacks", formula="sum of L cosθ cosε dA / r²", illuminance_lx=off_solids)
        )
    indirect, first = level * float(response.indirect_lx[at, place]), level * float(response.first_bounce_lx[at, place])
    if indirect > 1e-3:
        steps.append(
            CellStep(
                label="off walls, floor, ceiling",
                formula=(
                    f"first bounce {display.illuminance(first, units)}, every later one"
                    f" {display.illuminance(indirect - first, units)}"
                ),
                illuminance_lx=indirect,
            )
        )
    return Cell(
        light=light.name,
        mark=mark.name,
        origin=light.origin,
        steps=tuple(steps),
        total_lx=float(lit.by_light_lx[at, place]),
        receptor=Receptor.DOME if mark.mark.is_dome else Receptor.FLAT,
        other_lx=level * _read_otherwise_lx(lit, at, mark.mark),
    )


def _read_otherwise_lx(lit: LitScene, at: int, mark: Mark) -> float:
    """By a light at full output, with the other kind of receptor in the place of a mark's."""
    built = lit.built
    alone = replace(built.scene, lamps=(built.scene.lamps[at],), marks=(replace(mark, is_dome=not mark.is_dome),))
    return float(unit_response(alone, built.surroundings.grids, fineness=SET).whole_lx[0, 0])


def _sum_of(frame: SceneFrame) -> str:
    """How a frame sends on what it got."""
    if frame.is_mirror:
        return "its image, as far as the glass shows it"
    if not is_matt(frame.lobe_deg):
        return f"sum of a lobe of ±{frame.lobe_deg:g}°, cosⁿα / ∫cosⁿα dω dΦ cosε / r²"
    return "sum of L cosθ cosε dA / r²"


def _dimmed(head: Head, level: float) -> str:
    if level <= 0.0:
        return "off"
    filament = filament_words(head, level)
    return f"log2({level:.4g}) = {np.log2(level):+.2f} stops{f'; {filament}' if filament else ''}"


def _straight(lit: LitScene, at: int, place: int, units: UnitSystem) -> str:
    source, mark = lit.built.scene.lamps[at], lit.built.marks[place].mark
    if not isinstance(source, SceneLamp):
        return "sum over the pane or sky of L times its form factor"
    ray = mark.position_m - source.position_m
    throw = float(np.linalg.norm(ray))
    cosine = -float(ray @ mark.normal) / throw
    counted = (1.0 + cosine) / 2.0 if mark.is_dome else cosine
    share = f"{'(1 + cos ε) / 2' if mark.is_dome else 'cos ε'} = {counted:.2f}"
    off = float(np.degrees(angle_rad(ray @ source.aim / throw)))
    if counted <= 0.0:
        return "the mark looks away from it"
    if lit.response.direct_lx[at, place] <= 0.0:
        return f"something stands in the way, or the mark lies outside its light ({off:.0f}° off its axis)"
    if source.face is not None:
        return (
            f"area law of a face {source.face.width_m:.3g} × {source.face.height_m:.3g} m with"
            f" {source.face.luminance_cd_m2:,.0f} cd/m² at {display.length(throw, units)}, {off:.0f}° off its axis,"
            f" {share}"
        )
    candela = float(source.intensity.intensity_cd(off)) if source.intensity else 0.0
    if throw > 1000.0:
        return f"{candela / throw**2:,.0f} lx square to the sun, {share}"
    return (
        f"{candela:,.0f} cd ({off:.0f}° off the axis of {axis_cd(source):,.0f} cd) / ({display.length(throw, units)})²,"
        f" {share}"
    )
