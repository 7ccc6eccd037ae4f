"""A fixture as a source: what it wears, what leaves it, where it looks."""

import math
from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.head import HeadClass
from iron_bucket.core.errors import BadValue
from iron_bucket.core.figure import Origin
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.modifiers.kinds import ScrimSchool, Sheet
from iron_bucket.core.modifiers.measured_pass import MeasuredPass
from iron_bucket.core.photometry.distribution import straight_cd
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.scene.scene import Mark, Scene
from iron_bucket.core.selection.levels import levels
from iron_bucket.core.selection.need import Need
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.setups.plan.setup import Spot
from iron_bucket.core.setups.scene.build_scene import aimed
from iron_bucket.core.setups.scene.fixture import fixture_of, source_of
from tests.core.setups.made import READS_FLAT, a_lamp, a_setup, lit_setup
from tests.tables import tabled

HALF = ScrimSchool.HALF_AND_ONE


def level_of(found, mark: str) -> float:
    return float(found.total_lx[found.place_of(mark)])


def peak(gear, slug: str) -> float:
    return float({each.slug: each for each in gear.configurations}[slug].distribution.intensity_cd(0.0))


def test_a_cheek_gets_the_inverse_square_and_the_cosine(gear):
    found = lit_setup(gear)
    # The lamp stands 2.0 m from the middle of the head, at bearing 225 from it; the key cheek looks along 235 and lies
    # 0.1 m out.
    offset = {each.slug: each for each in gear.configurations}["day-led-300.reflector"].offset_m
    cheek = np.array([3.0, 2.5]) + 0.1 * np.array([math.sin(math.radians(235)), math.cos(math.radians(235))])
    source = np.array([1.586, 1.086]) - offset * np.array([math.sin(math.radians(45)), math.cos(math.radians(45))])
    ray = source - cheek
    cosine = (ray @ (cheek - [3.0, 2.5])) / 0.1 / np.linalg.norm(ray)
    expected = 0.1 * peak(gear, "day-led-300.reflector") * cosine / (ray @ ray)
    assert level_of(found, "anna.key") == pytest.approx(expected, rel=0.02)  # black walls still send a little
    assert found.key_and_shadow("anna") == ("right", "left")  # her own right lies to the left of the picture
    assert level_of(found, "anna.shadow") < 0.05 * expected
    assert level_of(found, "anna.back") < 3.0  # black cloth sends 3 % back
    with pytest.raises(KeyError):
        found.key_and_shadow("nobody")
    assert found.place_of("nobody.key") is None
    assert found.by_light_lx.sum(axis=0) == pytest.approx(found.total_lx)


def test_levels_geometry_and_colours_of_a_fixture(gear):
    full, dim = (level_of(lit_setup(gear, lamps=(a_lamp(level=level),)), "anna.key") for level in (1.0, 0.25))
    assert dim == pytest.approx(full / 4)
    assert level_of(lit_setup(gear, lamps=(a_lamp(is_on=False),)), "anna.key") == 0.0
    # A box that looks straight down lies along the plan.
    box = a_lamp(configuration="day-led-300.bare", face="octagon-0.9")
    for aim in ((0.0, 0.0, -1.0), (0.0, 0.0, 1.0), (0.0, 0.6, 0.8)):
        assert source_of(box, fixture_of(box, gear, HALF), np.array(aim)).face.width_along.tolist() == [1.0, 0.0, 0.0]
    # What a box warms is added to what a gel cools.
    lamp = a_lamp(configuration="day-led-300.bare", face="octagon-0.9", sheets=("half-blue",))
    fixture = fixture_of(lamp, gear, HALF)
    old = replace(fixture, face=replace(fixture.face, shift_mired=30.0))
    assert 1e6 / old.colour(lamp).cct_k - 1e6 / fixture.colour(lamp).cct_k == pytest.approx(30.0)


