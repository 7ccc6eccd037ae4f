"""Every rule of the kit has a pass that fires it and one that does not, and says by which figure it did."""

import json
from dataclasses import replace
from pathlib import Path

import pytest

from iron_bucket.core.bucket.kit_rules import CrewKit, KitRule, OwnRule, RuleChange, Subject, facts_of
from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.plan.setup import Position
from iron_bucket.core.typical import typical
from iron_bucket.formats.record_json import read_record
from tests.core.bucket.made import a_job, rules_with, setup_of
from tests.core.setups.made import ANNA, BOX, OPEN_AIR, a_place
from tests.made_up import a_gear
from tests.tables import tabled

PLACES = {"box": BOX, "open": OPEN_AIR, "wet": Surroundings(a_place(is_wet=True))}
ROWS = json.loads(Path(__file__).with_suffix(".json").read_text(encoding="utf-8"))[
    "test_every_rule_fires_and_is_silent"
]
WALK = Position(piece_id="p", name="Past the lamp", person="anna", x_m=3.0, y_m=0.5, z_m=1.5)
METRIC = UnitSystem.METRIC


def kit_for(gear, row):
    """Of what a row of the table places, in its place, by its crew."""
    row = dict(row)
    power, crew = read_record(JobPower, row.pop("power", {})), read_record(CrewKit, row.pop("crew", {}))
    around, pieces = PLACES[row.pop("place", "box")], {"people": (ANNA,)}
    if row.pop("walks", False):
        pieces |= {"positions": (WALK,), "people": (replace(ANNA, x_m=1.0, y_m=0.5),)}
    if row.pop("loose", False):
        loose = tuple(
            replace(head, battery_plates=tuple(replace(plate, is_separate=True) for plate in head.battery_plates))
            for head in gear.heads
        )
        gear = replace(gear, heads=loose)
    gone = row.pop("without", [])
    gear = replace(gear, stands=tuple(each for each in gear.stands if each.slug not in gone))
    setup = setup_of(**(pieces | {key: tuple(value) for key, value in row.items()}))
    return a_job(
        gear,
        setup,
        rules=rules_with(**{name: getattr(crew, name) for name in ("bag_school", "changes")}),
        power=power,
        around=around,
    )


@pytest.mark.parametrize("row", ROWS, ids=lambda row: row["id"])
def test_every_rule_fires_and_is_silent(gear, row):
    rule = row["rule"]
    line = next(line for line in kit_for(gear, row["fires"]).lines if rule in {why.rule for why in line.whys})
    figures = [why.figure for why in line.whys if why.rule == rule]
    if row["quantity"] is not None:
        assert line.quantity == row["quantity"]
    if row["figure"] is not None:
        assert row["figure"] in figures
    assert all(figures)
    if row["silent"] is not None:
        assert rule not in {why.rule for line in kit_for(gear, row["silent"]).lines for why in line.whys}


def test_the_table_holds_every_rule_and_every_fact_reads():
    assert {row["rule"] for row in ROWS} == set(typical("kit_rules"))
    for rule in CrewKit().rules:
        asked = {rule.fact, rule.per, rule.bears, *rule.shows} - {""}
        assert asked <= set(facts_of(rule.of)), rule.rule_id
    assert facts_of(Subject.GLOBE) == ("heads",)


def test_a_rule_fires_from_its_figure_on_and_rounds_up():
    rule = KitRule(
        rule_id="x", says="x", of=Subject.LAMP, brings="peg", fact="height_m", least=2.0, count=0.5, per="gels"
    )
    assert [rule.fires({"height_m": each}) for each in (1.999, 2.0, 5.0)] == [False, True, True]
    assert not rule.fires({})
    assert not replace(rule, least=1.0).fires({})
    assert rule.pieces({}) == 0
    assert not replace(rule, is_on=False).fires({"height_m": 5.0})
    assert replace(rule, fact="").fires({})
    assert [rule.pieces({"gels": each}) for each in (0, 1, 2, 3)] == [0, 1, 1, 2]
    assert replace(rule, per="", count=2.0).pieces({}) == 2
    assert replace(rule, per="", count=0.3333).pieces({}) == 1
    assert rule.figure({"height_m": 2.5}, METRIC) == "2.5 m up"
    assert rule.figure({"height_m": 2.5}, UnitSystem.IMPERIAL) == "8'2\" up"
    assert (
        replace(rule, shows=("payload_kg", "area_m2", "watts")).figure(
            {"payload_kg": 4.0, "area_m2": 2.0, "watts": 350.0}, METRIC
        )
        == "4.0 kg to carry, 2.0 m², 350 W"
    )


