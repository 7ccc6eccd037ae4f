"""The bench's use cases against the real database: changed, told, undone; readings, files, spectra, the whole of it in
and out.
"""

import json
from dataclasses import replace

import pytest

from iron_bucket.core.bench.head import Technology
from iron_bucket.core.bench.output import level_lx
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from iron_bucket.desk import bench, hire, people
from iron_bucket.desk.bench import changes, edit, files, readings, spectra, transfer
from iron_bucket.desk.bench.head_view import open_form, open_head, open_piece
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.gear_json import bench_json
from iron_bucket.formats.gear_rows import GEAR_KINDS
from iron_bucket.formats.photometric import read_photometric
from tests.conftest import GOLDEN
from tests.devices.test_hire_desk import DAY, HOUSE
from tests.made_up import a_head, a_sheet
from tests.tables import table, tabled

WISH = files.UploadWish(name="", technology=Technology.LED_DAY, cct_k=5600.0, weight_kg=3.0)
F30 = (GOLDEN / "photometric" / "f30.ies").read_bytes()
SPECTRUM = (GOLDEN / "spectra" / "FL3.csv").read_bytes()


def undone(session, person: int) -> str:
    return changes.step_bench(session, person, changes.bench_steps(session, person).undo.number, is_back=True)


def redone(session, person: int) -> str:
    return changes.step_bench(session, person, changes.bench_steps(session, person).redo.number, is_back=False)


@pytest.fixture
def me(demo) -> int:
    return people.sign_in(demo, DEMO_SIGN_IN, DEMO_PASSWORD).person.person_id


@pytest.fixture
def other(demo) -> int:
    return people.add_person(demo, name="Other", sign_in="other", password="quite-long-enough").person_id


def a_reading(throw_m: float, level: float, configuration: str = "hmi-575.flood", **more) -> Reading:
    return Reading(configuration_slug=configuration, throw_m=throw_m, illuminance_lx=level, **more)


def head_of(session, slug: str):
    return bench.shelf(session).gear.head(slug)


def test_a_change_is_told_with_its_figure_who_and_which_plans_use_it(demo, me):
    form = open_form(demo, "day-led-300")
    edit.change(demo, me, "day-led-300", form.version, dict(form.row) | {"fan_db": 31.0, "tags": "loud;ours"})
    view = open_head(demo, me, "day-led-300")
    assert (view.head.fan_db, view.head.tags) == (31.0, ("loud", "ours"))
    (told,) = view.history
    assert (told.text, told.who) == ("changed day LED 300", "Demo gaffer")
    assert [(each.name, each.before, each.after) for each in told.figures] == [
        ("fan_db", 29.0, 31.0),
        ("tags", None, "loud;ours"),
    ]
    (plan,) = view.plans
    assert plan.name == "The Borrowed Minute"
    assert {each.name for each in plan.changed} >= {"fan_db"}  # it was planned with the figure of before


def test_every_change_can_be_undone_in_its_turn(demo, me):
    before = {row.slug: row for row in bench.shelf(demo).stated.heads}
    form = open_form(demo, "day-led-300")
    edit.change(demo, me, "day-led-300", form.version, dict(form.row) | {"fan_db": 31.0})
    edit.retire(demo, me, "bi-led-300", is_retired=True)
    copied = edit.copy(demo, me, "day-led-60")
    made = edit.create(demo, me, "heads", GEAR_KINDS["heads"].write(a_head(name="shed lamp")))
    assert [each.slug for each in open_head(demo, me, made).configurations] == [f"{made}.bare"]
    assert len(open_head(demo, me, copied).configurations) == 3
    assert "bi-led-300" not in {each.slug for each in bench.shelf(demo).in_use.heads}
    told = [undone(demo, me) for _ in range(4)]
    assert told == ["made shed lamp", "copied day LED 60", "retired bicolour LED 300", "changed day LED 300"]
    assert {row.slug: row for row in bench.shelf(demo).stated.heads} == before
    assert changes.bench_steps(demo, me).undo is None
    told_of = open_head(demo, me, "day-led-300").history
    assert [(each.text, each.is_undone) for each in told_of] == [(f"undid: {told[3]}", False), (told[3], True)]
    assert [redone(demo, me) for _ in told] == told[::-1]
    assert {made, copied} <= {head.slug for head in bench.shelf(demo).stated.heads}
    for _ in range(3):
        undone(demo, me)
    edit.retire(demo, me, "bi-led-300", is_retired=True)
    assert changes.bench_steps(demo, me).redo is None  # overtaken: what was undone is only told now
    assert {each.is_undone for each in open_head(demo, me, "day-led-300").history} == {False}


