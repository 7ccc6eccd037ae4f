"""A set-up as a page shows it: placed, computed, judged."""

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

from sqlalchemy.orm import Session

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.cautions.rules import Caution, lamp_cautions
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import Board
from iron_bucket.core.places.place import Place
from iron_bucket.core.setups.evaluate.faces import LitFace, lit_faces
from iron_bucket.core.setups.evaluate.ladder import Ladder, ladder_of, mark_names
from iron_bucket.core.setups.evaluate.lit_scene import LitScene
from iron_bucket.core.setups.plan.setup import PLACED, Setup
from iron_bucket.core.setups.plan.throws import throws_m
from iron_bucket.core.setups.scene.build_scene import build_scene, frame_parts
from iron_bucket.core.setups.sheet.clearance import circuit_amps, clearance
from iron_bucket.core.setups.sheet.load_summary import LoadSummary, load_summary
from iron_bucket.core.setups.sheet.moves import Drift, Move, drifts, moves
from iron_bucket.desk.bench import shelf_in
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.jobs import JobView
from iron_bucket.desk.places import get_place, surroundings_of
from iron_bucket.desk.setups.kept import response_for
from iron_bucket.formats.record_json import read_record
from iron_bucket.store.places import places_by_id
from iron_bucket.store.setups import SetupRow, setup_row, setups_of
from iron_bucket.store.states import PlaceStateRow, SetupStateRow, around, standing


@dataclass(frozen=True, slots=True, kw_only=True)
class PassName:
    """Another pass or set-up of the same job, for the list beside."""

    setup_id: int
    after_id: int | None
    name: str
    width: str
    place_id: int


@dataclass(eq=False, kw_only=True)
class Evaluation:
    """A set-up in its place, with everything that follows from it; each part is computed when it is first asked for."""

    lit: LitScene
    gear: Gear
    rules: HouseRules

    @property
    def setup(self) -> Setup:
        """What was placed."""
        return self.lit.built.setup

    @cached_property
    def ladder(self) -> Ladder:
        """Every mark against the camera's range."""
        return ladder_of(self.lit, self.rules.receptor)

    @cached_property
    def faces(self) -> tuple[LitFace, ...]:
        """How each person is lit."""
        return lit_faces(self.lit)

    @cached_property
    def mark_names(self) -> dict[str, str]:
        """Whatever can have a target, by its mark."""
        return mark_names(self.setup, self.lit.built.surroundings.place)

    @cached_property
    def load(self) -> LoadSummary:
        """Amps, kilos and money of what is placed."""
        return load_summary(self.setup, self.gear, self.rules)

    @cached_property
    def throws(self) -> dict[str, float]:
        """How far each lamp, frame and flag stands from what it lights."""
        return throws_m(self.setup)

    @cached_property
    def feeds(self) -> dict[str, str]:
        """Socket or battery of each lamp, in words."""
        place = self.lit.built.surroundings.place
        names = {each.socket_id: f"{each.name}, {each.circuit}" for each in place.sockets}
        names |= {each.slug: each.name for each in self.gear.batteries}
        return {lamp.piece_id: names.get(lamp.feed, "") for lamp in self.setup.lamps}

    @cached_property
    def frame_words(self) -> dict[str, str]:
        """What each frame is made of."""
        found = {}
        for frame in self.setup.frames:
            parts = frame_parts(frame, self.gear)
            found[frame.piece_id] = parts.name if isinstance(parts, Board) else f"{parts[0].name}, {parts[1].name}"
        return found

    @cached_property
    def amps(self) -> dict[str, float]:
        """Of ours, by circuit of the house."""
        return circuit_amps(self.lit)

    @cached_property
    def cautions(self) -> tuple[Caution, ...]:
        """What will not stand, reach or hide; then what to mind with each lamp that burns."""
        found = list(clearance(self.lit, self.gear, self.rules))
        for light in self.lit.built.lights:
            if light.fixture and light.placed and light.placed.is_on:
                fixture = light.fixture
                found += [
                    replace(each, title=f"{light.name}: {each.title[:1].lower()}{each.title[1:]}")
                    for each in lamp_cautions(fixture.head, fixture.parts)
                ]
        return tuple(dict.fromkeys(found))


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SetupView:
    """``before``: the pass that this one varies, computed too, None for a first one. ``passes``: every set-up of the job in its order."""

    setup_id: int
    job: JobView
    place_id: int
    after_id: int | None
    version: int
    now: Evaluation
    before: Evaluation | None
    passes: tuple[PassName, ...]
    undo_text: str | None
    redo_text: str | None
    is_archived: bool

    @property
    def setup(self) -> Setup:
        """What was placed."""
        return self.now.setup

    @property
    def moves(self) -> tuple[Move, ...]:
        """The move sheet from the pass before."""
        if self.before is None:
            return ()
        return moves(self.before.setup, self.setup, self.now.gear, self.now.rules.units)

    @property
    def drifts(self) -> tuple[Drift, ...]:
        """How far the key turned on each person."""
        return () if self.before is None else drifts(self.before.faces, self.now.faces)