@tabled
def test_what_a_lamp_wears_weighs_too(gear, changes, share):
    bare, dressed = fixture_of(a_lamp(), gear, HALF), fixture_of(a_lamp(**changes), gear, HALF)
    assert dressed.axis_cd == pytest.approx(bare.axis_cd * share)
    assert [link.label for link in dressed.links] == [each.name for each in dressed.sheets]
    assert fixture_of(a_lamp(**changes), gear, ScrimSchool.ONE_AND_TWO).axis_cd <= dressed.axis_cd


def test_a_box_is_a_face_of_its_lumens(gear):
    heads = {each.slug: each for each in gear.configurations}
    fixture = fixture_of(a_lamp(configuration="day-led-300.bare", face="octagon-0.9"), gear, HALF)
    assert fixture.axis_cd == pytest.approx(
        0.42 * heads["day-led-300.bare"].lumens / math.pi
    )  # docs/craft.md: eta Phi / pi
    assert fixture.size_m == (0.9, 0.9)
    assert fixture.origin is Origin.TYPICAL
    lantern = fixture_of(a_lamp(configuration="day-led-300.bare", face="lantern-0.5"), gear, HALF)
    assert lantern.axis_cd == pytest.approx(0.75 * heads["day-led-300.bare"].lumens / (4 * math.pi))
    gridded = fixture_of(
        a_lamp(configuration="day-led-300.bare", face="octagon-0.9", grid="grid-octagon-0.9"), gear, HALF
    )
    assert gridded.axis_cd == pytest.approx(fixture.axis_cd * 0.65)
    near = {}
    for name, changes in (("box", {}), ("grid", {"grid": "grid-octagon-0.9"})):
        lamp = a_lamp(configuration="day-led-300.bare", face="octagon-0.9", level=1.0, **changes)
        near[name] = lit_setup(
            gear,
            lamps=(lamp,),
            spots=(Spot(piece_id="aside", name="Aside", x_m=4.8, y_m=1.1, z_m=1.5, bearing_deg=270),),
            rules=READS_FLAT,
        )
    # Disc on axis: E = I0 / (d2 + r2), here at the nose which looks 45 degrees away, 2 m less a head's radius off.
    assert level_of(near["box"], "anna.nose") == pytest.approx(
        fixture.axis_cd * math.cos(math.pi / 4) / (1.93**2 + 0.45**2), rel=0.06
    )
    assert level_of(near["grid"], "anna.nose") < level_of(near["box"], "anna.nose") * 0.65
    assert level_of(near["box"], "aside") > 10.0
    assert (
        level_of(near["grid"], "aside") < 0.3 * level_of(near["box"], "aside") * 0.65
    )  # beyond 30 degrees straight cells let nothing through


@tabled
def test_a_placed_lamp_gives_what_a_pick_says(gear, throw_m, sheet, passes):
    """Every configuration of the bench in the open, with every grid and box that it takes, a sheet before it."""
    bench = pack(replace(gear, frames=(), cloths=(), boards=(), sheets=(gear.by_slug(Sheet, sheet),)))
    kind = bench.sheet_scatter[0, 1]
    assert kind == (sheet != "nd-0.3")
    found, tried = levels(bench, Need(illuminance_lx=1.0, throw_m=throw_m)), 0
    mark = Mark(mark_id="m", position_m=np.array([0.0, throw_m, 1.5]), normal=np.array([0.0, -1.0, 0.0]))
    for row, configuration in enumerate(bench.configurations):
        for at in np.flatnonzero(bench.mounts[row]):
            fitted = {name: part.slug for name in ("face", "grid") if (part := getattr(bench.fronts[at], name))}
            lamp = a_lamp(configuration=configuration.slug, x_m=0.0, y_m=0.0, sheets=(sheet,), **fitted)
            source = source_of(lamp, fixture_of(lamp, gear, HALF), np.array([0.0, 1.0, 0.0]))
            level_lx = unit_response(Scene(lamps=(source,), marks=(mark,))).whole_lx[0, 0] / passes
            picked_lx = found.full_lx[row, at] * 2.0 ** found.scatter_stops[kind, row, at]
            assert picked_lx == pytest.approx(level_lx, rel=0.02), (configuration.slug, fitted)
            tried += 1
    assert tried > 100