def test_nobody_undoes_what_somebody_else_has_changed_since(demo, me, other):
    for person, noise in ((me, 31.0), (other, 32.0)):
        form = open_form(demo, "day-led-300")
        edit.change(demo, person, "day-led-300", form.version, dict(form.row) | {"fan_db": noise})
    with pytest.raises(ChangedMeanwhile, match="cannot be undone: somebody has changed the same thing since"):
        undone(demo, me)
    assert head_of(demo, "day-led-300").fan_db == 32.0
    assert undone(demo, other) == "changed day LED 300"
    assert undone(demo, me) == "changed day LED 300"
    assert head_of(demo, "day-led-300").fan_db == 29.0


def test_an_older_form_is_told(demo, me):
    form = open_form(demo, "day-led-300")
    edit.change(demo, me, "day-led-300", form.version, dict(form.row) | {"fan_db": 31.0})
    with pytest.raises(ChangedMeanwhile, match="was changed meanwhile"):
        edit.change(demo, me, "day-led-300", form.version, dict(form.row))
    same = open_form(demo, "day-led-300")
    edit.change(demo, me, "day-led-300", same.version, dict(same.row))  # nothing differs: nothing is noted
    assert len(open_head(demo, me, "day-led-300").history) == 1


@pytest.mark.parametrize(
    "row", [{"name": " "}, {"name": "x", "weight_kg": "heavy"}, {"name": "x", "weight_kg": 1.0, "colour": "red"}]
)
def test_a_bad_piece_leaves_nothing_behind(demo, me, row):
    stamp = bench.shelf(demo).stamp
    with pytest.raises(BadValue):
        edit.create(demo, me, "frames", row)
    assert bench.shelf(demo).stamp == stamp
    with pytest.raises(BadValue, match="kind is 'lasers'"):
        edit.create(demo, me, "lasers", {"name": "x"})
    with pytest.raises(NotFound):
        edit.copy(demo, me, "gone")
    with pytest.raises(NotFound):
        open_piece(demo, me, "day-led-300")


def test_configurations_and_units_of_a_head(demo, me):
    row = table(__file__, "test_configurations_and_units_of_a_head")
    slug = edit.create_configuration(demo, me, "day-led-300", row)
    unit = edit.create_unit(demo, me, "day-led-300", {"name": "No. 3", "serial": "TW-9", "faults": "bent yoke"})
    view = open_head(demo, me, "day-led-300")
    assert slug in {each.slug for each in view.configurations}
    assert view.units[-1].unit.faults == ("bent yoke",) or unit in {each.unit.slug for each in view.units}
    assert [each.text for each in view.history] == ["added unit No. 3 of day LED 300", "made half way of day LED 300"]
    edit.retire(demo, me, unit, is_retired=True)
    assert open_head(demo, me, "day-led-300").history[0].text == "retired No. 3"  # told on the page of its head
    edit.retire(demo, me, unit, is_retired=True)
    assert len(open_head(demo, me, "day-led-300").history) == 3


