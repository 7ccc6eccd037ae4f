"""A placed lamp as a source: its configuration with all that it wears, from the best figures there are."""

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.bench.battery_kind import BatteryKind
from iron_bucket.core.bench.configuration import Configuration, FaceShape
from iron_bucket.core.bench.dimmed_filament import filament_words
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head, Technology
from iron_bucket.core.bench.setting_output import has_two_whites, setting_share
from iron_bucket.core.colour.emitters import mixture_for, typical_emitters
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.spectrum import Spectrum
from iron_bucket.core.colour.tungsten import voltage_share_for_flux
from iron_bucket.core.effects.effect import curve_of
from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.figure import Figure, Origin, least_trusted
from iron_bucket.core.modifiers.beam_cut import BeamCut, CutBeam
from iron_bucket.core.modifiers.cells import grid_cut
from iron_bucket.core.modifiers.gelled import as_measured, gelled
from iron_bucket.core.modifiers.kinds import Face, FaceForm, Grid, ScrimSchool, Sheet
from iron_bucket.core.modifiers.measured_pass import MeasuredPass
from iron_bucket.core.modifiers.scatter import Scatter, Scattered
from iron_bucket.core.photometry.distribution import FIRST_PLANE_DEG, IntensityDistribution, straight_cd
from iron_bucket.core.photometry.scaled import scaled
from iron_bucket.core.photometry.steady import Steady
from iron_bucket.core.power.load import DrawCurve
from iron_bucket.core.scene.scene import GlowingFace, LitShape, SceneLamp
from iron_bucket.core.setups.plan.setup import PlacedLamp
from iron_bucket.core.setups.scene.own_colour import own_colour

#: A share that differs by less is said to be all.
_SAME_OUTPUT = 0.005
#: What full output of a full colour head means.
_TOLD_AT_K = 5600.0


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Link:
    """One thing on the lamp and the share it passes."""

    label: str
    figure: Figure


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Fixture:
    """``size_m``: width and height of what glows.

    ``links``: what it wears. ``axis_cd``: at full output, everything on; ``shape``: its beam behind its diffusion
    sheets, of any brightness; ``sheets_pass``: what they take besides. ``level_limit``: the most that its batteries let
    it give. ``spectra``: of the bare head, each at some setting.
    """

    head: Head
    configuration: Configuration
    sheets: tuple[Sheet, ...]
    face: Face | None
    grid: Grid | None
    links: tuple[Link, ...]
    size_m: tuple[float, float]
    axis_cd: float
    shape: IntensityDistribution
    cut: BeamCut
    sheets_pass: float = 1.0
    level_limit: float = 1.0
    spectra: tuple[Spectrum, ...] = ()

    def level(self, placed: PlacedLamp) -> float:
        """What it burns at: as set, no more than its batteries let it; 0 where it is off."""
        return min(placed.level, self.level_limit) if placed.is_on else 0.0

    @property
    def parts(self) -> tuple[Sheet | Face | Grid, ...]:
        """All that hangs on the head beside its own optic."""
        return (*self.sheets, *(each for each in (self.face, self.grid) if each))

    @property
    def payload_kg(self) -> float:
        """On its stand: the head, its optic, and the box or grid on it; its driver and cables lie beside it."""
        fitted = (each for each in (self.configuration, self.face, self.grid) if each)
        return self.head.weight_kg + sum(each.weight_kg for each in fitted)

    @property
    def origin(self) -> Origin:
        """The weakest of its figures."""
        return least_trusted((self.configuration.origin, *(link.figure.origin for link in self.links)))

    @property
    def lowest_level(self) -> float:
        """The least it can be dimmed to."""
        return self.head.lowest_level

    def colour(self, placed: PlacedLamp) -> LightColour:
        """What leaves it: its own light, then what it wears."""
        own = own_colour(self.head, self.configuration, self.spectra, placed, self.level_limit)
        return gelled(own, self.sheets, self.face.shift_mired if self.face else 0.0)

    def watts(self, placed: PlacedLamp) -> float:
        """From its supply at the level it burns at; nothing while it is off."""
        return float(self.head.draw.watts(self.level(placed))) if placed.is_on else 0.0

    def voltage_share(self, placed: PlacedLamp) -> float:
        """Of its rated voltage, what a filament burns on at its level; 1 of all others and of what is off."""
        is_dimmed = placed.is_on and self.head.draw.curve is DrawCurve.FILAMENT
        return float(voltage_share_for_flux(self.level(placed))) if is_dimmed else 1.0

    def filament_words(self, placed: PlacedLamp) -> str:
        """What its level does to a filament; empty for all others."""
        return filament_words(self.head, self.level(placed))

    def dimmed_w(self, placed: PlacedLamp) -> float:
        """What a dimmer must be rated for: a filament's full watts, 0 where it burns at full or needs none."""
        return self.head.draw.full_w.value if self.voltage_share(placed) < 1.0 else 0.0

    def mean_watts(self, placed: PlacedLamp) -> float:
        """The same over time, of a lamp that plays an effect: what a battery feeds."""
        effect = placed.played
        if effect is None or not placed.is_on:
            return self.watts(placed)
        levels = self.level(placed) * curve_of(effect).level
        return float(np.mean(self.head.draw.watts(levels)))


