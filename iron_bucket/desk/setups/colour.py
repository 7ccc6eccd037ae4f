"""The colours of a set-up: opened, made to agree or to disagree, matched; each applied as one change."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from sqlalchemy.orm import Session

from iron_bucket.core.colour.light_colour import LightColour
from iron_bucket.core.errors import BadValue, NoAnswer
from iron_bucket.core.setups.colour.agree import ColourPlan, Scene, School, agreeing
from iron_bucket.core.setups.colour.disagree import Contrast, Disagreement, disagreeing
from iron_bucket.core.setups.colour.match import matching
from iron_bucket.core.setups.colour.ways import ColourWay, GelStock
from iron_bucket.core.setups.plan.changes import Change
from iron_bucket.desk.setups.edit import change_setup, open_setup
from iron_bucket.desk.setups.kept import kept_response
from iron_bucket.desk.setups.view import SetupView
from iron_bucket.formats.change_json import change_row

#: What all lights are brought to, where nobody says otherwise.
WHITE = "white"


@dataclass(frozen=True, slots=True, kw_only=True)
class AgreeAsked:
    """``target``: the white balance, or the id of a light; ``tolerance`` in mired."""

    target: str = WHITE
    tolerance: float = 20.0


def colour_scene(view: SetupView) -> Scene:
    """A set-up with the bench it may be changed with."""
    return Scene(
        lit=view.now.lit,
        gear=view.now.gear,
        rules=view.now.rules,
        response_for=kept_response,
        stock=GelStock(gear=view.now.gear.in_use()),
    )


def target_of(view: SetupView, target: str) -> LightColour:
    """Raises: BadValue for a light that there is not."""
    if target == WHITE:
        return view.setup.look.white
    light = next((each for each in view.now.lit.built.lights if each.light_id == target), None)
    if light is None:
        raise BadValue("target", repr(target), "the white balance, or one of the lights of this set-up")
    return light.colour


def plans_of(view: SetupView, asked: AgreeAsked) -> tuple[ColourPlan, ...]:
    """By both schools. Raises: BadValue."""
    return agreeing(colour_scene(view), target_of(view, asked.target), asked.tolerance)


def take_plan(
    session: Session, person_id: int, job_id: int, setup_id: int, asked: AgreeAsked, school: School
) -> SetupView:
    """The cheapest whole plan of a school, as one change. Raises: NotFound, BadValue, ChangedMeanwhile."""

    def changes(view: SetupView) -> tuple[Change, ...]:
        return next(each for each in plans_of(view, asked) if each.school is school).changes

    return _put(session, person_id, job_id, setup_id, changes, f"made the colours agree: {school.value}")


def disagreement_of(view: SetupView, contrast: Contrast, groups: Mapping[str, bool], tolerance: float) -> Disagreement:
    """Raises: BadValue where a group is empty."""
    return disagreeing(colour_scene(view), contrast, groups, tolerance)


def take_disagreement(
    session: Session,
    person_id: int,
    job_id: int,
    setup_id: int,
    contrast: Contrast,
    groups: Mapping[str, bool],
    tolerance: float,
) -> SetupView:
    """As one change. Raises: NotFound, BadValue, ChangedMeanwhile."""
    return _put(
        session,
        person_id,
        job_id,
        setup_id,
        lambda view: disagreement_of(view, contrast, groups, tolerance).changes,
        f"made the colours disagree: {contrast.name}",
    )


def ways_of(view: SetupView, light_id: str, target: LightColour, tolerance: float) -> tuple[ColourWay, ...]:
    """Every way to bring one light there. Raises: BadValue."""
    return matching(colour_scene(view), light_id, target, tolerance)


def take_way(
    session: Session,
    person_id: int,
    job_id: int,
    setup_id: int,
    light_id: str,
    target: LightColour,
    tolerance: float,
    number: int,
) -> SetupView:
    """One of those ways, by its place. Raises: NotFound; BadValue where there is none of that number."""

    def changes(view: SetupView) -> tuple[Change, ...]:
        ways = ways_of(view, light_id, target, tolerance)
        if not 0 <= number < len(ways):
            raise BadValue("way", number + 1, f"1 to {len(ways)}")
        return ways[number].changes

    return _put(session, person_id, job_id, setup_id, changes, "matched a colour")


def _put(
    session: Session,
    person_id: int,
    job_id: int,
    setup_id: int,
    changes: Callable[[SetupView], tuple[Change, ...]],
    words: str,
) -> SetupView:
    view = open_setup(session, person_id, job_id, setup_id)
    rows = [change_row(each) for each in changes(view)]
    if not rows:
        return view
    return change_setup(session, person_id, job_id, setup_id, rows, words)


@dataclass(frozen=True, slots=True, kw_only=True)
class Rendering:
    """Of one mark: Ra and Rf where the spectra of nearly all its light are known."""

    name: str
    ra: float
    rf: float
    share: float


def renderings_of(view: SetupView) -> tuple[Rendering, ...]:
    """Of the marks that have them; light without a spectrum is taken to be like the rest."""
    # Imported here because the colour library takes seconds and 130 MB.
    from iron_bucket.core.colour.spectral_figures import spectral_figures  # noqa: PLC0415

    found = []
    for mark in view.now.mark_colours:
        if mark.colour is None or mark.colour.spectrum is None or not mark.is_rendering_known:
            continue
        try:
            figures = spectral_figures(mark.colour.spectrum)
        except NoAnswer:
            continue
        found.append(Rendering(name=mark.name, ra=figures.ra, rf=figures.rf, share=mark.spectrum_share))
    return tuple(found)
