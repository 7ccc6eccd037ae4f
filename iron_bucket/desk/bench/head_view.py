"""One head, and one modifier, with all that is known of them."""

from collections.abc import Mapping
from dataclasses import dataclass

from sqlalchemy.orm import Session

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.focus import FocusRange, focus_ranges
from iron_bucket.core.bench.head import Head
from iron_bucket.core.bench.item import Item
from iron_bucket.core.bench.measured_configuration import MeasuredConfiguration
from iron_bucket.core.bench.unit import Unit
from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.colour.transmission import TOLD_FOR, Behind
from iron_bucket.core.figure import TRUST, Figure
from iron_bucket.core.modifiers.kinds import Sheet
from iron_bucket.core.modifiers.measured_pass import MeasuredPass
from iron_bucket.desk.bench.changes import ChangeView, PlanView, history_in, plans_in
from iron_bucket.desk.bench.readings import ReadingView, view_of
from iron_bucket.desk.bench.shelf import Shelf, shelf_in
from iron_bucket.desk.bench.spectra import SpectrumView, spectra_in
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.formats.gear_rows import CARRIED_KINDS, GEAR_KINDS, MODIFIER_KINDS
from iron_bucket.store.bench import gear_by_slug
from iron_bucket.store.readings import readings_of, readings_with


@dataclass(frozen=True, slots=True, kw_only=True)
class UnitView:
    """A very lamp. ``trims``: what it gives against its model in each configuration that it was read in, and from how
    many readings.
    """

    unit: Unit
    trims: tuple[tuple[Configuration, Figure, int], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class HeadView:
    """``head`` and ``configurations`` with their best figures, the best proven first;

    ``stated``: configurations as typed or uploaded, by slug.
    """

    head: Head
    configurations: tuple[Configuration, ...]
    stated: Mapping[str, Configuration]
    measured: Mapping[str, MeasuredConfiguration]
    readings: Mapping[str, tuple[ReadingView, ...]]
    units: tuple[UnitView, ...]
    focus: tuple[FocusRange, ...]
    spectra: tuple[SpectrumView, ...]
    history: tuple[ChangeView, ...]
    plans: tuple[PlanView, ...]


@one_transaction
def open_head(session: Session, person_id: int, slug: str) -> HeadView:
    """Raises: NotFound."""
    shelf = shelf_in(session)
    head = shelf.gear.find(Head, slug)
    if head is None:
        raise NotFound("there is no such head on the bench")
    configurations = tuple(
        sorted(
            (each for each in shelf.gear.configurations if each.head_slug == slug),
            key=lambda each: (each.is_retired, TRUST.index(each.origin)),
        )
    )
    slugs = [each.slug for each in configurations]
    readings = tuple(view_of(row) for row in readings_of(session, slugs))
    return HeadView(
        head=head,
        configurations=configurations,
        stated={each.slug: each for each in shelf.stated.configurations if each.head_slug == slug},
        measured={each: shelf.measured.configurations[each] for each in slugs if each in shelf.measured.configurations},
        readings={each: tuple(view for view in readings if view.reading.configuration_slug == each) for each in slugs},
        units=_units(shelf, head),
        focus=focus_ranges(tuple(each for each in configurations if not each.is_retired)),
        spectra=spectra_in(session, slugs),
        history=history_in(session, [slug]),
        plans=plans_in(session, person_id, {slug: GEAR_KINDS["heads"].write(head)}),
    )


def _units(shelf: Shelf, head: Head) -> tuple[UnitView, ...]:
    in_use = {each.slug: each for each in shelf.gear.configurations if each.head_slug == head.slug}
    return tuple(
        UnitView(
            unit=unit,
            trims=tuple(
                (in_use[slug], each.trim, each.count)
                for slug, trims in shelf.measured.trims.items()
                if slug in in_use
                for each in trims
                if each.unit.slug == unit.slug
            ),
        )
        for unit in shelf.stated.units
        if unit.head_slug == head.slug
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class LightBehind:
    """What a gel makes of one light."""

    name: str
    behind: Behind


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceView:
    """A modifier, battery, stand or bag.

    ``found``: what meters made of it, for each class of head. ``names``: of configurations and frames, by slug.
    ``behind``: lights behind a sheet whose curve is known.
    """

    kind: str
    item: Item
    found: tuple[MeasuredPass, ...]
    readings: tuple[ReadingView, ...]
    names: Mapping[str, str]
    spectra: tuple[SpectrumView, ...]
    behind: tuple[LightBehind, ...]
    history: tuple[ChangeView, ...]
    plans: tuple[PlanView, ...]


@one_transaction
def open_piece(session: Session, person_id: int, slug: str) -> PieceView:
    """Anything on the bench but heads, configurations and units. Raises: NotFound."""
    shelf = shelf_in(session)
    kinds = (*MODIFIER_KINDS, *CARRIED_KINDS)
    found = next(((kind, item) for kind in kinds for item in getattr(shelf.gear, kind) if item.slug == slug), None)
    if found is None:
        raise NotFound("there is no such piece on the bench")
    kind, item = found
    heads = {head.slug: head.name for head in shelf.gear.heads}
    lamps = {each.slug: f"{heads[each.head_slug]}, {each.name}" for each in shelf.gear.configurations}
    return PieceView(
        kind=kind,
        item=item,
        found=tuple(each for each in shelf.gear.measured if each.modifier_slug == slug),
        readings=tuple(view_of(row) for row in readings_with(session, slug)),
        names=lamps | {frame.slug: frame.name for frame in shelf.gear.frames},
        spectra=spectra_in(session, [slug]),
        behind=_behind(item),
        history=history_in(session, [slug]),
        plans=plans_in(session, person_id, {slug: GEAR_KINDS[kind].write(item)}),
    )


def _behind(item: Item) -> tuple[LightBehind, ...]:
    if not isinstance(item, Sheet) or item.curve is None:
        return ()
    lights = (("daylight, 5600 K", TOLD_FOR), ("tungsten, 3200 K", LightColour.of_cct(3200.0)))
    return tuple(LightBehind(name=name, behind=item.curve.behind(light)) for name, light in lights)


@dataclass(frozen=True, slots=True, kw_only=True)
class FormView:
    """A piece as it is stored, for its form."""

    kind: str
    slug: str
    version: int
    row: Mapping[str, object]


@one_transaction
def open_form(session: Session, slug: str) -> FormView:
    """Raises: NotFound."""
    row = gear_by_slug(session, slug)
    if row is None:
        raise NotFound("there is no such piece on the bench")
    return FormView(kind=row.kind, slug=row.slug, version=row.version, row=row.item)
