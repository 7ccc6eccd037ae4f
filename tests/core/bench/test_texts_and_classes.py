import pytest

from iron_bucket.core.bench.head import HeadClass
from iron_bucket.core.bench.reading import Reading
from iron_bucket.core.bench.unit import Unit
from iron_bucket.core.errors import BadValue
from iron_bucket.core.modifiers.measured_pass import MeasuredPass
from tests.made_up import a_head
from tests.tables import tabled

READING = {"configuration_slug": "lamp.own", "throw_m": 2.0, "illuminance_lx": 1000.0}
PASS = {"modifier_slug": "blue", "head_class": HeadClass.LED, "passes": 0.3, "count": 1}


def test_the_longest_texts_and_most_tags():
    assert len(Reading(**READING, note="x" * 300, meter="x" * 300).note) == 300
    assert len(a_head(note="x" * 2000, tags=tuple(f"tag {number}" for number in range(12))).tags) == 12
    assert a_head(tags=("x" * 30,)).tags == ("x" * 30,)
    with pytest.raises(BadValue, match="tags is"):
        a_head(tags=("x" * 31,))
    assert len(Unit(slug="u", name="x" * 120, head_slug="lamp").name) == 120
    assert Reading(**READING | {"ambient_lx": 0.0}).net_lx == 1000.0
    assert Reading(**READING | {"head_to_frame_m": 1.999}).head_to_frame_m == 1.999
    assert MeasuredPass(**PASS | {"count": 1}).count == 1


@tabled
def test_the_class_of_a_technology(technology, kind):
    assert technology.head_class is kind
    assert technology.is_led == (kind is HeadClass.LED)
