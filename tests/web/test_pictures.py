"""Names, numbers and marks of pictures keep clear of each other; lines of light lie where the light is so bright."""

import re
from itertools import product
from string import ascii_uppercase

import numpy as np
import pytest

from iron_bucket.core.exposure.incident import Receptor
from iron_bucket.core.quantities.units import UnitSystem
from iron_bucket.core.setups.evaluate.field import Sheet
from iron_bucket.core.setups.evaluate.ladder import Ladder, Rung, RungKind
from iron_bucket.desk.setups.edit import open_setup
from iron_bucket.desk.setups.passes import list_setups
from iron_bucket.web.setups.plan_picture import setup_picture
from iron_bucket.web.shared.letters import letter
from iron_bucket.web.shared.pictures.contours import contours
from iron_bucket.web.shared.pictures.labels import Label, boxes_along, placed_labels
from iron_bucket.web.shared.pictures.ladder import ladder_picture


def box_of(label, spot):
    middle = np.array([label.x + spot.dx, label.y + spot.dy])
    half = np.array([label.width, label.height]) / 2.0
    return np.concatenate([middle - half, middle + half])


def meet(one, other) -> bool:
    return bool((one[:2] < other[2:]).all() and (other[:2] < one[2:]).all())


@pytest.mark.parametrize("seed", range(4))
def test_labels_keep_clear_of_each_other_of_signs_and_of_the_edge(seed):
    chance = np.random.default_rng(seed)
    spots = chance.uniform([40, 40], [660, 360], size=(18, 2))
    signs = np.concatenate([spots - 8.0, spots + 8.0], axis=1)
    wall = boxes_along(np.array([[20.0, 200.0], [680.0, 200.0]]), 3.0)
    labels = [
        Label(key=str(at), x=x, y=y, width=chance.uniform(18, 120), height=16.0, clear=10.0)
        for at, (x, y) in enumerate(spots)
    ]
    found = placed_labels(labels, np.concatenate([signs, wall]), 700.0, 400.0)
    boxes = [box_of(each, found[each.key]) for each in labels]
    assert all(each.is_clear for each in found.values())
    for at, box in enumerate(boxes):
        assert (box >= 0.0).all()
        assert (box <= [700, 400, 700, 400]).all()
        assert not any(meet(box, other) for other in [*boxes[:at], *signs, *wall])
        spot = found[labels[at].key]
        if spot.leader:  # a line ends at its own box, and is there because the name stands off
            end = np.array([labels[at].x, labels[at].y]) + spot.leader
            assert np.clip(end, box[:2], box[2:]) == pytest.approx(end)
            assert np.hypot(*spot.leader) > 18.0


def test_a_label_alone_stands_where_it_is_wanted_and_one_without_room_says_so():
    def alone(towards_deg, taken=()):
        label = Label(key="a", x=50.0, y=50.0, width=20.0, height=10.0, clear=8.0, towards_deg=towards_deg)
        return placed_labels([label], np.array(taken), 100.0, 100.0)["a"]

    right, below = alone(0.0), alone(90.0)
    assert (right.dx, right.dy, right.leader) == (pytest.approx(18.0), pytest.approx(0.0), None)
    assert (below.dx, below.dy) == (pytest.approx(0.0, abs=1e-9), pytest.approx(13.0))
    assert not alone(0.0, [[0.0, 0.0, 100.0, 100.0]]).is_clear