def test_readings_change_what_a_pick_reckons_with(demo, me):
    claimed = next(each for each in bench.shelf(demo).stated.configurations if each.slug == "hmi-575.flood")
    read = [a_reading(throw, level_lx(claimed, throw) / 2) for throw in (2.0, 3.0, 5.0)]
    assert readings.add_reading(demo, me, read) == 3
    shelf = bench.shelf(demo)
    in_use = next(each for each in shelf.packed.configurations if each.slug == "hmi-575.flood")
    assert (in_use.origin, level_lx(in_use, 4.0)) == (
        Origin.MEASURED,
        pytest.approx(level_lx(claimed, 4.0) / 2, rel=1e-3),
    )
    view = open_head(demo, me, "hmi-575")
    assert view.history[0].text == "logged 3 readings of HMI 575 W lens head"
    assert len(view.readings["hmi-575.flood"]) == 3
    struck = view.readings["hmi-575.flood"][0].reading_id
    assert readings.strike(demo, me, struck, is_struck=True) == "hmi-575.flood"
    assert open_head(demo, me, "hmi-575").readings["hmi-575.flood"][0].is_struck
    assert len(bench.shelf(demo).measured.configurations["hmi-575.flood"].readings) == 2
    for expected in ("struck out", "logged 3 readings"):
        assert undone(demo, me).startswith(expected)
    assert "hmi-575.flood" not in bench.shelf(demo).measured.configurations


@tabled
def test_a_reading_names_what_is_there(demo, me, reading, error, sentence):
    with pytest.raises(error, match=sentence):
        readings.add_reading(demo, me, [reading])
    with pytest.raises(BadValue, match="readings is none"):
        readings.add_reading(demo, me, [])
    with pytest.raises(NotFound):
        readings.strike(demo, me, 10**9, is_struck=True)


def test_a_table_is_looked_at_first_and_its_columns_remembered(demo, me, other):
    data, start = b"A;B\n10;300\n20;x\n30;33\n", a_reading(1.0, 1.0)
    first = readings.look_at_table(demo, me, data, None, start, UnitSystem.METRIC)
    assert first.trouble.startswith("distance is named for 0 columns")
    uses = ("distance_ft", "level_fc")
    seen = readings.look_at_table(demo, me, data, uses, start, UnitSystem.METRIC)
    assert ([each.throw_m for each in seen.good], [each.line for each in seen.bad]) == (
        [pytest.approx(3.048), pytest.approx(9.144)],
        [3],
    )
    readings.remember_columns(demo, me, seen.table, uses)
    again = readings.look_at_table(demo, me, data, None, start, UnitSystem.METRIC)
    assert (again.uses, again.is_remembered) == (uses, True)
    assert not readings.look_at_table(demo, other, data, None, start, UnitSystem.METRIC).is_remembered
    assert not readings.look_at_table(
        demo, me, data, ("distance_m", "level_lx"), start, UnitSystem.METRIC
    ).is_remembered


@tabled
def test_the_next_stop_is_about_a_stop_darker(walked, proposed):
    assert readings.next_throw_m(walked) == proposed


def test_several_files_at_once(demo, me):
    f26 = (GOLDEN / "photometric" / "f26.ies").read_bytes()
    taken = files.take_in_files(
        demo, me, (("a.ies", F30), ("bad.ies", b"nothing"), ("b.ies", f26), ("same.ies", F30)), WISH
    )
    assert [each.is_new for each in taken] == [True, False, True, False]
    assert "TILT=" in taken[1].trouble
    assert taken[3].head_slug == taken[0].head_slug
    (again,) = files.take_in_files(demo, me, (("later.ies", F30),), WISH)
    assert (again.head_slug, again.is_new) == (taken[0].head_slug, False)
    assert undone(demo, me) == "imported 2 photometric files"
    with pytest.raises(NotFound):
        open_head(demo, me, taken[0].head_slug)


def test_one_file_becomes_a_head_that_is_claimed(demo, me):
    (taken,) = files.take_in_files(demo, me, (("panel.ies", F30),), replace(WISH, name="New Lamp"))
    view = open_head(demo, me, taken.head_slug)
    (configuration,) = view.configurations
    assert (view.head.name, view.head.draw.full_w.value, configuration.origin) == ("New Lamp", 50.0, Origin.CLAIMED)
    assert taken.head_slug in {each.slug for each in bench.shelf(demo).packed.heads}
    no_watts = F30.replace(b"1 1 50", b"1 1 0")
    (refused,) = files.take_in_files(demo, me, (("x.ies", no_watts),), replace(WISH, name="New Lamp"))
    assert "watts is missing in the file" in refused.trouble
    (named,) = files.take_in_files(
        demo, me, (("x.ies", no_watts),), replace(WISH, name="New Lamp", watts=60.0, technology=Technology.TUNGSTEN)
    )
    assert named.head_slug == "new-lamp-2"
    assert open_head(demo, me, named.head_slug).head.is_hot


