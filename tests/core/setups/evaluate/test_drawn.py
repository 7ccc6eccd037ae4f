"""What is drawn, told and weighed of the light."""

import math
import re
from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.colour.light_colour import mixed
from iron_bucket.core.colour.seen import seen_channels
from iron_bucket.core.modifiers.kinds import Face
from iron_bucket.core.photometry.distribution import BeamField, CosinePower
from iron_bucket.core.places.bearing import bearing_of
from iron_bucket.core.places.place import HouseLamp
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import unit_response
from iron_bucket.core.setups.evaluate.beams import axis_cd, half_edges_deg
from iron_bucket.core.setups.evaluate.cell import cell_of
from iron_bucket.core.setups.evaluate.field import FLOOR, FieldPlane, Sheet, level_field_lx, weighted_field_lx
from iron_bucket.core.setups.evaluate.seen_light import light_over_plane, light_over_wall, rooms_in_use
from iron_bucket.core.setups.evaluate.spill import level_on_wall_lx
from iron_bucket.core.setups.plan.setup import Camera, PlacedFlag, Spot
from iron_bucket.core.setups.scene.build_scene import build_scene
from tests.core.setups.made import (
    ANNA,
    BOX,
    NOON,
    OPEN_AIR,
    READS_FLAT,
    RULES,
    a_frame,
    a_lamp,
    a_place,
    a_setup,
    beam_on_plan,
    half_edge_deg,
    lit_setup,
    load_of,
)

PALE = Surroundings(a_place("white paint"))


def peak(gear, slug: str) -> float:
    return float(gear.by_slug(Configuration, slug).distribution.intensity_cd(0.0))


def level_of(found, mark: str) -> float:
    return float(found.total_lx[found.place_of(mark)])


def test_a_cell_unfolds_to_steps_that_add_up(gear):
    def cell(light, mark, found=None, **changes):
        return cell_of(found or lit_setup(gear, **changes), light, mark, RULES.units)

    panel = a_lamp(piece_id="b", name="Panel", configuration="panel-100.own-face", x_m=4.4)
    lamps = (a_lamp(sheets=("nd-0.3",)), panel)
    found = lit_setup(gear, frames=(a_frame(),), surroundings=PALE, lamps=lamps)
    for light, mark in (("key", "anna.key"), ("b", "anna.left"), ("key", "wall")):
        unfolded = cell(light, mark, found)
        assert sum(step.illuminance_lx or 0.0 for step in unfolded.steps) == pytest.approx(unfolded.total_lx, abs=0.01)
    key = cell("key", "anna.key", found).steps
    words = " ".join(f"{step.label} {step.formula}" for step in key)
    for part in ("ND 0.3 passes 0.5", "at 10 %", "by way of Frame", "catches", "off walls", "first bounce"):
        assert part in words
    assert f"catches {100.0 * float(found.response.share_caught[0, 0]):.0f} % of the light" in words
    assert any("area law of a face" in step.formula for step in cell("b", "anna.left", found).steps)
    straight = cell("key", "anna.key").steps[2].formula
    assert (straight[:3], straight[-23:]) == ("34,", " (1 + cos ε) / 2 = 0.99")
    dome, flat = (cell("key", "anna.key", rules=each) for each in (RULES, READS_FLAT))
    assert flat.steps[2].formula.endswith(", cos ε = 0.98")
    assert (dome.receptor, dome.other_receptor, dome.other_lx) == ("dome", "flat", pytest.approx(flat.total_lx))
    assert (flat.receptor, flat.other_receptor, flat.other_lx) == ("flat", "dome", pytest.approx(dome.total_lx))
    assert "looks away" in cell("key", "anna.back", rules=READS_FLAT).steps[2].formula
    bulb = (a_lamp(configuration="bulb-9.bare", x_m=2.9, y_m=-40.0),)
    faint = cell("key", "anna.nose", lamps=bulb, surroundings=PALE, people=(replace(ANNA, y_m=-1.0),))
    assert faint.steps[2].formula.endswith("= 1.00")
    assert "stands in the way" in key[2].formula
    # A tenth of a lux is told too, and adds up.
    dim = cell(
        "key", "anna.left", lamps=(a_lamp(level=0.0005),), surroundings=PALE, frames=(a_frame(x_m=2.4, y_m=1.9),)
    )
    little = {step.label: step.illuminance_lx for step in dim.steps if step.illuminance_lx}
    assert {"by way of Frame", "off walls, floor, ceiling"} <= set(little)
    assert max(little.values()) < 1.0
    assert sum(little.values()) == pytest.approx(dim.total_lx, abs=0.001)
    assert (cell("gone", "anna.key", found), cell("key", "gone", found)) == (None, None)
    assert "form factor" in cell("window", "anna.back", when=NOON).steps[0].formula
    sunny = cell("sun", "anna.top", when=NOON, weather="clear", surroundings=OPEN_AIR)
    assert "square to the sun" in sunny.steps[0].formula
    assert "off" in cell("key", "anna.key", lamps=(a_lamp(is_on=False),)).steps[1].formula