def test_a_meter_s_figure_counts_on_its_class_of_head(gear):
    found = [
        MeasuredPass(modifier_slug="nd-0.3", head_class=kind, passes=passes, count=1)
        for kind, passes in ((HeadClass.TUNGSTEN, 0.1), (HeadClass.LED, 0.4))
    ]
    bare, dimmed = (
        fixture_of(a_lamp(sheets=on), replace(gear, measured=tuple(found)), HALF) for on in ((), ("nd-0.3",))
    )
    assert dimmed.axis_cd == pytest.approx(0.4 * bare.axis_cd)


def test_a_honeycomb_on_a_reflector_cuts_the_beam(gear):
    plain, cut = (
        lit_setup(gear, lamps=(a_lamp(grid=grid, level=1.0, aims_at="", bearing_deg=bearing),))
        for grid, bearing in (("", 65), ("honeycomb-30", 65))
    )
    assert level_of(plain, "anna.key") > 300.0
    assert level_of(cut, "anna.key") < 2.0  # 20 degrees off its axis, half of 30 is the end
    assert cut.built.scene.lamps[0].intensity.intensity_cd(89.5) == 0.0
    lantern = lit_setup(
        gear, lamps=(a_lamp(configuration="day-led-300.bare", face="lantern-0.5", aims_at="", bearing_deg=225),)
    )
    assert level_of(lantern, "anna.key") > 10.0  # it shines backwards too


@tabled
def test_what_does_not_go_on_a_head(gear, lamp, sentence):
    with pytest.raises(BadValue, match=sentence):
        fixture_of(lamp, gear, HALF)


@tabled
def test_the_colour_that_leaves_a_lamp(gear, changes, kelvin):
    lamp = a_lamp(**{"level": 1.0} | changes)
    assert fixture_of(lamp, gear, HALF).colour(lamp).cct_k == pytest.approx(kelvin)


def test_lamps_follow_what_they_aim_at(gear):
    setup = a_setup(lamps=(a_lamp(z_m=2.5),))
    bearing, tilt = aimed(setup, setup.lamps[0])
    assert (bearing, tilt) == pytest.approx((45.0, -26.6), abs=0.1)
    for lamp in (
        a_lamp(aims_at="", bearing_deg=10.0, tilt_deg=-5.0),
        a_lamp(aims_at="gone", bearing_deg=10.0, tilt_deg=-5.0),
        a_lamp(aims_at="anna", x_m=3.0, y_m=2.5, bearing_deg=10.0, tilt_deg=-5.0),
    ):
        assert aimed(a_setup(lamps=(lamp,)), lamp) == pytest.approx((10.0, -5.0))


def test_a_stand_carries_all_that_is_on_it_and_spreading_is_a_link_of_its_own(gear):
    boxed = a_lamp(configuration="day-led-300.bare", face="octagon-0.9", grid="grid-octagon-0.9")
    fixture = fixture_of(boxed, gear, HouseRules().scrim_school)
    parts = [fixture.head.weight_kg, *(each.weight_kg for each in (fixture.configuration, fixture.face, fixture.grid))]
    assert min(parts) > 0.0
    assert fixture.payload_kg == pytest.approx(sum(parts))
    placed = a_lamp(configuration="day-led-300.hyper", sheets=("gel-full-white",))
    fixture, bare = fixture_of(placed, gear, HALF), fixture_of(replace(placed, sheets=()), gear, HALF)
    links = {link.label: link.figure.value for link in fixture.links}
    spread = next(share for label, share in links.items() if label.endswith(", spread"))
    assert spread == pytest.approx(straight_cd(fixture.shape) / straight_cd(bare.shape))
    assert spread < 0.3
    assert fixture.axis_cd == pytest.approx(bare.axis_cd * fixture.sheets_pass * spread)
