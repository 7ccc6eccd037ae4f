"""A set-up as a page shows it: placed, computed, judged."""

from collections.abc import Mapping
from dataclasses import dataclass

from sqlalchemy.orm import Session

from iron_bucket.core.cautions.rules import Caution
from iron_bucket.core.errors import BadValue
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.load_board import LoadBoard, load_board
from iron_bucket.core.power.job.outlets import FedPlace, SourceLegs, fed_place
from iron_bucket.core.power.job.pass_loads import pass_loads
from iron_bucket.core.power.job.power_cautions import supply_cautions
from iron_bucket.core.setups.evaluation import Evaluation
from iron_bucket.core.setups.plan.setup import Setup
from iron_bucket.core.setups.sheet.moves import Drift, Move, drifts, moves
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.job_contents import JobContents, job_contents
from iron_bucket.desk.jobs import JobView, require_job, rules_from, view_of
from iron_bucket.desk.places import surroundings_at
from iron_bucket.desk.setups.kept import kept_evaluation, kept_setup
from iron_bucket.store.history import Around, Scope, ScopeKind, around
from iron_bucket.store.jobs import JobRow
from iron_bucket.store.setups import SetupRow, setup_row, setups_of


@dataclass(frozen=True, slots=True, kw_only=True)
class PassName:
    """Another pass or set-up of the same job, for the list beside."""

    setup_id: int
    after_id: int | None
    name: str
    width: str
    place_id: int


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SetupView:
    """``before``: the pass that this one varies, computed too, None for a first one.

    ``passes``: every set-up of the job in its order; ``bucket``: how many of each piece of gear the job's list holds;
    ``board``: what hangs where, and ``legs`` of what the job brings.
    """

    setup_id: int
    job: JobView
    place_id: int
    after_id: int | None
    version: int
    now: Evaluation
    before: Evaluation | None
    passes: tuple[PassName, ...]
    steps: Around
    is_archived: bool
    bucket: Mapping[str, int]
    board: LoadBoard
    legs: tuple[SourceLegs, ...]

    @property
    def cautions(self) -> tuple[Caution, ...]:
        """What is pointed out of the set-up, and of what feeds it."""
        around, units = self.now.lit.built.surroundings, self.job.rules.units
        return (*supply_cautions(self.board, self.legs, around, units), *self.now.cautions)

    @property
    def setup(self) -> Setup:
        """What was placed."""
        return self.now.setup

    @property
    def passes_here(self) -> dict[str, list[PassName]]:
        """Of this place, by the set-up's name, in their order."""
        found: dict[str, list[PassName]] = {}
        for each in self.passes:
            if each.place_id == self.place_id or each.setup_id == self.setup_id:
                found.setdefault(each.name, []).append(each)
        return found

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


def get_setup(session: Session, job_id: int, setup_id: int, *, locked: bool = False) -> SetupRow:
    """Raises: NotFound."""
    row = setup_row(session, job_id, setup_id, locked=locked)
    if row is None:
        raise NotFound("there is no such set-up in this job")
    return row


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class OpenSetup:
    """A set-up with all that it stands among, read once for one use case."""

    job: JobRow
    contents: JobContents
    row: SetupRow
    surroundings: Surroundings

    @property
    def rules(self) -> HouseRules:
        """The job's."""
        return rules_from(self.job.rules)

    @property
    def scope(self) -> Scope:
        """Within what its changes are undone."""
        return Scope(ScopeKind.SETUP, self.row.id)

    @property
    def fed(self) -> FedPlace:
        """Its place with what the job brings there."""
        bare = self.contents.bare.get(self.row.place_id)
        if bare is None:  # of a pass that is put away
            return FedPlace(place=self.surroundings.place)
        return fed_place(bare.place, self.row.place_id, self.contents.power)

    @property
    def board(self) -> LoadBoard:
        """What hangs where."""
        row, gear, rules = self.row, self.contents.gear, self.rules
        loads = pass_loads(self.setup, row.id, row.place_id, self.contents.power, gear, rules.scrim_school).loads
        return load_board(self.fed, loads, gear, rules, {})

    @property
    def setup(self) -> Setup:
        """What is placed. Raises: BadValue where what was stored cannot be read."""
        return kept_setup(self.row.document)


def read_setup(session: Session, person_id: int, job_id: int, setup_id: int, *, locked: bool = False) -> OpenSetup:
    """A set-up of this person's job.

    ``locked``: nobody else changes it meanwhile. Raises: NotFound.
    """
    row = get_setup(session, job_id, setup_id, locked=locked)  # first: what is read before the lock would be older
    return opened_setup(session, require_job(session, person_id, job_id), row)


def opened_setup(session: Session, job: JobRow, row: SetupRow) -> OpenSetup:
    """The same where job and row are at hand."""
    contents = job_contents(session, [row.job_id])[row.job_id]
    around = contents.places.get(row.place_id) or surroundings_at(session, row.place_id, contents.power)
    return OpenSetup(job=job, contents=contents, row=row, surroundings=around)


def setup_view(session: Session, open_setup: OpenSetup, *, job: JobView | None = None) -> SetupView:
    """What a page shows of it: one query, for what can be undone in it."""
    contents, row, rules = open_setup.contents, open_setup.row, open_setup.rules
    earlier = next((each for each in contents.setups if each.id == row.after_id), None)
    before = None
    if earlier is not None and earlier.place_id == row.place_id:
        before = kept_evaluation(earlier.document, open_setup.surroundings, contents.gear, rules)
    steps = around(session, open_setup.scope)
    fed = open_setup.fed
    return SetupView(
        setup_id=row.id,
        job=job or view_of(open_setup.job, contents.kit(rules)),
        place_id=row.place_id,
        after_id=row.after_id,
        version=row.version,
        now=kept_evaluation(row.document, open_setup.surroundings, contents.gear, rules),
        before=before,
        passes=tuple(_pass_name(each) for each in contents.setups),
        steps=steps,
        is_archived=row.is_archived,
        bucket=contents.counted,
        board=open_setup.board,
        legs=fed.legs,
    )


def archived_setups(session: Session, job_id: int) -> tuple[PassName, ...]:
    """Set-ups of a job that are off its list, by name alone."""
    return tuple(_pass_name(row) for row in setups_of(session, [job_id], is_archived=True))


def _pass_name(row: SetupRow) -> PassName:
    document = row.document
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
    name: str
    setup: Setup | None
    now: Evaluation | None
    trouble: str = ""


def setup_cards(contents: JobContents, rules: HouseRules) -> tuple[SetupCard, ...]:
    """All set-ups of a job in their order, each evaluated; one that cannot be says why and hides no other."""
    found = []
    for row in contents.setups:
        document, place_id = row.document, row.place_id
        setup, now, trouble = None, None, ""
        try:
            setup = kept_setup(document)
            trouble = contents.unread.get(place_id, "")
            if not trouble:
                now = kept_evaluation(document, contents.places[place_id], contents.gear, rules)
        except BadValue as bad:
            trouble = str(bad)
        found.append(
            SetupCard(
                setup_id=row.id,
                after_id=row.after_id,
                place_id=place_id,
                place_name=contents.place_names[place_id],
                name=str(document.get("name", "a set-up")),
                setup=setup,
                now=now,
                trouble=trouble,
            )
        )
    return tuple(found)
