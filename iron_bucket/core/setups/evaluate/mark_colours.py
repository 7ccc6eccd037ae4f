"""What colour the light has at every mark, light by light and all together."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.colour.bands import XYZ_FROM_BANDS, bands_of
from iron_bucket.core.colour.light_colour import LightColour, mixed
from iron_bucket.core.colour.white import uv_from_xyz
from iron_bucket.core.setups.evaluate.lit_scene import DARK_LX, LitScene
from iron_bucket.core.setups.scene.build_scene import BuiltLight
from iron_bucket.core.typical import typical

#: A light that gives less of a mark's light is not told there.
LEAST_SHARE = 0.005
#: With spectra for so much of the light a mark's rendering is computed, else estimated. Source: of the house.
KNOWN_SHARE = 0.9


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class LightThere:
    """One light at one mark: as it arrives, with all that it met on its way."""

    light: BuiltLight
    colour: LightColour
    illuminance_lx: float
    share: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class MarkColour:
    """``place``: of the mark in every table; ``colour`` of all its light, None in the dark. ``lights``: the brightest
    first, those that are worth telling. ``spectrum_share``: what of the light has a spectrum.
    """

    place: int
    mark_id: str
    name: str
    colour: LightColour | None
    illuminance_lx: float
    lights: tuple[LightThere, ...]
    spectrum_share: float

    @property
    def is_rendering_known(self) -> bool:
        """Whether there are spectra for nearly all of it."""
        return self.spectrum_share >= KNOWN_SHARE


def mark_colours(lit: LitScene) -> tuple[MarkColour, ...]:
    """Of every mark, in their order."""
    xyz = xyz_at_marks(lit)
    return tuple(_mark(lit, xyz[:, place], place) for place in range(len(lit.built.marks)))


def _mark(lit: LitScene, xyz: Array, place: int) -> MarkColour:
    mark, level_lx = lit.built.marks[place], xyz[:, 1]
    total = float(level_lx.sum())
    order = [at for at in np.argsort(-level_lx).tolist() if total > DARK_LX and level_lx[at] > LEAST_SHARE * total]
    lights = tuple(
        LightThere(
            light=lit.built.lights[at],
            colour=_arriving(lit, xyz[at], at),
            illuminance_lx=float(level_lx[at]),
            share=float(level_lx[at]) / total,
        )
        for at in order
    )
    known = [each for each in lights if each.colour.spectrum is not None]
    whole = mixed([each.light.colour for each in lights], [each.illuminance_lx for each in lights])
    colour = None
    if whole is not None:
        spectrum = mixed([e.colour for e in known], [e.illuminance_lx for e in known]) if known else None
        uv = uv_from_xyz(xyz.sum(axis=0))
        colour = LightColour.of(uv, whole.origin, spectrum.spectrum if spectrum else None)
    return MarkColour(
        place=place,
        mark_id=mark.mark.mark_id,
        name=mark.name,
        colour=colour,
        illuminance_lx=total,
        lights=lights,
        spectrum_share=sum(each.share for each in known),
    )


def _arriving(lit: LitScene, xyz: Array, at: int) -> LightColour:
    """Of a light that met nothing tinted its own, spectrum and all."""
    own = lit.built.lights[at].colour
    uv = uv_from_xyz(xyz)
    return own if np.abs(uv - own.uv).max() < 1e-6 else LightColour.of(uv, own.origin, own.spectrum)


def xyz_at_marks(lit: LitScene) -> Array:
    """X, Y and Z of every light at every mark, Y in lux. Shape (L, M, 3)."""
    built, level_lx = lit.built, lit.by_light_lx
    if not len(level_lx):
        return np.zeros((*level_lx.shape, 3))
    own = np.array([light.colour.xyz for light in built.lights])
    if len(lit.banded) == 1:
        return np.asarray(own[:, None] * level_lx[:, :, None])
    bands = bands_of(np.array([light.colour.uv for light in built.lights]))[:, None]
    whole = [each.whole_lx for each in lit.banded]
    xyz = (bands * np.stack(whole, axis=-1)) @ XYZ_FROM_BANDS.T
    # As many lux as ever, also of a colour that lies beyond the primaries.
    return np.asarray(xyz / np.maximum(xyz[:, :, 1:2], DARK_LX) * level_lx[:, :, None])


def estimated_ra(mark: MarkColour) -> float:
    """By what each light is, weighed by its share: of the light whose spectrum nobody took."""
    table = typical("rendering")
    whole = sum(each.share for each in mark.lights)
    return sum(each.share * float(table[_sort(each.light)]) for each in mark.lights) / whole if whole else 0.0


def _sort(light: BuiltLight) -> str:
    return light.fixture.head.technology.value if light.fixture else light.kind.value
