"""Papers from a kit: each is a table with headings between its rows, whatever it is printed or saved as."""

from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from iron_bucket.core.bench.item import Item
from iron_bucket.core.bucket.hire import Source, hire_price
from iron_bucket.core.bucket.job_kit import JobKit
from iron_bucket.core.bucket.kit_groups import GroupedBy, groups_of
from iron_bucket.core.bucket.load.cases import Packed
from iron_bucket.core.bucket.need import Sort
from iron_bucket.core.bucket.ticks import Stage, Tally, thing_of
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.units import UnitSystem

Cell = str | int | float | None


class PaperKind(StrEnum):
    """What is asked for on paper."""

    BY_CASE = "by-case"
    BY_SETUP = "by-set-up"
    BY_OWNER = "by-owner"
    HIRE = "hire-request"
    RETURNS = "hire-returns"
    GELS = "gel-cuts"
    INSURANCE = "insurance"
    CARNET = "carnet"


@dataclass(frozen=True, slots=True, kw_only=True)
class Section:
    """Rows under one heading, which may be empty; a cell for each column."""

    title: str
    rows: tuple[tuple[Cell, ...], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Paper:
    """``money``: the columns that hold prices or values, by their headings; ``note``: a sentence beneath."""

    kind: PaperKind
    title: str
    columns: tuple[str, ...]
    sections: tuple[Section, ...]
    money: frozenset[str] = frozenset()
    note: str = ""

    @property
    def rows(self) -> Iterator[tuple[Cell, ...]]:
        """All of them, each behind its heading."""
        for section in self.sections:
            for row in section.rows:
                yield (section.title, *row)

    def without_money(self) -> "Paper":
        """The same for those whom prices are none of their business."""
        kept = [at for at, column in enumerate(self.columns) if column not in self.money]
        return Paper(
            kind=self.kind,
            title=self.title,
            columns=tuple(self.columns[at] for at in kept),
            sections=tuple(
                Section(title=each.title, rows=tuple(tuple(row[at] for at in kept) for row in each.rows))
                for each in self.sections
            ),
            note=self.note,
        )


@dataclass(frozen=True, kw_only=True)
class KitPapers:
    """What papers are made from."""

    kit: JobKit
    sources: Mapping[Sort, Source]
    packed: Packed
    days: int
    units: UnitSystem = UnitSystem.METRIC
    tallies: Mapping[str, Tally] = field(default_factory=dict)

    def paper(self, kind: PaperKind) -> Paper:
        """One of them."""
        return _PAPERS[kind](self)


_LIST = ("how many", "what", "weight, kg", "case", "from")


def _listed(made: KitPapers, title: str, kind: PaperKind, by: GroupedBy) -> Paper:
    groups = groups_of(made.kit, made.sources, by)
    sections = tuple(
        Section(
            title=group.title,
            rows=tuple(
                (
                    row.quantity,
                    _name(row.line.item, row.line.kind, row.line.area_m2, made.units),
                    round(row.line.weight_of(row.quantity), 2),
                    made.packed.box_of(row.line.item.slug),
                    _from(made.sources[row.line.sort]),
                )
                for row in group.rows
            ),
        )
        for group in groups
    )
    return Paper(kind=kind, title=title, columns=_LIST, sections=sections)


def _name(item: Item, kind: str, area_m2: float, units: UnitSystem) -> str:
    return f"{item.name}, {display.area(area_m2, units)}" if kind == "cloths" else item.name


def _from(source: Source) -> str:
    words = [f"{source.own} own"] if source.own else []
    words += [f"{count} from {owner}" for owner, count in source.lent]
    words += [f"{source.hired} hire"] if source.hired else []
    words += [f"{source.short} not available yet"] if source.short else []
    return ", ".join(words)


def _by_case(made: KitPapers) -> Paper:
    sections = []
    loose: Counter[str] = Counter()
    for box in made.packed.boxes:
        names = Counter(_name(p.item, p.line.kind, p.line.area_m2, made.units) for p in box.pieces)
        if box.case is None:
            loose += names
            continue
        title = f"{box.label}, {display.mass(box.weight_kg, made.units)}"
        sections.append(Section(title=title, rows=tuple((count, name) for name, count in names.items())))
    if loose:
        sections.append(Section(title="Loose", rows=tuple((count, name) for name, count in loose.items())))
    return Paper(kind=PaperKind.BY_CASE, title="Kit by case", columns=("how many", "what"), sections=tuple(sections))


def _hire(made: KitPapers) -> Paper:
    rows = []
    for source in made.sources.values():
        if source.hired or source.short:
            item, count = source.line.item, source.hired + source.short
            one = hire_price(item, made.days)
            price = None if one is None else round(one * source.line.area_m2 * count, 2)
            rows.append(
                (
                    item.slug,
                    _name(item, source.line.kind, source.line.area_m2, made.units),
                    count,
                    made.days,
                    item.lead_days,
                    item.day_price,
                    item.week_price,
                    price,
                )
            )
    return Paper(
        kind=PaperKind.HIRE,
        title="Hire request",
        columns=("item", "what", "how many", "days", "notice, days", "day_price", "week_price", "for the days"),
        sections=(Section(title="", rows=tuple(sorted(rows, key=lambda row: str(row[1])))),),
        money=frozenset(("day_price", "week_price", "for the days")),
        note="Prices as last known. Please send this table back with yours, and how many there are (stock).",
    )


def _returns(made: KitPapers) -> Paper:
    rows = []
    for sort, source in made.sources.items():
        if source.hired:
            tally = made.tallies.get(thing_of(*sort), Tally(needed=source.line.quantity))
            rows.append(
                (
                    source.line.item.name,
                    source.hired,
                    tally.at(Stage.RETURNED),
                    tally.damaged,
                    tally.gone,
                    "; ".join(tally.notes),
                )
            )
    return Paper(
        kind=PaperKind.RETURNS,
        title="Back to the hire house",
        columns=("what", "hired", "ticked back, ours too", "damaged", "not coming back", "notes"),
        sections=(Section(title="", rows=tuple(rows)),),
    )


def _gels(made: KitPapers) -> Paper:
    sections = []
    for line in made.kit.lines:
        if line.peak and line.peak.cuts:
            rows = tuple(
                (count, " × ".join(str(display.length(side, made.units)) for side in cut))
                for cut, count in line.peak.cuts
            )
            sections.append(Section(title=f"{line.item.name}: {line.quantity} of stock", rows=rows))
    return Paper(kind=PaperKind.GELS, title="Gel cut list", columns=("pieces", "size"), sections=tuple(sections))


def _insured(made: KitPapers) -> Iterator[tuple[str, str, int, Item, float]]:
    """What travels that is ours or lent: name, serial, how many, the piece, the value of one."""
    for source in made.sources.values():
        line, left = source.line, source.own + sum(count for _, count in source.lent)
        for unit in sorted(source.units, key=lambda unit: not unit.is_ours):
            if left and unit.condition.can_go:
                left -= 1
                yield f"{line.item.name}, {unit.name}", unit.serial, 1, line.item, unit.value or line.item.value
        if left:
            name = _name(line.item, line.kind, line.area_m2, made.units)
            yield name, "", left, line.item, line.item.value * line.area_m2


def _insurance(made: KitPapers) -> Paper:
    rows = [(name, serial, count, value, round(count * value, 2)) for name, serial, count, _, value in _insured(made)]
    total = round(sum(row[4] for row in rows), 2)
    cases = [
        (box.label, "", 1, box.case.value, box.case.value) for box in made.packed.boxes if box.case and box.case.value
    ]
    total += sum(row[4] for row in cases)
    return Paper(
        kind=PaperKind.INSURANCE,
        title="For the insurance",
        columns=("what", "serial", "how many", "value of one", "value"),
        sections=(
            Section(title="Kit", rows=tuple(rows)),
            Section(title="Cases", rows=tuple(cases)),
            Section(title="Together", rows=(("", "", None, None, total),)),
        ),
        money=frozenset(("value of one", "value")),
    )


def _carnet(made: KitPapers) -> Paper:
    rows = []
    for number, (name, serial, count, item, value) in enumerate(_insured(made), start=1):
        weight_kg = made.kit.by_sort[_sort_of(made, item, name)].weight_of(count)
        rows.append((number, name, serial, count, round(weight_kg, 2), round(count * value, 2), item.made_in))
    return Paper(
        kind=PaperKind.CARNET,
        title="General list for a carnet",
        columns=("no.", "description", "serial", "pieces", "weight, kg", "value", "country of origin"),
        sections=(Section(title="", rows=tuple(rows)),),
        money=frozenset(("value",)),
        note="What is used up abroad does not belong on a carnet. Customs and the issuing chamber decide.",
    )


def _sort_of(made: KitPapers, item: Item, name: str) -> Sort:
    lines = (line for line in made.kit.lines if line.item is item)
    return next(
        (line.sort for line in lines if _name(item, line.kind, line.area_m2, made.units) == name), (item.slug, 1.0)
    )


_PAPERS: dict[PaperKind, Callable[[KitPapers], Paper]] = {
    PaperKind.BY_CASE: _by_case,
    PaperKind.BY_SETUP: lambda made: _listed(made, "Kit by set-up", PaperKind.BY_SETUP, GroupedBy.SETUP),
    PaperKind.BY_OWNER: lambda made: _listed(made, "Kit by owner", PaperKind.BY_OWNER, GroupedBy.OWNER),
    PaperKind.HIRE: _hire,
    PaperKind.RETURNS: _returns,
    PaperKind.GELS: _gels,
    PaperKind.INSURANCE: _insurance,
    PaperKind.CARNET: _carnet,
}


def filled(paper: Paper) -> Iterable[Section]:
    """Sections with a row."""
    return (section for section in paper.sections if section.rows)
