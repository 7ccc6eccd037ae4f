"""Every paper of one small kit, cell by cell, worked out by hand."""

from dataclasses import replace

import pytest

from iron_bucket.core.bucket.bucket_plan import BucketPlan
from iron_bucket.core.bucket.hire import sources_of
from iron_bucket.core.bucket.job_kit import JobKit, KitLine
from iron_bucket.core.bucket.kit_rules import CrewKit
from iron_bucket.core.bucket.load.cases import packed
from iron_bucket.core.bucket.load.piece import pieces_of
from iron_bucket.core.bucket.papers import KitPapers, PaperKind, filled
from iron_bucket.core.bucket.peak import Peak
from iron_bucket.core.bucket.ticks import Stage, Tally, Trouble
from iron_bucket.core.modifiers.kinds import ClothSize
from iron_bucket.core.quantities.units import UnitSystem
from tests.made_up import a_cloth, a_gear, a_head
from tests.tables import table

#: Of three of ours one has a serial, one is in repair; Ada lends two, one of them missing.
LAMP = a_head(
    slug="lamp", name="Lamp", weight_kg=4.0, owned=3, day_price=10.0, week_price=30.0, value=900.0, lead_days=2
)
LAMP = replace(LAMP, made_in="here", hire_stock=4, driver_kg=0.0, cable_kg=0.0)
CLOTH = replace(
    a_cloth(slug="silk", name="Silk", weight_kg=0.5, value=40.0, day_price=2.0),
    sizes=(ClothSize(width_m=2.0, height_m=2.0, owned=1),),
    owned=1,
)
UNITS = table(__file__, "UNITS")
CRATE = table(__file__, "CRATE")


def line(item, kind: str, count: int, area_m2: float = 1.0, cuts=()) -> KitLine:
    peak = Peak(quantity=count, passes=(), heaviest=(), everywhere=(), cuts=cuts) if cuts else None
    made = {"by_hand": count, "derived": 0, "beyond": 0, "whys": (), "peak": peak}
    return KitLine(sort=(item.slug, area_m2), kind=kind, item=item, **made)


def papers(*lines: KitLine, units=UnitSystem.METRIC, tallies=(), lift_kg: float = 60.0) -> KitPapers:
    kit = JobKit(lines=lines)
    gear = a_gear(heads=(LAMP,), configurations=(), cloths=(CLOTH,), units=UNITS, cases=(CRATE,))
    boxes = packed(
        (piece for piece in pieces_of(replace(kit, lines=lines))), gear, BucketPlan(), CrewKit(lift_kg=lift_kg)
    )
    sources = sources_of(lines, gear, (), 2)
    return KitPapers(kit=kit, sources=sources, packed=boxes, days=2, units=units, tallies=dict(tallies))


LINES = (line(LAMP, "heads", 6), line(CLOTH, "cloths", 2, 4.0))


def sections(made: KitPapers, kind: PaperKind) -> dict[str, list[tuple]]:
    return {each.title: list(each.rows) for each in made.paper(kind).sections}


def test_by_owner_by_set_up_and_by_case():
    made = papers(*LINES)
    # Two of three are ready, Ada has one that goes, three are hired.
    lamps, silk = "2 own, 1 from Ada, 3 hire", "1 own, 1 hire"
    assert sections(made, PaperKind.BY_OWNER) == {
        "Our own": [(2, "Lamp", 8.0, "Crate", lamps), (1, "Silk, 4.0 m²", 2.0, "loose", silk)],
        "Borrowed from Ada": [(1, "Lamp", 4.0, "Crate", lamps)],
        "To hire": [(3, "Lamp", 12.0, "Crate", lamps), (1, "Silk, 4.0 m²", 2.0, "loose", silk)],
    }
    assert sections(made, PaperKind.BY_SETUP) == {
        "By hand": [(6, "Lamp", 24.0, "Crate", lamps), (2, "Silk, 4.0 m²", 4.0, "loose", silk)]
    }
    assert sections(made, PaperKind.BY_CASE) == {"Crate, 26.0 kg": [(6, "Lamp")], "Loose": [(2, "Silk, 4.0 m²")]}
    assert sections(papers(LINES[0]), PaperKind.BY_CASE) == {"Crate, 26.0 kg": [(6, "Lamp")]}
    short = papers(line(LAMP, "heads", 9), units=UnitSystem.IMPERIAL)
    assert sections(short, PaperKind.BY_OWNER)["From nowhere yet"][0][-1] == (
        "2 own, 1 from Ada, 4 hire, 2 not available yet"
    )
    assert "lb" in next(iter(sections(short, PaperKind.BY_CASE)))