def test_a_crew_switches_rules_off_changes_their_figures_and_has_its_own():
    crew = CrewKit(
        changes=(RuleChange(rule_id="safety-bond", count=2.0, least=1.5), RuleChange(rule_id="gloves", is_on=False)),
        own_rules=(
            OwnRule(
                rule_id="own-1", says="One spare key light bag", of=Subject.LAMP, brings="peg", fact="gels", per="gels"
            ),
        ),
    )
    bond, gloves, own = (crew.rule(each) for each in ("safety-bond", "gloves", "own-1"))
    assert (bond.count, bond.least, bond.is_on, gloves.is_on, gloves.count) == (2.0, 1.5, True, False, 2.0)
    assert (own.is_own, own.brings, own.pieces({"gels": 3})) == (True, "peg", 3)
    assert own in crew.rules_of(Subject.LAMP)
    assert own not in crew.rules_of(Subject.FRAME)
    assert crew.rules[: len(CrewKit().rules)] != CrewKit().rules
    assert all(rule.brings for subject in Subject for rule in crew.rules_of(subject))
    fixed = CrewKit(changes=(RuleChange(rule_id="head", is_on=False),))
    assert fixed.rule("head").is_on  # what a crew cannot do without


def test_a_crews_own_rule_brings_its_own(gear):
    own = OwnRule(rule_id="own-1", says="A spare peg bag a lamp", of=Subject.LAMP, brings="peg", count=60.0)
    kit = a_job(gear, setup_of(lamps=({}, {})), rules=rules_with(own_rules=(own,)))
    line = kit.by_sort["pegs", 1.0]
    assert (line.quantity, [why.figure for why in line.whys]) == (3, ["L0", "L1"])  # 120 from bags of 50
    gone = a_job(
        a_gear(heads=gear.heads, configurations=gear.configurations),
        setup_of(lamps=({},)),
        rules=rules_with(own_rules=(own,)),
    )
    assert "Pass: A spare peg bag a lamp (L0): 60 × peg, not on the bench" in gone.left_out


@tabled
def test_bounds_of_how_a_crew_packs(changes, refused):
    if refused:
        with pytest.raises(BadValue) as bad:
            CrewKit(**changes)
        assert bad.value.field.startswith(refused)
    else:
        assert all(getattr(CrewKit(**changes), name) == value for name, value in changes.items())


def test_what_bears_nothing_holds_what_a_rule_does_not_weigh(gear):
    weak = next(each for each in gear.accessories if each.role == "peg")
    tied = replace(gear, accessories=(replace(weak, holds_kg=0.5),))
    own = OwnRule(rule_id="own-1", says="Pegs", of=Subject.LAMP, brings="peg")
    kit = a_job(tied, setup_of(lamps=({},)), rules=rules_with(own_rules=(own,)))
    assert kit.by_sort[weak.slug, 1.0].quantity == 1


@pytest.mark.parametrize(
    ("head", "slug"), [("tung-650.flood", "dimmer-1000"), ("tung-1000.flood", "dimmer-1000"), ("tung-2000.flood", "")]
)
def test_a_dimmer_is_rated_for_the_lamp(gear, head, slug):
    few = replace(gear, accessories=tuple(each for each in gear.accessories if each.rated_w in (0.0, 1000.0)))
    kit = a_job(few, setup_of(lamps=({"name": "Edge", "configuration": head, "level": 0.99},)))
    assert [line.item.slug for line in kit.lines if line.item.slug.startswith("dimmer")] == ([slug] if slug else [])
    assert any("Edge): 1 × dimmer, not on the bench" in each for each in kit.left_out) is not bool(slug)


def test_the_spare_is_of_the_lamp_called_key_else_of_the_first(gear):
    spare = RuleChange(rule_id="spare-key", is_on=True)
    fill = {"name": "Fill", "configuration": "bi-lens-60.flood"}
    for rows, slug in (((fill, {"name": "My Key"}), "day-led-300"), ((fill, {"name": "Edge"}), "bi-lens-60")):
        spares = [
            (line.item.slug, why.figure)
            for line in a_job(gear, setup_of(lamps=rows), rules=rules_with(changes=(spare,))).lines
            for why in line.whys
            if why.rule == "spare-key"
        ]
        assert spares == [(slug, "the key of Pass, wide")]
    # The commonest of the first keys, one of each pass; it stands by dark.
    small, large = {"configuration": "bi-lens-60.flood"}, {"level": 0.4}
    for names in (("Key A", "Key B"), ("A", "B")):
        rows = [
            tuple({"name": name} | row for name, row in zip(names, some, strict=False))
            for some in ((small, large), (large,))
        ]
        passes = [setup_of(lamps=each) for each in rows]
        kit = a_job(gear, *passes, rules=rules_with(changes=(spare,)))
        assert [why.rule for line in kit.lines for why in line.whys if line.item.slug == "bi-lens-60"] == [
            "head",
            "spare-key",
        ]
        assert sorted(each.level for each in kit.entries if each.item.slug == "bi-lens-60")[0] == 0.0


def test_marks_are_one_a_person_and_one_a_place_that_is_walked_to(gear):
    own = OwnRule(rule_id="own-1", says="Pegs", of=Subject.PASS, brings="peg", fact="marks", per="marks", count=50.0)
    walks = (WALK, *(replace(WALK, piece_id=each, person="nobody") for each in "qr"))
    kit = a_job(gear, setup_of(people=(ANNA,), positions=walks), rules=rules_with(own_rules=(own,)))
    assert kit.by_sort["pegs", 1.0].quantity == 2  # bags of 50: Anna and her walk, not nobody's
