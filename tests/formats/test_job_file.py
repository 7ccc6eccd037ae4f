"""A whole job as a file: the same bytes again, and refused with a sentence where it cannot be read."""

import io
import json
import re
from dataclasses import replace
from datetime import datetime
from uuid import UUID

import jsonschema
import pytest
from click.testing import CliRunner
from openpyxl import load_workbook

from iron_bucket.command_line.main import main
from iron_bucket.core.bucket.bucket_plan import BucketPlan, Container, Together
from iron_bucket.core.bucket.entry import Entry
from iron_bucket.core.bucket.hire import sources_of
from iron_bucket.core.bucket.load.cases import packed
from iron_bucket.core.bucket.load.piece import pieces_of
from iron_bucket.core.bucket.papers import KitPapers, PaperKind
from iron_bucket.core.bucket.ticks import Stage, Tick
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.power.job.kit import Generator, JobPower, PassTime, Pin
from iron_bucket.core.setups.plan.look import Look
from iron_bucket.demo.files import demo_gear, demo_readings
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.gear_json import BenchFile
from iron_bucket.formats.job_file import FilePass, JobFile, job_json, read_job, renumbered
from iron_bucket.formats.job_schema import job_schema
from iron_bucket.formats.paper_files import paper_csv, paper_json, paper_xlsx
from iron_bucket.formats.price_list import read_price_list
from tests.core.bucket.made import a_job, setup_of
from tests.core.setups.made import a_place
from tests.tables import ROOT, tabled


@pytest.fixture(scope="module")
def text() -> str:
    gear = demo_gear()
    wide, tight = setup_of(lamps=({"feed": "socket"},), name="One"), setup_of(lamps=({}, {}), name="Two")
    head = Entry(entry_id=1, parent_id=None, kind="heads", item=gear.head("day-led-60"), quantity=2, purpose="spare")
    stand = Entry(entry_id=2, parent_id=1, kind="stands", item=gear.stands[0], quantity=1)
    tick = Tick(tick_id=str(UUID(int=7)), thing="day-led-60", stage=Stage.PULLED, made_at=datetime(2026, 6, 1, 9, 0, 5))
    first = job_json(
        JobFile(
            uid="u-1",
            name="File",
            places_note="a box",
            rules=HouseRules(),
            look=Look(iso=1600.0),
            bench=BenchFile(gear=gear, readings=demo_readings()),
            places=(a_place(),),
            passes=(FilePass(place=1, after=0, setup=wide), FilePass(place=1, after=1, setup=tight)),
            power=JobPower(
                generators=(Generator(piece_id="g", name="G", place_id=1),),
                times=(PassTime(piece_id="pass-1", setup_id=1, rig_min=30, shoot_min=60, strike_min=10),),
                pins=(Pin(piece_id="2:l0"),),
            ),
            plan=BucketPlan(
                together=(Together(piece_id="t", setup_id=1, with_id=2),),
                vehicles=(Container(piece_id="v", item="van-long"),),
            ),
            lines=(head, stand),
            ticks=(tick,),
        )
    )
    return job_json(read_job(first))  # a corner that was typed as a whole number is a number like any other


def test_read_and_written_again_it_is_the_same_bytes(text):
    assert job_json(read_job(text)) == text
    document = json.loads(text)
    jsonschema.validate(document, job_schema())
    assert document["ticks"][0]["made_at"] == "2026-06-01T09:00:05"
    assert "times" not in document["power"]
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(document | {"more": 1}, job_schema())


def test_the_schema_that_is_published_is_that_of_the_program():
    published = json.loads((ROOT / "docs" / "job-file.schema.json").read_text(encoding="utf-8"))
    jsonschema.Draft202012Validator.check_schema(published)
    assert published == json.loads(json.dumps(job_schema()))


def test_an_older_version_is_migrated_and_a_newer_refused(text):
    document = json.loads(text)
    old = {key: value for key, value in document.items() if key not in ("days", "ticks")}
    old |= {"version": 1, "power": document["power"] | {"times": document["days"]["times"]}}
    migrated = json.loads(job_json(read_job(json.dumps(old))))
    assert migrated == document | {"ticks": []}
    with pytest.raises(FormatError, match="up to 2; this file was made by a newer Iron Bucket"):
        read_job(json.dumps(document | {"version": 3}))


@tabled
def test_what_cannot_be_read_is_named(text, change, sentence):
    with pytest.raises(FormatError, match=re.escape(sentence)):
        read_job(json.dumps(json.loads(text) | change))


def test_what_belongs_to_nothing_is_refused(text):
    document = json.loads(text)
    document["setups"][0]["after"] = 1
    with pytest.raises(FormatError, match="a pass before it in the file, or 0"):
        read_job(json.dumps(document))
    document = json.loads(text)
    document["bucket"]["lines"][1]["parent_number"] = 9
    with pytest.raises(FormatError, match="the number of a line of the file"):
        read_job(json.dumps(document))
    document["bucket"]["lines"][1]["kind"] = "toys"
    with pytest.raises(FormatError, match="kind is 'toys'"):
        read_job(json.dumps(document))