def test_what_the_hire_house_is_asked_for_and_gets_back():
    made = papers(*LINES)
    (rows,) = sections(made, PaperKind.HIRE).values()
    assert rows == [("lamp", "Lamp", 3, 2, 2, 10.0, 30.0, 60.0), ("silk", "Silk, 4.0 m²", 1, 2, 0, 2.0, None, 16.0)]
    unpriced = replace(LAMP, day_price=None, owned=0)
    (asked,) = sections(papers(line(unpriced, "heads", 3)), PaperKind.HIRE).values()
    assert asked == [("lamp", "Lamp", 2, 2, 2, None, 30.0, None)]  # Ada's one apart
    assert sections(papers(line(LAMP, "heads", 1)), PaperKind.HIRE) == {"": []}
    tally = Tally(
        needed=6,
        counts={Stage.RETURNED: 4},
        troubles={Trouble.DAMAGED: 1, Trouble.MISSING: 2},
        notes=("dented", "lost at the lock"),
    )
    (back,) = sections(papers(*LINES, tallies={"lamp": tally}), PaperKind.RETURNS).values()
    assert back == [("Lamp", 3, 4, 1, 2, "dented; lost at the lock"), ("Silk", 1, 0, 0, 0, "")]


def test_gels_cut_and_what_is_insured_and_declared():
    gel = replace(CLOTH, slug="gel", name="Full blue")
    made = replace(papers(), kit=JobKit(lines=(*LINES, line(gel, "sheets", 2, cuts=(((0.5, 0.25), 3),)))))
    assert sections(made, PaperKind.GELS) == {"Full blue: 2 of stock": [(3, "0.5 m × 0.25 m")]}
    made = papers(*LINES)
    insured = sections(made, PaperKind.INSURANCE)
    # Ours and hers by serial, one of ours without, the silk at its area; not the one in repair, nor what is hired.
    assert insured == {
        "Kit": [
            ("Lamp, No. 1", "S1", 1, 1000.0, 1000.0),
            ("Lamp, Hers", "A1", 1, 900.0, 900.0),
            ("Lamp", "", 1, 900.0, 900.0),
            ("Silk, 4.0 m²", "", 1, 160.0, 160.0),
        ],
        "Cases": [("Crate", "", 1, 70.0, 70.0)],
        "Together": [("", "", None, None, 3030.0)],
    }
    (carnet,) = sections(made, PaperKind.CARNET).values()
    assert carnet == [
        (1, "Lamp, No. 1", "S1", 1, 4.0, 1000.0, "here"),
        (2, "Lamp, Hers", "A1", 1, 4.0, 900.0, "here"),
        (3, "Lamp", "", 1, 4.0, 900.0, "here"),
        (4, "Silk, 4.0 m²", "", 1, 2.0, 160.0, ""),
    ]
    free = replace(CRATE, value=0.0)
    worthless = replace(
        made, packed=replace(made.packed, boxes=tuple(replace(b, case=free) for b in made.packed.boxes[:1]))
    )
    assert sections(worthless, PaperKind.INSURANCE)["Cases"] == []
    one = sections(papers(line(LAMP, "heads", 1)), PaperKind.INSURANCE)["Kit"]
    assert [row[0] for row in one] == ["Lamp, No. 1"]


def test_money_is_left_out_where_it_is_nobodys_business():
    made = papers(*LINES)
    assert made.paper(PaperKind.HIRE).without_money().columns == ("item", "what", "how many", "days", "notice, days")
    bare = made.paper(PaperKind.INSURANCE).without_money()
    assert (bare.columns, bare.sections[0].rows[0]) == (("what", "serial", "how many"), ("Lamp, No. 1", "S1", 1))
    assert bare.money == frozenset()
    assert made.paper(PaperKind.CARNET).without_money().columns[-1] == "country of origin"
    assert "Prices as last known" in made.paper(PaperKind.HIRE).without_money().note
    assert next(made.paper(PaperKind.BY_OWNER).rows)[:3] == ("Our own", 2, "Lamp")
    assert [each.title for each in filled(papers(LINES[0]).paper(PaperKind.INSURANCE))] == ["Kit", "Cases", "Together"]


@pytest.mark.parametrize("kind", PaperKind)
def test_every_row_fills_every_column(kind):
    paper = papers(*LINES).paper(kind)
    assert all(len(row) == len(paper.columns) for section in paper.sections for row in section.rows)
    assert paper.kind is kind