def figures_in(step) -> list[float]:
    return [
        float(each.replace(",", "").replace("\u202f", "")) for each in re.findall(r"\d[\d,\u202f]*\.?\d*", step.formula)
    ]


def test_the_figures_of_a_cell_give_its_level(gear):
    """Each formula is worked out again from the figures that it shows."""

    def cell(lamp, **more):
        found = lit_setup(gear, lamps=(lamp,), rules=READS_FLAT, **more)
        return cell_of(found, "key", "anna.key", RULES.units), found.built.lights[0]

    one, light = cell(a_lamp(level=0.25, z_m=2.2), surroundings=PALE)
    assert figures_in(one.steps[0])[0] == pytest.approx(light.fixture.axis_cd, abs=0.5)
    assert figures_in(one.steps[1]) == [2.0, 0.25, 2.0]  # log2(0.25) = -2.00
    candela, off_deg, axis, throw_m, cosine = figures_in(one.steps[2])
    assert one.steps[2].illuminance_lx == pytest.approx(0.25 * candela / throw_m**2 * cosine, rel=0.02)
    assert (off_deg <= 1.0, axis) == (True, pytest.approx(light.fixture.axis_cd, abs=0.5))
    aside, _ = cell(a_lamp(aims_at="", bearing_deg=65.0, level=0.25))  # she stands at 45 degrees from it
    assert figures_in(aside.steps[2])[1] == pytest.approx(20.0, abs=3.0)
    first, later = figures_in(one.steps[3])
    assert one.steps[3].illuminance_lx == pytest.approx(first + later, rel=0.02)
    # A face so far that it is as good as a point: L A cos cos / d^2.
    face, _ = cell(a_lamp(configuration="panel-100.own-face", x_m=0.2, y_m=0.2))
    width_m, height_m, luminance, throw_m, off_deg, cosine = figures_in(face.steps[2])
    point = luminance * width_m * height_m * math.cos(math.radians(off_deg)) * cosine / throw_m**2
    assert face.steps[2].illuminance_lx == pytest.approx(0.1 * point, rel=0.1)
    sunny = lit_setup(gear, when=NOON, weather="clear", surroundings=OPEN_AIR, rules=READS_FLAT)
    (sun,) = cell_of(sunny, "sun", "anna.top", RULES.units).steps
    assert sun.illuminance_lx == pytest.approx(math.prod(figures_in(sun)), rel=0.02)


@pytest.fixture
def lamp_of(gear):
    """A lamp of a scene, from what is placed."""
    return lambda **changes: build_scene(a_setup(lamps=(a_lamp(**changes),)), BOX, gear, RULES).scene.lamps[0]


