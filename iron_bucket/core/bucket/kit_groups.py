"""The kit list laid out: by what things are, by the pass that needs them, by whom they come from."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from enum import StrEnum

from iron_bucket.core.bench.accessory import Accessory
from iron_bucket.core.bucket.hire import Source
from iron_bucket.core.bucket.job_kit import JobKit, KitLine
from iron_bucket.core.bucket.need import Sort, quantity_of


class GroupedBy(StrEnum):
    """What a list is laid out by."""

    KIND = "kind"
    SETUP = "set-up"
    OWNER = "owner"


@dataclass(frozen=True, slots=True, kw_only=True)
class KitRow:
    """So many of a line under one heading."""

    line: KitLine
    quantity: int


@dataclass(frozen=True, slots=True, kw_only=True)
class KitGroup:
    """Rows under one heading, by their names."""

    title: str
    rows: tuple[KitRow, ...]


#: Headings in the order that a truck is packed from, with the lists of the bench under each.
_KINDS = {
    "Heads": ("heads",),
    "On the heads": ("configurations", "optics", "faces", "grids", "sheets"),
    "Frames, boards, flags": ("frames", "cloths", "boards", "flags"),
    "Stands and bags": ("stands", "bags"),
    "Grip and control": ("accessories",),
    "Power": ("batteries", "cables"),
}
_USED_UP, _WHOLE_JOB, _BY_HAND = "Used up", "The whole job", "By hand"


def groups_of(kit: JobKit, sources: Mapping[Sort, Source], by: GroupedBy = GroupedBy.KIND) -> tuple[KitGroup, ...]:
    """Nothing is left out: what belongs under no heading has one of its own."""
    found: dict[str, list[KitRow]] = {}
    for title, row in _LAID_OUT[by](kit, sources):
        if row.quantity:
            found.setdefault(title, []).append(row)
    order = list(_KINDS) if by is GroupedBy.KIND else []
    titles = sorted(found, key=lambda title: order.index(title) if title in order else len(order))
    return tuple(KitGroup(title=title, rows=tuple(sorted(found[title], key=_by_name))) for title in titles)


def _by_name(row: KitRow) -> tuple[int, str, float]:
    kinds = [kind for several in _KINDS.values() for kind in several]
    place = kinds.index(row.line.kind) if row.line.kind in kinds else len(kinds)
    return place, row.line.item.name.casefold(), row.line.area_m2


def _by_kind(kit: JobKit, _: Mapping[Sort, Source]) -> Iterator[tuple[str, KitRow]]:
    for line in kit.lines:
        is_used_up = isinstance(line.item, Accessory) and line.item.is_used_up
        title = next((title for title, kinds in _KINDS.items() if line.kind in kinds), line.kind)
        yield _USED_UP if is_used_up else title, KitRow(line=line, quantity=line.quantity)


def _by_setup(kit: JobKit, _: Mapping[Sort, Source]) -> Iterator[tuple[str, KitRow]]:
    """What every pass needs for itself; the same thing stands under each that uses it."""
    for each in kit.passes:
        for sort, needs in each.by_sort.items():
            title = f"{each.name}, {each.place_name}"
            yield title, KitRow(line=kit.by_sort[sort], quantity=quantity_of(needs))
    for line in kit.lines:
        more = line.quantity - (line.peak.quantity if line.peak else 0)
        title = _BY_HAND if line.quantity > line.derived else _WHOLE_JOB
        yield title, KitRow(line=line, quantity=max(more, 0))


def _by_owner(kit: JobKit, sources: Mapping[Sort, Source]) -> Iterator[tuple[str, KitRow]]:
    for line in kit.lines:
        source = sources[line.sort]
        yield "Our own", KitRow(line=line, quantity=source.own)
        for owner, count in source.lent:
            yield f"Borrowed from {owner}", KitRow(line=line, quantity=count)
        yield "To hire", KitRow(line=line, quantity=source.hired)
        yield "From nowhere yet", KitRow(line=line, quantity=source.short)


_Laying = Callable[[JobKit, Mapping[Sort, Source]], Iterable[tuple[str, KitRow]]]
_LAID_OUT: dict[GroupedBy, _Laying] = {GroupedBy.KIND: _by_kind, GroupedBy.SETUP: _by_setup, GroupedBy.OWNER: _by_owner}