def evaluated(session: Session, setup: Setup, place_state: PlaceStateRow, gear: Gear, rules: HouseRules) -> Evaluation:
    """Raises: BadValue for gear that is not on the bench."""
    built = build_scene(setup, surroundings_of(session, place_state), gear, rules)
    return Evaluation(lit=LitScene(built=built, response=response_for(built)), gear=gear, rules=rules)


def get_setup(session: Session, job_id: int, setup_id: int, *, locked: bool = False) -> SetupRow:
    """Raises: NotFound."""
    row = setup_row(session, job_id, setup_id, locked=locked)
    if row is None:
        raise NotFound("there is no such set-up in this job")
    return row


def setup_view(session: Session, job: JobView, row: SetupRow) -> SetupView:
    """Everything of one set-up: a query each for it, its neighbours, its place and what it varies."""
    state, following = around(session, SetupStateRow, row)
    rows = setups_of(session, [row.job_id])
    states = standing(session, SetupStateRow, rows)
    place = get_place(session, row.place_id)
    place_state, _ = around(session, PlaceStateRow, place)
    gear = shelf_in(session).gear
    earlier = next((each for each in rows if each.id == row.after_id), None)
    before = None
    if earlier is not None and earlier.place_id == row.place_id:
        before = evaluated(session, read_record(Setup, states[earlier.id].document), place_state, gear, job.rules)
    return SetupView(
        setup_id=row.id,
        job=job,
        place_id=row.place_id,
        after_id=row.after_id,
        version=row.version,
        now=evaluated(session, read_record(Setup, state.document), place_state, gear, job.rules),
        before=before,
        passes=tuple(_pass_name(each, states[each.id].document) for each in rows),
        undo_text=state.text if row.at_state > 1 else None,
        redo_text=following.text if following else None,
        is_archived=row.is_archived,
    )


def archived_setups(session: Session, job: JobView) -> tuple[PassName, ...]:
    """Set-ups of a job that are off its list, by name alone."""
    rows = setups_of(session, [job.job_id], is_archived=True)
    states = standing(session, SetupStateRow, rows)
    return tuple(_pass_name(row, states[row.id].document) for row in rows)


def _pass_name(row: SetupRow, document: dict[str, Any]) -> PassName:
    return PassName(
        setup_id=row.id, after_id=row.after_id, name=document["name"], width=document["width"], place_id=row.place_id
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SetupCard:
    """One set-up on the list of a job; ``trouble`` instead of what follows from it where it cannot be computed."""

    setup_id: int
    after_id: int | None
    place_id: int
    place_name: str
    setup: Setup
    now: Evaluation | None
    trouble: str = ""


def setup_cards(session: Session, job: JobView) -> tuple[SetupCard, ...]:
    """All set-ups of a job in their order, each computed: five queries, however many."""
    rows = setups_of(session, [job.job_id])
    states = standing(session, SetupStateRow, rows)
    places = {place.id: place for place in places_by_id(session, {row.place_id for row in rows})}
    gear = shelf_in(session).gear
    place_states = standing(session, PlaceStateRow, list(places.values()))
    found = []
    for row in rows:
        setup, place, now, trouble = read_record(Setup, states[row.id].document), places[row.place_id], None, ""
        try:
            now = evaluated(session, setup, place_states[place.id], gear, job.rules)
        except BadValue as bad:
            trouble = str(bad)
        found.append(
            SetupCard(
                setup_id=row.id,
                after_id=row.after_id,
                place_id=place.id,
                place_name=place.name,
                setup=setup,
                now=now,
                trouble=trouble,
            )
        )
    return tuple(found)


def piece_names(setup: Setup, place: Place) -> dict[str, str]:
    """Names of all pieces by id; of targets and films what they are for."""
    marks = mark_names(setup, place)
    names = {each.piece_id: each.name for kind in PLACED for each in getattr(setup, kind)}
    names |= {each.piece_id: f"target on {marks.get(each.mark, each.mark)}" for each in setup.targets}
    return names | {each.piece_id: f"film on {marks.get(each.opening_id, each.opening_id)}" for each in setup.films}