def test_numbers_of_places_and_passes_are_turned_and_what_is_gone_left_out():
    row = {
        "loads": [{"place_id": 1, "setup_id": 0}, {"place_id": 1, "setup_id": 5}, {"place_id": 9, "setup_id": 0}],
        "times": [{"piece_id": "pass-5", "setup_id": 5}, {"piece_id": "pass-6", "setup_id": 6}],
        "pins": [{"piece_id": "5:key"}, {"piece_id": "6:key"}, {"piece_id": "odd"}],
        "is_straight": True,
    }
    assert renumbered(row, {1: 31}, {5: 42}) == {
        "loads": [{"place_id": 31, "setup_id": 0}, {"place_id": 31, "setup_id": 42}],
        "times": [{"piece_id": "pass-42", "setup_id": 42}],
        "pins": [{"piece_id": "42:key"}],
        "is_straight": True,
    }


def test_the_command_prints_the_kit_with_its_whys(text, tmp_path):
    path = tmp_path / "job.json"
    path.write_text(text, encoding="utf-8")
    answer = json.loads(CliRunner().invoke(main, ["kit", str(path), "--json"]).output)
    lines = {line["slug"]: line for line in answer["lines"]}
    led, small = lines["day-led-300"], lines["day-led-60"]
    # Both passes are out together; of one chain, so that the first lamp is the same.
    assert (led["quantity"], led["own"], led["hire"], led["lent"]) == (2, 2, 0, [])
    assert led["why"][0] == {"setup": "One, wide", "rule": "head", "figure": "L0"}
    assert (small["quantity"], small["by_hand"], small["why"], small["case"]) == (2, 2, [], "LED case 1")
    assert answer["peaks"][0] == {
        "what": "day LED 300",
        "quantity": 2,
        "setups": ["One, wide", "Two, wide"],
        "from": answer["peaks"][0]["from"],
    }
    totals = answer["totals"]
    assert totals["pieces"] == sum(line["quantity"] for line in answer["lines"])
    assert totals["weight_kg"] == pytest.approx(sum(line["weight_kg"] for line in answer["lines"]))
    assert totals["weight_in_cases_kg"] > totals["weight_kg"]
    assert any("G: Power does not say" in words for words in answer["left_out"])
    plain = CliRunner().invoke(main, ["kit", str(path)]).output
    assert "Stands and bags" in plain
    assert CliRunner().invoke(main, ["kit", str(tmp_path / "gone")]).exit_code == 1


def test_papers_as_csv_as_a_spreadsheet_and_as_json_say_the_same(gear):
    setup = setup_of(lamps=({"sheets": ("full-orange",)}, {"configuration": "day-led-1200.bare"}), frames=({},))
    kit = a_job(gear, setup)
    sources = sources_of(kit.lines, gear, (), 9)
    made = KitPapers(
        kit=kit, sources=sources, packed=packed(pieces_of(kit), gear, BucketPlan(), HouseRules().kit), days=9
    )
    for kind in PaperKind:
        paper = made.paper(kind)
        rows = list(paper.rows)
        assert all(len(row) == len(paper.columns) + 1 for row in rows)
        assert sum(len(section["rows"]) for section in paper_json(paper)["sections"]) == len(rows)
        assert len(paper_csv(paper).splitlines()) == len(rows) + 1
        sheet = load_workbook(io.BytesIO(paper_xlsx(paper))).active
        titles = sum(bool(section.title and section.rows) for section in paper.sections)
        assert sheet.max_row == len(rows) + titles + 1
        assert not paper.money & set(paper.without_money().columns)
        assert len(list(paper.without_money().rows)) == len(rows)
    hire = made.paper(PaperKind.HIRE)
    row = dict(zip(hire.columns, hire.sections[0].rows[0], strict=True))
    # 145 a day, 507.5 a week, nine days: a week and two days.
    assert (row["item"], row["how many"], row["for the days"]) == ("day-led-1200", 1, 797.5)
    offer = read_price_list(paper_csv(hire).encode())[0]
    assert (offer.item, offer.day_price, offer.week_price, offer.lead_days) == ("day-led-1200", 145.0, 507.5, 3)
    gels = made.paper(PaperKind.GELS).sections
    assert [(each.title, each.rows) for each in gels] == [("full orange: 1 of stock", ((1, "0.27 m × 0.27 m"),))]
    whole = sum(row[4] for section in made.paper(PaperKind.INSURANCE).sections[:2] for row in section.rows)
    assert made.paper(PaperKind.INSURANCE).sections[2].rows[0][4] == pytest.approx(whole)
    loose = replace(made, packed=packed(pieces_of(kit), replace(gear, cases=()), BucketPlan(), HouseRules().kit))
    assert [section.title for section in loose.paper(PaperKind.BY_CASE).sections] == ["Loose"]
