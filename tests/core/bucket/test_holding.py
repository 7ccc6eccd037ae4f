"""What things stand on, how many bags hold them, how many sheets gels are cut from: by hand."""

from dataclasses import replace

import numpy as np
import pytest

from iron_bucket.core.bench.bag import Bag
from iron_bucket.core.bench.stand import Stand
from iron_bucket.core.bucket.ballast import Standing, bag_of, ballast_of
from iron_bucket.core.bucket.gel_cuts import cut_of, sheets_for
from iron_bucket.core.bucket.kit_rules import BagSchool, CrewKit
from iron_bucket.core.bucket.support import Support, support_for
from iron_bucket.core.quantities.units import UnitSystem
from tests.made_up import a_gear
from tests.tables import tabled

TEN = Bag(slug="ten", name="Ten", maker="", weight_kg=10.0, owned=1)


def a_stand(slug: str, weight_kg: float = 4.0, **changes) -> Stand:
    made = {"payload_kg": 10.0, "lowest_m": 1.0, "highest_m": 3.0, "spigot_mm": 16.0, "legs_m": 0.5}
    return Stand(**({"slug": slug, "name": slug, "maker": "", "weight_kg": weight_kg} | made | changes))


LIGHT, ARM = a_stand("light", 2.0), a_stand("arm", 5.0, tags=("arm",))
LOW, THICK = a_stand("low", 3.0, lowest_m=0.3, highest_m=1.5), a_stand("thick", 9.0, spigot_mm=28.0, payload_kg=40.0)
NARROW, GONE = a_stand("narrow", 6.0, legs_m=0.2), a_stand("gone", 1.0, is_retired=True)
BENCH = a_gear(stands=(LIGHT, ARM, LOW, THICK, NARROW, GONE), bags=(TEN,))


def stood(**changes) -> Support:
    return support_for(BENCH, **({"payload_kg": 5.0, "spigot_mm": 16.0, "height_m": 2.0} | changes))


@tabled
def test_the_stand_that_carries_fits_reaches_and_has_room(asked, found):
    assert stood(**asked) == found


SAIL = Standing(stand=LIGHT, count=2, payload_kg=6.0, height_m=1.5, sail_m2=1.44, is_outdoors=True)


def bags(crew=CrewKit(), **changes) -> tuple[int, int]:  # noqa: B008
    found = ballast_of(replace(SAIL, **changes), crew, TEN)
    return found.bags, found.wind_bags


def test_bags_against_the_wind_are_those_of_the_moment_that_is_missing():
    """½ · 1.225 · 1.2 · 1.44 m2 · (8 m/s)² = 67.7 N, 1.5 m up 101.6 Nm, with the factor 152.4; 10 kg on legs of 0.5 m
    hold 49.0: 103.4 Nm are missing, 21.1 kg out on the legs, three bags of ten.
    """
    found = ballast_of(SAIL, CrewKit(), TEN)
    assert (found.bags, found.wind_bags) == (2, 1)
    assert found.wind_figure == "1.4 m² at 1.5 m in 8.0 m/s: 21.1 kg missing on the legs"
    assert found.figure == "a bag on every stand"
    assert bags(is_outdoors=False) == (2, 0)
    assert bags(sail_m2=0.0) == (2, 0)
    assert bags(CrewKit(wind_m_s=0.0)) == (2, 0)
    assert bags(CrewKit(wind_m_s=16.0)) == (2, 10)  # four times the force: 609.6 − 49.0 Nm, 114.3 kg
    assert bags(drag=0.6) == (2, 0)  # a net: 76.2 − 49.0 Nm, 5.5 kg, and two are there
    # 6 kg held 0.5 m out are 29.4 Nm more, 44.1 with the factor: 30.1 kg.
    assert bags(arm_m=0.5) == (2, 2)


def test_a_school_that_hangs_what_is_heavy_bags_outdoors_and_above_heads_alone():
    crew = CrewKit(bag_school=BagSchool.HANG_HEAVY, wind_m_s=0.0)
    assert bags(crew, is_outdoors=False) == (0, 0)
    assert bags(crew) == (2, 0)
    assert [bags(crew, is_outdoors=False, height_m=each)[0] for each in (2.0, 2.01)] == [0, 2]
    assert ballast_of(replace(SAIL, height_m=2.5), crew, TEN).figure == "outdoors"
    assert ballast_of(replace(SAIL, height_m=2.5, is_outdoors=False), crew, TEN).figure == "2.5 m up"
    feet = ballast_of(SAIL, CrewKit(), TEN, UnitSystem.IMPERIAL)
    assert feet.wind_figure == "16 ft² at 4'11\" in 18 mph: 46.5 lb missing on the legs"


def test_the_bag_is_ours_and_light():
    seven = replace(TEN, slug="seven", weight_kg=7.0, owned=0)
    gone = replace(TEN, slug="gone", weight_kg=1.0, is_retired=True)
    assert bag_of(a_gear(bags=(seven, TEN, gone))) == TEN
    assert bag_of(a_gear(bags=(seven, replace(TEN, owned=0)))) == seven
    assert bag_of(a_gear()) is None


def test_gels_are_cut_from_as_few_sheets_as_rows_allow():
    stock = (0.61, 0.53)
    assert cut_of(0.15, 0.2) == (0.3, 0.25)  # five centimetres round it, the longer side first
    assert [sheets_for([(0.25, 0.25)] * count, stock) for count in (0, 1, 4, 5, 8)] == [0, 1, 1, 2, 2]
    assert sheets_for([(0.61, 0.53)], stock) == 1
    assert sheets_for([(0.6, 0.3), (0.6, 0.23)], stock) == 1
    assert sheets_for([(0.6, 0.3), (0.6, 0.24)], stock) == 2
    assert sheets_for([(0.3, 0.1), (0.3, 0.3)], (0.53, 0.61)) == 1  # beside the higher one, which came first
    assert sheets_for([(0.7, 0.3)], stock) == 2  # joined from two
    assert sheets_for([(1.3, 1.1)], stock) == 9  # three by three


@pytest.mark.parametrize("seed", range(5))
def test_sheets_are_never_fewer_than_the_area_takes_nor_more_than_pieces(seed):
    chance = np.random.default_rng(seed)
    cuts = [tuple(sorted(chance.uniform(0.1, 0.5, 2), reverse=True)) for _ in range(20)]
    found = sheets_for(cuts, (0.61, 0.53))
    assert sum(a * b for a, b in cuts) / (0.61 * 0.53) <= found <= len(cuts)
    assert found == sheets_for(cuts[::-1], (0.61, 0.53))


def test_what_is_joined_fills_the_stock_to_its_edge():
    stock = (1.2, 0.5)
    assert sheets_for([(1.2, 0.5)], stock) == 1
    assert sheets_for([(2.4, 0.5), (1.2, 0.5)], stock) == 3
    assert sheets_for([(1.25, 0.5)] * 2, stock) == 4