def test_a_beam_ends_where_something_stands(gear, lamp_of):
    scene = build_scene(a_setup(), BOX, gear, RULES).scene
    lamp, open_air = scene.lamps[0], replace(scene, solids=(), walls=())
    assert axis_cd(lamp) == pytest.approx(peak(gear, "day-led-300.reflector"))
    beam = beam_on_plan(lamp, 0.1, 640.0, scene)
    reach = math.sqrt(axis_cd(lamp) * 0.1 / 640.0)
    assert np.linalg.norm(beam.half_m[1] - beam.half_m[0]) == pytest.approx(reach)  # an edge that meets nothing
    assert np.linalg.norm(beam.half_m[7] - beam.half_m[0]) < 2.2  # Anna stands in the middle
    farthest = beam_on_plan(lamp, 1.0, 1e-9, open_air).half_m
    assert np.linalg.norm(farthest[7] - farthest[0]) == pytest.approx(25.0)  # nobody looks farther
    blind = tuple(replace(wall, holes=()) for wall in scene.walls)
    long = beam_on_plan(lamp, 1.0, 0.1, replace(scene, solids=(), walls=blind)).half_m
    assert (long[:, 0].max(), long[:, 1].max()) == pytest.approx((6.0, 5.0))  # the walls end it
    shortest = beam.half_m[0] + 0.4 * (beam.half_m[1] - beam.half_m[0]) / reach
    assert beam_on_plan(lamp, 1e-4, 1e5, scene).half_m[1] == pytest.approx(shortest)
    # From outside through the pane, which is 1.6 m wide round x = 3: the middle goes on inside, the edge ends on the
    # wall.
    sun = lamp_of(x_m=3.0, y_m=7.0, z_m=1.6, aims_at="", bearing_deg=180.0)
    through = beam_on_plan(sun, 1.0, 0.1, replace(scene, solids=())).half_m
    assert (through[7, 1], through[1, 1]) == (pytest.approx(0.0, abs=0.01), pytest.approx(5.0, abs=0.01))
    off_m = 0.3 / 2**0.5
    near = PlacedFlag(piece_id="f", name="F", x_m=1.586 + off_m, y_m=1.086 + off_m, z_m=1.5, bearing_deg=45)
    cut = beam_on_plan(lamp, 0.1, 640.0, build_scene(a_setup(flags=(near,)), BOX, gear, RULES).scene).half_m
    assert math.dist(cut[7], cut[0]) == pytest.approx(math.dist((near.x_m, near.y_m, 1.5), lamp.position_m))


def test_a_beam_on_the_floor_is_a_ring_or_a_fan(gear, lamp_of):
    scene = replace(build_scene(a_setup(), BOX, gear, RULES).scene, solids=())
    down = lamp_of(aims_at="", tilt_deg=-90.0)
    ring, middle = beam_on_plan(down, 1.0, 1.0, scene).half_m, down.position_m[:2]
    radius_m = down.position_m[2] * math.tan(math.radians(half_edge_deg(down)))
    assert np.linalg.norm(ring[1:] - middle, axis=1) == pytest.approx(np.full(13, radius_m), rel=1e-3)
    assert ring[1] == pytest.approx(ring[-1])  # it closes
    assert ring[4] == pytest.approx(middle + np.array([0.0, ring[1, 0] - middle[0]]), abs=1e-9)
    globe = lamp_of(configuration="day-led-300.bare", face="lantern-0.5", aims_at="", tilt_deg=-90.0)
    wide = beam_on_plan(globe, 1.0, 0.1, replace(scene, walls=())).half_m[1] - globe.position_m[:2]
    assert np.linalg.norm(wide) == pytest.approx(globe.position_m[2] * math.tan(math.radians(75.0)))
    # Where the lamp looks a little aside of straight down, there is no ring.
    for tilt_deg, bearing_deg in ((-80.0, 0.0), (-45.0, 0.0), (-80.0, 90.0)):
        steep = lamp_of(aims_at="", bearing_deg=bearing_deg, tilt_deg=tilt_deg)
        fan = beam_on_plan(steep, 1.0, 0.1, scene).half_m
        assert fan[0] == pytest.approx(steep.position_m[:2])
        expected = steep.position_m[2] / math.tan(math.radians(-tilt_deg))
        assert (fan[7] - fan[0])[int(bearing_deg == 0.0)] == pytest.approx(expected, abs=0.01)