def test_a_configuration_goes_out_as_it_is_in_use(demo):
    for ending in ("ies", "ldt"):
        written = files.give_out_file(demo, "panel-100.own-face", ending)
        back = read_photometric(written.data, f"x.{ending}")
        measured = next(each for each in bench.shelf(demo).gear.configurations if each.slug == "panel-100.own-face")
        assert back.distribution.peak_cd == pytest.approx(float(measured.distribution.intensity_cd(0.0)), rel=1e-4)
        assert back.input_w == bench.shelf(demo).gear.head("panel-100").draw.full_w.value
    for slug, ending in (("gone", "ies"), ("panel-100.own-face", "exe")):
        with pytest.raises(NotFound):
            files.give_out_file(demo, slug, ending)


def test_spectra_are_attached_once_and_taken_off(demo, me):
    number = spectra.take_in_spectrum(demo, me, "dome-0.35", SPECTRUM, "gel.csv")
    assert spectra.take_in_spectrum(demo, me, "dome-0.35", SPECTRUM, "again.csv") == number
    (view,) = open_piece(demo, me, "dome-0.35").spectra
    assert view.figures["ra"] == pytest.approx(56.7, abs=0.6)
    with pytest.raises(NotFound):
        spectra.take_in_spectrum(demo, me, "gone", SPECTRUM, "x.csv")
    with pytest.raises(FormatError):
        spectra.take_in_spectrum(demo, me, "dome-0.35", b"nothing", "x.csv")
    assert spectra.take_off_spectrum(demo, me, number) == "dome-0.35"
    assert open_piece(demo, me, "dome-0.35").spectra == ()
    assert undone(demo, me) == "removed the spectrum gel.csv"
    assert open_piece(demo, me, "dome-0.35").spectra[0].figures == view.figures
    for call in (spectra.open_spectrum, lambda session, number: spectra.take_off_spectrum(session, me, number)):
        with pytest.raises(NotFound):
            call(demo, 10**9)


def test_a_spectrum_of_a_gel_is_what_it_passes_and_its_figures_follow(demo, me):
    curve = b"nm,percent\n" + b"".join(b"%d,%.2f\n" % (nm, 20.0 + (700 - nm) / 10.0) for nm in range(400, 701, 10))
    before = open_piece(demo, me, "full-orange")
    spectra.take_in_spectrum(demo, me, "full-orange", curve, "ours.csv")
    view = open_piece(demo, me, "full-orange")
    assert before.behind == ()
    assert (view.item.transmittance.origin, view.item.transmittance.value) == (
        Origin.MEASURED,
        pytest.approx(0.34, abs=0.02),
    )
    assert view.item.shift_mired < -40.0  # it turns out to be blue
    assert [each.name for each in view.behind] == ["daylight, 5600 K", "tungsten, 3200 K"]
    assert view.behind[0].behind.shift_mired == view.item.shift_mired
    with pytest.raises(BadValue, match="shares up to 1, or per cent up to 100"):
        spectra.take_in_spectrum(demo, me, "full-orange", curve.replace(b"20.00", b"120.00"), "more.csv")


def test_a_coloured_light_has_no_figures_and_says_so(demo, me):
    green = b"".join(b"%d,%g\n" % (nm, 1.0 if 520 <= nm <= 540 else 0.0001) for nm in range(400, 705, 5))
    spectra.take_in_spectrum(demo, me, "full-blue", green, "green.csv")
    assert "no shade of white" in open_piece(demo, me, "full-blue").spectra[0].figures["trouble"]


def test_the_whole_bench_out_and_into_an_empty_one(demo, me, engine):
    document = json.dumps(bench_json(transfer.bench_file(demo)))
    same = transfer.import_bench(demo, me, document, theirs_win=True)
    assert (same.new, same.changed, same.readings, same.spectra) == (0, 0, 0, 0)
    for row in bench.shelf(demo).stated.items():
        edit.retire(demo, me, row.slug, is_retired=True) if row.slug == "full-blue" else None
    ours = transfer.import_bench(demo, me, document, theirs_win=False)
    assert (ours.kept_ours, ours.changed) == (1, 0)
    theirs = transfer.import_bench(demo, me, document, theirs_win=True)
    assert (theirs.kept_ours, theirs.changed) == (0, 1)
    assert json.dumps(bench_json(transfer.bench_file(demo))) == document
    assert undone(demo, me).startswith("imported a bench file: 0 new, 1 changed")