def fixture_of(placed: PlacedLamp, gear: Gear, school: ScrimSchool) -> Fixture:
    """Raises: BadValue for gear that the bench does not hold, or that does not go on that head."""
    configuration = gear.by_slug(Configuration, placed.configuration)
    head = gear.head(configuration.head_slug)
    sheets = tuple(as_measured(gear.by_slug(Sheet, slug), gear, head.technology.head_class) for slug in placed.sheets)
    face = gear.by_slug(Face, placed.face) if placed.face else None
    grid = gear.by_slug(Grid, placed.grid) if placed.grid else None
    if face and not (configuration.takes_box and face.fitting == head.fitting):
        raise BadValue(
            "box",
            repr(face.name),
            f"a box for {head.fitting or 'no fitting'}, which {head.name} takes in “{configuration.name}”",
        )
    if grid and not (grid.face_slug == face.slug if face else grid.fitting == head.fitting and not grid.face_slug):
        raise BadValue("grid", repr(grid.name), "a grid that goes on that box or head")
    setting = _setting(placed, head, configuration)
    spectra, limit = _spectra(configuration, gear), _level_limit(placed, head, gear)
    own = own_colour(head, configuration, spectra, placed, limit)
    links = [
        Link(label=sheet.name, figure=_passes(gear, head, sheet.slug, figure))
        for sheet, figure in zip(sheets, _sheets_pass(sheets, own, school), strict=True)
    ]
    sheets_pass = math.prod(link.figure.value for link in links)
    is_bare = not face and not (configuration.is_lambertian and not grid)
    shape, spread = _behind(configuration.distribution, _scatters(gear, head, sheets) if is_bare else ())
    links += [
        Link(label=f"{sheet.name}, spread", figure=Figure(value=share, origin=Origin.TYPICAL))
        for sheet, share in spread
    ]
    if face:
        links.append(Link(label=face.name, figure=_passes(gear, head, face.slug, face.efficiency)))
    if grid:
        links.append(Link(label=grid.name, figure=_passes(gear, head, grid.slug, grid.on_axis)))
    if setting is not None:
        links.insert(0, setting)
    passes = math.prod(link.figure.value for link in links)
    if face:
        solid_angle = 4.0 * np.pi if face.form is FaceForm.LANTERN else np.pi
        size, axis_cd = (face.width_m, face.height_m), passes * configuration.lumens / solid_angle
    else:
        size = (configuration.face.width_m, configuration.face.height_m)
        # The shape behind the sheets has their spread in it already.
        alone = math.prod(share for _, share in spread)
        axis_cd = passes / alone * straight_cd(shape)
    return Fixture(
        head=head,
        configuration=configuration,
        sheets=sheets,
        face=face,
        grid=grid,
        links=tuple(links),
        size_m=size,
        axis_cd=axis_cd,
        shape=shape,
        cut=_cut(placed, school, head, face, configuration),
        sheets_pass=sheets_pass,
        level_limit=limit,
        spectra=spectra,
    )


