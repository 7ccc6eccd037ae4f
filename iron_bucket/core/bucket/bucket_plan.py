"""What a crew says of its bucket beside the lines in it: what stays up together, what is borrowed, which cases and
vehicles it travels in, what it put where by hand.
"""

from collections import Counter
from dataclasses import dataclass

from iron_bucket.core.bench.item import LONGEST_NAME, require_slug
from iron_bucket.core.checks import require_at_most, require_between, require_showable, require_word
from iron_bucket.core.errors import BadValue

MOST = {"together": 40, "borrowed": 100, "cases": 60, "vehicles": 6, "stowed": 400}


@dataclass(frozen=True, slots=True, kw_only=True)
class Together:
    """The kit of pass ``setup_id`` and that of ``with_id`` are out at one time, whatever the order of the day says."""

    piece_id: str
    setup_id: int
    with_id: int

    def __post_init__(self) -> None:
        if self.setup_id == self.with_id:
            raise BadValue("with", self.with_id, "another pass")


@dataclass(frozen=True, slots=True, kw_only=True)
class Borrowed:
    """``count`` of a piece of the bench, by its slug, that ``owner`` lends."""

    piece_id: str
    item: str
    count: int
    owner: str

    def __post_init__(self) -> None:
        require_slug(self.item)
        require_between("count", self.count, low=1, high=999, unit="pieces")
        require_word("owner", self.owner, longest=LONGEST_NAME)


@dataclass(frozen=True, slots=True, kw_only=True)
class Container:
    """``count`` cases or vehicles of one kind, by its slug; ``name``: what is written on it."""

    piece_id: str
    item: str
    count: int = 1
    name: str = ""

    def __post_init__(self) -> None:
        require_slug(self.item)
        require_between("count", self.count, low=1, high=60, unit="of them")
        require_showable("name", self.name, longest=LONGEST_NAME)


@dataclass(frozen=True, slots=True, kw_only=True)
class Stowed:
    """A piece of the bench that goes into one case, by the case's label, whatever the program would do."""

    piece_id: str
    item: str
    case: str

    def __post_init__(self) -> None:
        require_slug(self.item)
        require_word("case", self.case, longest=LONGEST_NAME)


@dataclass(frozen=True, slots=True, kw_only=True)
class BucketPlan:
    """All of it."""

    together: tuple[Together, ...] = ()
    borrowed: tuple[Borrowed, ...] = ()
    cases: tuple[Container, ...] = ()
    vehicles: tuple[Container, ...] = ()
    stowed: tuple[Stowed, ...] = ()

    def __post_init__(self) -> None:
        for field, most in MOST.items():
            require_at_most(field, len(getattr(self, field)), most)
        ids = Counter(each.piece_id for field in MOST for each in getattr(self, field))
        twice = next((name for name, count in ids.items() if count > 1), None)
        if twice is not None:
            raise BadValue("id", repr(twice), "an id that is used once")

    @property
    def pairs(self) -> tuple[tuple[int, int], ...]:
        """Numbers of passes that are out together."""
        return tuple((each.setup_id, each.with_id) for each in self.together)