def test_names_of_the_demo_keep_clear_on_a_wide_screen_and_on_a_phone(demo, at):
    """Of every set-up: no two names meet, none lies on a sign, none on a wall."""
    person = 1
    _, cards, _ = list_setups(demo, person, at["job"])
    assert len(cards) >= 10
    for card in cards:
        now = open_setup(demo, person, at["job"], card.setup_id).now
        picture = setup_picture(now, UnitSystem.METRIC, Receptor.DOME)
        for sheet in picture.sheets:
            assert [key for key, name in sheet.names.items() if not name.is_clear] == [], (card.name, sheet.width)
        u = picture.place.paper.per_px
        names = [(room.x / u, room.y / u - 5.0, 6.0 * len(room.words)) for room in picture.place.rooms]
        for wall, (x, y, width) in product(picture.place.walls, names):  # no number of a wall stands in a room's name
            assert not (-4.0 < wall.x / u - x < width + 4.0 and abs(wall.y / u - y) < 9.0), (card.name, wall)
        for sign, (x, y, width) in product(picture.pieces, names):  # nor does a sign
            assert not (-8.0 < sign.x / u - x < width + 8.0 and abs(sign.y / u - y) < 12.0), (card.name, sign.label)
        for sign, wall in product(picture.pieces, picture.place.walls):
            assert np.hypot(sign.x - wall.x, sign.y - wall.y) > 12.0 * u, (card.name, sign.label, wall)
        letters = [each.letter for each in picture.pieces if each.letter]
        assert letters == list(ascii_uppercase[: len(letters)])


def test_letters_go_on_after_z():
    assert [letter(at) for at in (0, 25, 26, 27, 52, 701, 702)] == ["A", "Z", "AA", "AB", "BA", "ZZ", "AAA"]


def test_lines_of_equal_light_lie_at_their_stops_and_end_at_walls():
    sheet = Sheet(left_m=0.0, top_m=4.0, width_m=8.0, height_m=4.0, columns=80, rows=40)
    stops = np.broadcast_to(np.linspace(-1.5, 1.5, 80), (40, 80))  # brighter to the right, a stop in 2.67 m
    halves = np.repeat([[0], [-1]], 20, axis=0) + np.zeros((40, 80), dtype=int)
    found = contours(stops, halves, sheet, np.empty((0, 4)), 1.0)
    assert [line.number for line in found] == ["−1", "key", "+1"]
    for line in found:
        places = np.array(re.findall(r"([\d.]+) ([\d.]+)", line.path), dtype=float)
        expected = 5.0 + (line.stops + 1.5) / 3.0 * 790.0  # from the middle of the first cell to that of the last
        assert places[:, 0] == pytest.approx(expected, abs=1.0)
        assert places[:, 1].max() < 200.0  # below lies another room, of which nothing is drawn
        assert abs(line.x - expected) < 1.0
    crowded = contours(stops, halves, sheet, np.array([[0.0, 0.0, 800.0, 400.0]]), 1.0)
    assert [line.x for line in crowded] == [None] * 3


def rung(name, stops, **rest):
    return Rung(mark_id=name, name=name, kind=RungKind.FACE, stops=stops, illuminance_lx=100.0, **rest)


def test_words_on_the_ladder_stand_apart_and_in_order():
    rungs = tuple(rung(f"m{at}", at * 0.05) for at in range(12))
    ladder = Ladder(rungs=rungs, above=5.0, below=6.0, wanted_lx=100.0)
    picture = ladder_picture(ladder, UnitSystem.METRIC, width=480.0, height=470.0)
    heights = [mark.label_y for mark in picture.marks]
    assert [mark.name for mark in picture.marks] == [each.name for each in reversed(rungs)]
    assert min(np.diff(heights)) >= 17.9
    assert (heights[0] > 0.0, heights[-1] < 470.0) == (True, True)
    assert picture.middle_y == pytest.approx(470.0 * 6.0 / 13.0, abs=0.1)  # a stop beyond either end is shown
    tones = [int(step.colour[1:3], 16) for step in picture.steps]
    assert (tones, tones[6]) == (sorted(tones), round(0.461 * 255))
    assert [step.bottom - step.top for step in picture.steps][1:-1] == pytest.approx([470.0 / 13.0] * 10, abs=0.2)
    many = Ladder(rungs=rungs * 4, above=5.0, below=6.0, wanted_lx=100.0)
    crowded = [mark.label_y for mark in ladder_picture(many, UnitSystem.METRIC, width=480.0, height=470.0).marks]
    assert (crowded == sorted(crowded), crowded[0] > 0.0, crowded[-1] < 470.0) == (True, True, True)