def _sheets_pass(sheets: tuple[Sheet, ...], colour: LightColour, school: ScrimSchool) -> Iterator[Figure]:
    """What each passes of the light that comes to it: by its curve, where it has one."""
    for sheet in sheets:
        if sheet.curve is None:
            yield sheet.passes(school)
            colour = gelled(colour, (sheet,))
        else:
            behind = sheet.curve.behind(colour)
            yield Figure(value=behind.passes, origin=Origin.MEASURED)
            colour = behind.colour


def _spectra(configuration: Configuration, gear: Gear) -> tuple[Spectrum, ...]:
    """Of the configuration, else of any of its head: an optic hardly tints."""
    own = gear.spectra.get(configuration.slug)
    if own is not None or not gear.spectra:
        return own or ()
    alike = (each.slug for each in gear.configurations if each.head_slug == configuration.head_slug)
    return tuple(each for slug in alike for each in gear.spectra.get(slug, ()))


def _setting(placed: PlacedLamp, head: Head, configuration: Configuration) -> Link | None:
    """What its setting leaves of its output; None where that is all of it. Raises: BadValue for a colour that the head
    does not reach, or has not.
    """
    if placed.colour_xy:
        return _mixed_setting(placed, head)
    if not has_two_whites(head):
        return None
    set_k = head.nearest_cct_k(placed.cct_k)
    share = setting_share(head, set_k, configuration.told_at_k)
    return Link(label=f"set to {set_k:.0f} K", figure=share) if abs(share.value - 1.0) > _SAME_OUTPUT else None


def _mixed_setting(placed: PlacedLamp, head: Head) -> Link:
    if head.technology is not Technology.LED_COLOUR:
        raise BadValue("colour", f"x and y on {head.name}", "white settings on what is no full colour head")
    emitters, (x, y) = typical_emitters(), placed.colour_xy
    try:
        mixture = mixture_for(emitters, LightColour.of_xy(x, y, Origin.TYPICAL))
    except NoAnswer as beyond:
        raise BadValue("colour", f"x {x:g}, y {y:g}", str(beyond)) from beyond
    white = mixture_for(emitters, LightColour.of_cct(_TOLD_AT_K)).share
    return Link(
        label=f"mixed to x {x:.3f}, y {y:.3f}", figure=Figure(value=mixture.share / white, origin=Origin.TYPICAL)
    )


def _cut(
    placed: PlacedLamp, school: ScrimSchool, head: Head, face: Face | None, configuration: Configuration
) -> BeamCut:
    """Raises: BadValue for what does not go on that head."""
    cut = placed.cut(school)
    if face and not cut.cuts_nothing:
        raise BadValue("box", repr(face.name), "none where barn doors or anything else cuts the beam")
    if configuration.is_lambertian and not cut.is_doors_alone:
        name = f"{head.name}, {configuration.name}"
        raise BadValue("snoot, half-scrims, iris, shutters or slide", f"on {name}", "on a head that throws a beam")
    return cut


def _level_limit(placed: PlacedLamp, head: Head, gear: Gear) -> float:
    """The most output that a head gives from what it is fed from."""
    battery = gear.find(BatteryKind, placed.feed)
    plate = head.plate_for(battery.mount) if battery else None
    return plate.level_limit if plate else 1.0


def _scatters(gear: Gear, head: Head, sheets: tuple[Sheet, ...]) -> tuple[tuple[Sheet, Scatter], ...]:
    """Diffusion sheets whose beam nobody measured on that class of head."""
    return tuple(
        (sheet, sheet.scatter) for sheet in sheets if sheet.scatter and _measured(gear, head, sheet.slug) is None
    )


def _behind(
    shape: IntensityDistribution, scatters: tuple[tuple[Sheet, Scatter], ...]
) -> tuple[IntensityDistribution, list[tuple[Sheet, float]]]:
    """A beam behind sheets, and what each takes off its axis by spreading it."""
    taken = []
    for sheet, scatter in scatters:
        behind = Scattered(inner=shape, scatter=scatter)
        taken.append((sheet, straight_cd(behind) / straight_cd(shape)))
        shape = behind
    return shape, taken