def test_the_edges_of_a_beam_are_those_of_its_distribution(gear, lamp_of):
    lamp = lamp_of()
    half = half_edge_deg(lamp)
    assert half == pytest.approx(27.0, abs=0.5)  # its beam is 54 degrees
    candela = lamp.intensity.intensity_cd(np.array([half - 0.25, half]))
    assert candela[0] >= axis_cd(lamp) / 2.0 > candela[1]
    all_round = replace(lamp, intensity=CosinePower(peak_cd=100.0, exponent=0.05))
    assert half_edge_deg(all_round) == pytest.approx(90.0, abs=0.3)
    assert half_edge_deg(replace(lamp, intensity=BeamField(peak_cd=100.0, beam_deg=0.6, field_deg=1.2))) == 0.5
    box = {"configuration": "day-led-300.bare", "face": "octagon-0.9"}
    assert half_edge_deg(lamp_of(**box)) == pytest.approx(60.0)
    assert half_edge_deg(lamp_of(**box | {"face": "lantern-0.5"})) == 120.0
    assert half_edge_deg(lamp_of(**box, grid="grid-octagon-0.9")) == pytest.approx(18.0)
    assert half_edges_deg(lamp_of(**box)).shape == (4,)
    # Each edge is drawn as its leaf stands.
    shut = lamp_of(aims_at="", bearing_deg=30.0, doors_deg=(90.0, 90.0, 90.0, 0.0))
    open_air = replace(build_scene(a_setup(), BOX, gear, RULES).scene, solids=(), walls=())
    drawn = beam_on_plan(shut, 0.1, 640.0, open_air)
    right, left = half_edge_deg(shut, 180.0), half_edge_deg(shut)
    found = [bearing_of(np.append(ray, 0.0)) for ray in drawn.half_m[[1, -1]] - drawn.half_m[0]]
    assert (found, right < left) == (pytest.approx([30.0 + right, 30.0 - left]), True)


SHEET = Sheet(left_m=0.0, top_m=5.0, width_m=6.0, height_m=5.0)