def test_some_of_the_bench_takes_along_what_it_names(demo, me):
    some = transfer.bench_file(demo, frozenset({"day-led-300"}))
    assert [head.slug for head in some.gear.heads] == ["day-led-300"]
    assert {each.slug for each in some.gear.units} == {"day-led-300-no-1", "day-led-300-no-2", "day-led-300-ada"}
    assert {each.slug for each in some.gear.modifiers()} == {
        "dome-0.9",
        "full-orange",
        "gel-half-white",
        "cloth-silk",
        "frame-1.2",
    }
    assert len(some.spectra) == 1
    by_gel = transfer.bench_file(demo, frozenset({"full-blue"}))
    assert [head.slug for head in by_gel.gear.heads] == ["tung-1000"]
    assert {reading.modifier_slug for reading in by_gel.readings} == {"full-blue"}


def test_a_bench_file_is_taken_whole_or_not_at_all(demo, me):
    stamp = bench.shelf(demo).stamp
    clash = {
        "format": "iron-bucket gear",
        "version": 2,
        "sheets": [GEAR_KINDS["sheets"].write(a_sheet("new-gel")), GEAR_KINDS["sheets"].write(a_sheet("frame-1.2"))],
    }
    with pytest.raises(BadValue, match="another one: here it is a frame"):
        transfer.import_bench(demo, me, json.dumps(clash), theirs_win=True)
    stray = {"version": 2, "readings": [{"configuration_slug": "gone", "throw_m": 1, "illuminance_lx": 1}]}
    with pytest.raises(FormatError, match="a configuration of the same file"):
        transfer.import_bench(demo, me, json.dumps(stray), theirs_win=True)
    assert bench.shelf(demo).stamp == stamp


def test_prices_from_the_desk_and_from_a_list(demo, me):
    stocked = replace(
        HOUSE, stocked=[replace(HOUSE.stocked[0], item="day-led-300"), replace(HOUSE.stocked[1], item="not-here")]
    )
    state = hire.HireAnswers(stocked).on(DAY)
    (row,) = hire.price_rows(demo, state)
    assert row.differs
    assert hire.take_prices(demo, me, state) == 1
    assert head_of(demo, "day-led-300").day_price == row.offer.day_price
    assert hire.take_prices(demo, me, state) == 0
    taken = hire.take_price_list(demo, me, b"item,day_price\nDay LED 300,99\nfull-blue,1\nnobody knows it,5\n")
    assert (taken.matched, taken.changed, [each.item for each in taken.unknown]) == (2, 1, ["nobody knows it"])
    assert head_of(demo, "day-led-300").day_price == 99.0
    assert undone(demo, me) == "took one price from a price list"
    with pytest.raises(FormatError):
        hire.take_price_list(demo, me, b"item,day_price\nfull-blue,lots\n")


def test_every_process_sees_a_change_by_its_stamp(demo, me):
    before = bench.shelf(demo)
    assert bench.shelf(demo) is before
    edit.retire(demo, me, "day-led-300", is_retired=True)
    after = bench.shelf(demo)
    assert after.stamp != before.stamp
    assert "day-led-300" in {head.slug for head in before.packed.heads}
    assert "day-led-300" not in {head.slug for head in after.packed.heads}


def test_a_change_lays_out_anew_only_what_changed(demo, me):
    before = bench.shelf(demo)
    edit.retire(demo, me, "full-blue", is_retired=True)
    after = bench.shelf(demo)
    assert after.stamp != before.stamp
    same = [one is other for one, other in zip(before.stated.items(), after.stated.items(), strict=True)]
    assert same.count(False) == 1
    assert after.packed.candela == pytest.approx(before.packed.candela)
    assert len(after.in_use.sheets) == len(before.in_use.sheets) - 1