def _measured(gear: Gear, head: Head, slug: str) -> MeasuredPass | None:
    """What a meter found of a modifier on that class of head."""
    head_class = head.technology.head_class
    return next((each for each in gear.measured if each.modifier_slug == slug and each.head_class is head_class), None)


def _passes(gear: Gear, head: Head, slug: str, stated: Figure) -> Figure:
    """A meter's figure on that class of head before any other."""
    found = _measured(gear, head, slug)
    return Figure(value=found.passes, origin=Origin.MEASURED) if found else stated


def source_of(placed: PlacedLamp, fixture: Fixture, aim: Array) -> SceneLamp:
    """The lamp at full output in a scene.

    Source: of a Lambertian face L = I0 / A; behind a lens the source stands ``offset_m`` behind the housing.
    """
    position = np.array([placed.x_m, placed.y_m, placed.z_m])
    if fixture.face and fixture.face.form is FaceForm.LANTERN:
        return SceneLamp(
            lamp_id=placed.piece_id, position_m=position, aim=aim, intensity=Steady(candela=fixture.axis_cd)
        )
    if fixture.face or (fixture.configuration.is_lambertian and not fixture.grid):
        is_disc = (
            fixture.face.form is FaceForm.DISC if fixture.face else fixture.configuration.face.shape is FaceShape.DISC
        )
        face = GlowingFace(
            shape=LitShape.DISC if is_disc else LitShape.RECTANGLE,
            width_m=fixture.size_m[0],
            height_m=fixture.size_m[1],
            luminance_cd_m2=fixture.axis_cd
            / (fixture.size_m[0] * fixture.size_m[1] * (np.pi / 4.0 if is_disc else 1.0)),
            width_along=_sideways(aim),
            cutoff_deg=fixture.grid.cutoff_deg if fixture.grid else None,
        )
        return SceneLamp(lamp_id=placed.piece_id, position_m=position, aim=aim, face=face)
    # What a sheet scatters begins at the sheet, not behind the lens.
    shape = fixture.shape
    offset_m = fixture.configuration.offset_m * (shape.straight_on_axis if isinstance(shape, Scattered) else 1.0)
    shape = _brighter(shape, fixture.axis_cd / straight_cd(shape))
    if fixture.grid:
        shape = Gridded(inner=shape, cutoff_deg=fixture.grid.cutoff_deg)
    if not fixture.cut.cuts_nothing:
        shape = CutBeam(inner=shape, cut=fixture.cut, lens_m=max(fixture.size_m))
    return SceneLamp(lamp_id=placed.piece_id, position_m=position - offset_m * aim, aim=aim, intensity=shape)


def _brighter(shape: IntensityDistribution, factor: float) -> IntensityDistribution:
    """Every candela times a factor, behind sheets too."""
    if isinstance(shape, Scattered):
        return Scattered(inner=_brighter(shape.inner, factor), scatter=shape.scatter)
    return scaled(shape, factor)


def _sideways(aim: Array) -> Array:
    """Level, square to the aim."""
    sideways = np.array([aim[1], -aim[0], 0.0])
    length = float(np.linalg.norm(sideways))
    return sideways / length if length > 1e-9 else np.array([1.0, 0.0, 0.0])


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Gridded:
    """A distribution behind straight cells; what they lose on the axis is in it already."""

    inner: IntensityDistribution
    cutoff_deg: float

    def intensity_cd(self, gamma_deg: Array | float, azimuth_deg: Array | float = FIRST_PLANE_DEG) -> Array:
        """Candela. Shapes: broadcast together."""
        cut = np.where(np.asarray(gamma_deg) < 90.0, grid_cut(self.cutoff_deg, np.asarray(gamma_deg)), 0.0)
        return np.asarray(self.inner.intensity_cd(gamma_deg, azimuth_deg) * cut)
