"""Which piece goes into which case: where it lives, as long as there is room, within what one person lifts.

First fit, the largest first: each piece goes into the first case of its kind that takes its sides, its weight and its
room, and holds nothing it must lie apart from. What has no case left travels loose, and is said.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from iron_bucket.core.bench.case import Case
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bucket.bucket_plan import BucketPlan
from iron_bucket.core.bucket.kit_rules import CrewKit
from iron_bucket.core.bucket.load.piece import NEVER_MIN, Nature, Piece, Size, lie_apart
from iron_bucket.core.quantities.rounding import at_most
from iron_bucket.core.typical import typical


@dataclass(slots=True, kw_only=True, eq=False)
class Box:
    """A case with what is in it, or one loose piece. ``label``: what is written on it; ``most_kg``: of what is in it;
    ``lift_kg``: one person lifts no more.
    """

    label: str
    case: Case | None
    lift_kg: float
    pieces: list[Piece] = field(default_factory=list)

    @property
    def size_m(self) -> Size:
        """Outside, the longest side first; of a case as it stands."""
        return self.case.outer_m if self.case else self.pieces[0].size_m

    @property
    def volume_m3(self) -> float:
        """Outside."""
        length, width, height = self.size_m
        return length * width * height

    @property
    def content_kg(self) -> float:
        """Of what is in it."""
        return sum(piece.weight_kg for piece in self.pieces)

    @property
    def weight_kg(self) -> float:
        """With the case."""
        return self.content_kg + (self.case.weight_kg if self.case else 0.0)

    @property
    def fill(self) -> float:
        """Share of the room inside that is taken; 1 of a loose piece."""
        if self.case is None:
            return 1.0
        length, width, height = self.case.inner_m
        return sum(piece.volume_m3 for piece in self.pieces) / (length * width * height)

    @property
    def first_min(self) -> int:
        """When something in it is first needed."""
        return min((piece.first_min for piece in self.pieces), default=NEVER_MIN)

    @property
    def is_fragile(self) -> bool:
        """Whether nothing goes on top of it: a loose fragile piece; a case bears."""
        return self.case is None and any(piece.is_fragile for piece in self.pieces)

    @property
    def has_batteries(self) -> bool:
        """They stay within reach."""
        return any(piece.nature is Nature.BATTERY for piece in self.pieces)

    @property
    def is_too_heavy(self) -> bool:
        """For one person; what rolls is not lifted."""
        return not (self.case and self.case.is_cart) and not at_most(self.weight_kg, self.lift_kg)

    def takes(self, piece: Piece) -> bool:
        """Whether there is room, weight and company for it."""
        if self.case is None:
            return False
        room = sorted(self.case.inner_m, reverse=True)
        if not all(at_most(side, most) for side, most in zip(piece.size_m, room, strict=True)):
            return False
        if any(lie_apart(piece.nature, other.nature) for other in self.pieces):
            return False
        most_kg = self.case.most_kg
        if not self.case.is_cart and self.pieces:  # a heavy head alone has to be carried by two, and is said
            most_kg = min(most_kg, self.lift_kg - self.case.weight_kg)
        length, width, height = self.case.inner_m
        has_room = at_most(self.fill + piece.volume_m3 / (length * width * height), _fill()) or not self.pieces
        return has_room and at_most(self.content_kg + piece.weight_kg, most_kg)


def _fill() -> float:
    return float(typical("packing")["fill"])


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Packed:
    """``boxes`` with something in them, cases first; ``empty``: labels of cases that stay at home; ``loose``: pieces
    that have a case on the bench, and found no room in one.
    """

    boxes: tuple[Box, ...]
    empty: tuple[str, ...]
    crowded_out: tuple[Piece, ...]

    def box_of(self, slug: str) -> str:
        """Labels of the boxes that a piece of the bench travels in, in words."""
        labels = dict.fromkeys(
            box.label if box.case else "loose" for box in self.boxes for piece in box.pieces if piece.item.slug == slug
        )
        return ", ".join(labels)


def packed(pieces: Iterable[Piece], gear: Gear, plan: BucketPlan, crew: CrewKit) -> Packed:
    """Into the cases that the crew says, else into all that are ours; ``plan`` also says what goes where by hand."""
    cases = _cases(gear, plan, crew)
    by_hand = {each.item: each.case for each in plan.stowed}
    loose: list[Box] = []
    crowded_out: list[Piece] = []
    for piece in sorted(pieces, key=lambda piece: (-piece.volume_m3, piece.item.slug, piece.number)):
        homes = _homes(piece, cases, by_hand.get(piece.item.slug, ""))
        box = next((each for each in homes if each.takes(piece)), None)
        if box is None:
            crowded_out += [piece] if homes else []
            box = Box(label=piece.item.name, case=None, lift_kg=crew.lift_kg)
            loose.append(box)
        box.pieces.append(piece)
    used = [box for box in cases if box.pieces]
    return Packed(
        boxes=(*used, *loose), empty=tuple(box.label for box in cases if not box.pieces), crowded_out=tuple(crowded_out)
    )


def _cases(gear: Gear, plan: BucketPlan, crew: CrewKit) -> list[Box]:
    said = [(gear.find(Case, each.item), each.count, each.name) for each in plan.cases]
    if not said:
        said = [(case, case.owned, "") for case in gear.cases if not case.is_retired]
    found: list[Box] = []
    for case, count, name in said:
        for number in range(1, count + 1) if case else ():
            word = name or (case.name if case else "")
            label = word if count == 1 else f"{word} {number}"
            found.append(Box(label=label, case=case, lift_kg=crew.lift_kg))
    return found


def _homes(piece: Piece, cases: Sequence[Box], by_hand: str) -> list[Box]:
    """Where it was put by hand alone; else where its slug lives, then where its list of the bench does."""
    if by_hand:
        return [box for box in cases if box.label == by_hand or box.label.rpartition(" ")[0] == by_hand]
    own = [box for box in cases if box.case and piece.item.slug in box.case.lives]
    return own + [box for box in cases if box.case and piece.line.kind in box.case.lives and box not in own]