@pytest.mark.parametrize(
    ("plane", "rules"), [(FLOOR, RULES), (FieldPlane(height_m=1.5), RULES), (FieldPlane(height_m=1.5), READS_FLAT)]
)
def test_the_light_over_a_plane_is_that_of_marks_on_it(gear, plane, rules):
    looks = {"tilt_deg": 90.0, "z_m": 0.01} if plane.is_floor else {"bearing_deg": 180.0, "z_m": 1.5}
    x_m, y_m = 3.0 + 6.0 / SHEET.columns / 2, 3.8
    camera, frame = Camera(x_m=x_m, y_m=0.3), a_frame(x_m=5.2, y_m=2.0, z_m=2.2, bearing_deg=320.0)
    panel = {"configuration": "panel-100.own-face", "x_m": 4.5, "y_m": 2.5, "z_m": 2.6, "aims_at": "p"}
    lamps = (
        a_lamp(aims_at="", bearing_deg=40.0, z_m=2.5, tilt_deg=-20.0, level=1.0),
        a_lamp(piece_id="b", name="B", level=1.0, **panel),
        a_lamp(piece_id="c", name="C", x_m=5.9, y_m=1.2, z_m=2.2, aims_at="", bearing_deg=320.0, level=1.0),
        a_lamp(piece_id="d", name="D", is_on=False),
    )
    spots, people = (Spot(piece_id="p", name="P", x_m=x_m, y_m=y_m, **looks),), (replace(ANNA, x_m=1.0, y_m=4.5),)
    found = lit_setup(gear, lamps=lamps, frames=(frame,), spots=spots, people=people, camera=camera, rules=rules)
    field = level_field_lx(found, plane, SHEET)
    assert field.shape == (120, 160)
    place = found.place_of("p")
    is_dome = not plane.is_floor and rules is RULES
    scene = replace(found.built.scene, marks=(replace(found.built.marks[place].mark, is_dome=is_dome),))
    straight = float(found.built.levels @ unit_response(scene, with_walls=False, fineness=SET).whole_lx[:, 0])
    assert straight > 50.0
    row = round((5.0 - y_m) / 5.0 * SHEET.rows - 0.5)
    assert field[row, SHEET.columns // 2] == pytest.approx(straight, rel=0.06)  # the net under faces is coarse
    assert field.min() >= 0.0
    levels, half = found.built.levels, found.built.levels * (np.arange(len(found.built.levels)) == 1)
    both = weighted_field_lx(found, plane, SHEET, np.array([levels - half, 2.0 * half]))  # each light by itself
    assert both[0] + both[1] / 2.0 == pytest.approx(field)
    coarse = level_field_lx(found, plane, SHEET.coarser)
    assert coarse.shape == (60, 80)
    means = field.reshape(60, 2, 80, 2).mean(axis=(1, 3))
    assert np.median(np.abs(coarse - means)[means > 1.0] / means[means > 1.0]) < 0.02
    turned = replace(found.built.setup, frames=(replace(frame, bearing_deg=140.0),))  # a cloth has no wrong side
    other = level_field_lx(lit_setup(gear, turned, rules=rules), plane, SHEET)
    assert other == pytest.approx(field, rel=1e-3, abs=0.01)
    down = a_lamp(aims_at="", tilt_deg=-90.0, x_m=3.0, y_m=2.5, z_m=2.8, level=1.0)  # over the sheet's very middle
    even = lit_setup(gear, lamps=(down,), people=(), camera=replace(camera, x_m=3.0))
    floor = level_field_lx(even, FLOOR, SHEET)
    bright = np.argwhere(floor > floor.max() / 2.0)
    assert bright.mean(axis=0) == pytest.approx([(SHEET.rows - 1) / 2.0, (SHEET.columns - 1) / 2.0], abs=0.3)


def test_light_is_seen_in_stops_and_in_the_mean_of_its_colours(gear):
    """Each light's colour weighed by what it gives there; one alone has its own, and is as bright as the field says."""
    warm = a_lamp(piece_id="b", name="B", configuration="bi-lens-60.mid", cct_k=3200.0, x_m=4.4, y_m=1.1, level=0.6)
    found = lit_setup(gear, lamps=(a_lamp(), warm), people=(ANNA,))
    both = light_over_plane(found, FieldPlane.of_faces(found.built.setup), SHEET)
    alone = [light_over_plane(found, FieldPlane.of_faces(found.built.setup), SHEET, name) for name in ("key", "b")]
    assert both.stops == pytest.approx(
        np.log2(np.maximum(level_field_lx(found, FieldPlane(height_m=1.5), SHEET), 1e-6) / 159.94), abs=1e-3
    )
    given = [2.0**each.stops for each in alone]
    row, column = 45, 80  # where both give much
    colours = [light.colour for light in found.built.lights[:2]]
    assert [round(each.cct_k) for each in colours] == [5600, 3200]
    white = found.built.setup.look.white
    for each, colour in zip(alone, colours, strict=True):
        assert each.channels[:, row, column] == pytest.approx(seen_channels(colour.uv, white), abs=0.01)
    mixture = mixed(colours, [part[row, column] for part in given])
    assert both.channels[:, row, column] == pytest.approx(seen_channels(mixture.uv, white), abs=0.01)
    assert 0.05 < given[1][row, column] / given[0][row, column] < 20.0
    dim = lit_setup(gear, lamps=(a_lamp(level=0.001), replace(warm, level=0.006)), people=(ANNA,))  # a dimmer is no gel
    dimmed = light_over_plane(dim, FieldPlane.of_faces(dim.built.setup), SHEET)
    assert dimmed.channels[:, row, column] == pytest.approx(both.channels[:, row, column])
    wall = light_over_wall(found, 0, 2, "b")
    only = lit_setup(gear, lamps=(replace(a_lamp(), is_on=False), warm), people=(ANNA,))
    assert wall.stops == pytest.approx(np.log2(np.maximum(level_on_wall_lx(only, 0, 2), 1e-6) / 159.94), abs=1e-3)
    rooms = rooms_in_use(found, Sheet(left_m=-6.0, top_m=5.0, width_m=12.0, height_m=5.0))
    assert (rooms[:, :80] == -1).all()
    assert (rooms[:, 80:] == 0).all()


def test_the_light_of_a_window_goes_on_up_to_the_walls(gear):
    """Within a fifth of a metre of a side wall, where half of the net about it lies outside."""
    spot = Spot(piece_id="p", name="P", x_m=6.0 - 2.5 * 6.0 / 160, y_m=3.5, z_m=0.02, bearing_deg=0.0, tilt_deg=90.0)
    found = lit_setup(
        gear, when=NOON, lamps=(), people=(), spots=(spot,), surroundings=Surroundings(a_place("black cloth"))
    )
    wide = Sheet(left_m=-1.0, top_m=6.0, width_m=8.0, height_m=7.0)
    field = level_field_lx(found, FLOOR, wide)
    column, row = round((spot.x_m + 1.0) / 8.0 * 160 - 0.5), round(2.5 / 7.0 * 120 - 0.5)
    straight = (found.built.levels @ (found.response.whole_lx - found.response.indirect_lx))[found.place_of("p")]
    assert straight > 20.0
    assert field[row, column] == pytest.approx(straight, rel=0.1)
    assert field[row, column + 8] < 0.02 * straight  # past the wall


def test_each_edge_of_an_upright_cut_is_that_of_its_side(gear, lamp_of):
    """Leaves of four different angles: the cut along the aim has those above and below, whichever way it points."""
    open_air = replace(build_scene(a_setup(), BOX, gear, RULES).scene, solids=(), walls=())
    lamp = lamp_of(aims_at="", bearing_deg=30.0, z_m=9.0, doors_deg=(5.0, 20.0, 12.0, 35.0))
    edges = [half_edge_deg(lamp, azimuth) for azimuth in (0.0, 90.0, 180.0, 270.0)]
    assert len({round(edge) for edge in edges}) == 4
    cut = beam_on_plan(lamp, 1.0, 1e3, open_air).upright_m
    rays = (cut[[1, -1]] - cut[0]) @ np.array([[0.5, 0.75**0.5, 0.0], [0.0, 0.0, 1.0]]).T
    assert np.degrees(np.arctan2(rays[:, 1], rays[:, 0])) == pytest.approx([-edges[3], edges[1]], abs=1e-6)
    assert ((cut - cut[0]) @ np.array([0.75**0.5, -0.5, 0.0])) == pytest.approx(np.zeros(14), abs=1e-9)
    down = beam_on_plan(lamp_of(aims_at="", tilt_deg=-90.0), 1.0, 1.0, open_air).upright_m
    assert down[:, 1] == pytest.approx(np.full(14, down[0, 1]), abs=1e-9)
    boxed = lamp_of(configuration="day-led-300.bare", face="octagon-0.9")
    box, bare = gear.by_slug(Face, "octagon-0.9"), gear.by_slug(Configuration, "day-led-300.bare")
    assert axis_cd(boxed) == pytest.approx(bare.lumens * box.efficiency.value / math.pi)


def test_a_field_lies_where_the_first_face_is(gear):
    people = (replace(ANNA, z_m=1.72), replace(ANNA, piece_id="ben"))
    assert [FieldPlane.of_faces(a_setup(people=each)).height_m for each in (people, ())] == [1.72, 1.3]


def test_a_beam_is_cut_upright_along_its_aim(gear):
    """From 2.4 m down by 20 degrees: the lower edge to the floor, the upper to the far wall or out of reach."""
    lamp = a_lamp(aims_at="", bearing_deg=90.0, z_m=2.4, tilt_deg=-20.0, x_m=0.5, y_m=2.5, level=1.0)
    found = lit_setup(gear, lamps=(lamp,), people=(), surroundings=OPEN_AIR)
    light = found.built.scene.lamps[0]
    half_deg = half_edge_deg(light)
    cut = beam_on_plan(light, 1.0, 1e-3, found.built.scene).upright_m
    low, high = cut[1] - cut[0], cut[-1] - cut[0]
    assert np.degrees(np.arctan2(low[[2]], low[[0]])) == pytest.approx([-20.0 - half_deg], abs=0.3)
    assert np.degrees(np.arctan2(high[[2]], high[[0]])) == pytest.approx([-20.0 + half_deg], abs=0.3)
    assert (cut[:, 1], cut[1, 2], cut[0]) == (
        pytest.approx(2.5, abs=1e-6),
        pytest.approx(0.0, abs=1e-6),
        pytest.approx(light.position_m),
    )
    down = lit_setup(gear, lamps=(replace(lamp, tilt_deg=-90.0, x_m=3.0),), people=())
    cut = beam_on_plan(down.built.scene.lamps[0], 1.0, 1e-3, down.built.scene).upright_m
    assert cut[[1, -1], 0] - 3.0 == pytest.approx(2.4 * np.tan(np.radians(half_deg)) * np.array([-1, 1]), abs=0.05)


def test_what_a_set_up_weighs_draws_and_costs(gear):
    board = a_frame(piece_id="b", name="Board", frame="", cloth="", board="board-poly-2.4")
    boxed = a_lamp(configuration="day-led-300.bare", face="octagon-0.9", feed="socket")
    found = load_of(a_setup(lamps=(boxed,), frames=(a_frame(frame="frame-1.8"), board)), gear)
    head, pieces = gear.head("day-led-300"), {each.slug: each for each in gear.items()}
    assert found.amps == pytest.approx(float(head.draw.watts(0.1)) / head.draw.power_factor / 230.0)
    parts_kg = sum(pieces[slug].weight_kg for slug in ("octagon-0.9", "frame-1.8", "board-poly-2.4"))
    expected = head.total_kg + parts_kg + 1.8 * 1.8 * pieces["cloth-full-white"].weight_kg
    # 1.5 m high: head with octagon and frame, over 4 kg each, are too much for a light stand; the frame has one at
    # each end with a grip head, the board a light one with its holder; 1.8 m a side are two tubes of 0.9, joined.
    grip = {"stand-medium": 3, "stand-light": 1, "bag-10": 4, "grip-head": 3, "board-holder": 1, "cloth-ties": 1}
    grip |= {"frame-tube-0.9": 8, "frame-corner": 4, "tube-joiner": 4, "floor-marks": 1}
    expected -= pieces["frame-1.8"].weight_kg
    assert found.weight_kg == pytest.approx(expected + sum(pieces[slug].weight_kg * n for slug, n in grip.items()))
    assert found.day_price == pytest.approx(1.8 * 1.8 * 1.2)  # of the cloth no such size is ours, all else is
    assert load_of(a_setup(lamps=(a_lamp(is_on=False),)), gear).amps == 0.0
    assert load_of(a_setup(lamps=(a_lamp(feed="battery-v-150"),)), gear).amps == 0.0


def test_house_lamps_may_be_switched_off(gear):
    globe = HouseLamp(lamp_id="key", name="Globe", x_m=3, y_m=1, z_m=2.5, lumens=1000, is_bare=True)
    there = Surroundings(a_place(house_lamps=(globe,)))
    on, off = (lit_setup(gear, lamps=(), surroundings=there, house_off=names) for names in ((), ("key",)))
    assert level_of(on, "anna.key") > 10.0
    assert level_of(off, "anna.key") == 0.0
    both = lit_setup(gear, surroundings=there)  # a lamp of ours may bear the same number
    assert level_of(both, "anna.nose") == pytest.approx(
        level_of(on, "anna.nose") + level_of(lit_setup(gear), "anna.nose")
    )
