"""The invented gear obeys physics: lumens per watt, and candela that integrate to the lumens claimed."""

import pytest

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.head import Head, Technology
from iron_bucket.core.photometry.lumens import lumens
from iron_bucket.demo.files import demo_gear, demo_jobs

GEAR = demo_gear()
#: What reaches the air per watt drawn, from the technology's own data: LED engines with driver, full colour
#: mixing,
#: halogen globes, metal halide with ballast, tubes with ballast.
EFFICACY = {
    Technology.LED_DAY: (70, 120),
    Technology.LED_TUNGSTEN: (60, 105),
    Technology.LED_BICOLOUR: (50, 100),
    Technology.LED_COLOUR: (35, 85),
    Technology.TUNGSTEN: (15, 30),
    Technology.HMI: (65, 100),
    Technology.FLUORESCENT: (50, 90),
}


@pytest.mark.parametrize("head", GEAR.heads, ids=lambda head: head.slug)
def test_light_for_each_watt(head: Head):
    low, high = EFFICACY[head.technology]
    assert low <= head.lumens_per_watt <= high
    assert not head.is_hot or not head.technology.is_led
    assert head.mains or head.battery_plates


@pytest.mark.parametrize("configuration", GEAR.configurations, ids=lambda each: each.slug)
def test_candela_and_beam_give_the_lumens(configuration: Configuration):
    assert lumens(configuration.distribution) == pytest.approx(
        configuration.lumens, rel=0.01
    )  # candela are given to four digits
    assert configuration.lumens <= GEAR.head(configuration.head_slug).lumens.value * 1.001


def test_there_is_enough_of_everything():
    assert len(GEAR.heads) >= 45
    assert len(GEAR.configurations) >= 80
    assert len(GEAR.modifiers()) >= 70
    assert len(GEAR.batteries) >= 12
    assert {head.technology for head in GEAR.heads} == set(Technology)
    watts = {tech: [head.draw.full_w.value for head in GEAR.heads if head.technology is tech] for tech in Technology}
    assert (min(watts[Technology.TUNGSTEN]), max(watts[Technology.TUNGSTEN])) == (150, 5000)
    assert min(watts[Technology.HMI]) < 250
    assert max(watts[Technology.HMI]) > 4000
    widths = [frame.width_m for frame in GEAR.frames]
    assert (min(widths), max(widths)) == (0.6, 6.0)


def test_the_four_places_are_two_jobs():
    jobs = demo_jobs()
    assert [job["rules"]["voltage_v"] for job in jobs] == [230, 120]
    words = " ".join(job["places"] for job in jobs).lower()
    assert all(place in words for place in ("clock", "glasshouse", "canal lock", "bookbinder"))
