"""What has to be waited for between two set-ups, by hand."""

from dataclasses import replace

from iron_bucket.core.days.between import Batteries, BurningHead, Running, Wait, wait_between

HMI = BurningHead(slug="hmi", name="Sun", stands=(1.0, 2.0), is_hot=True, warm_up_min=3.0, restrike_min=8.0)
LED = BurningHead(slug="led", name="Key", stands=(1.0, 2.0))
SHOP = Running(place_id=1, rig_min=20, heads=(HMI, LED), needs_wh={"v": 90.0})
LOCK = replace(SHOP, place_id=2, rig_min=30)
KINDS = {"v": Batteries(name="Brick", holds_wh=120.0, charge_w=45.0)}


def test_what_is_hot_cools_before_it_is_packed():
    # Ten minutes to cool, 45 on the way, 30 to rig: longer than the 11 till it strikes again.
    assert wait_between(SHOP, LOCK, 45, {}) == Wait(minutes=85, why="Sun cools for 10 min before it is packed")
    assert wait_between(SHOP, replace(SHOP, rig_min=5), 45, {}) is None
    assert wait_between(replace(SHOP, heads=(LED,)), LOCK, 45, {}) is None


def test_what_is_off_strikes_again_when_it_is_cold():
    moved = replace(SHOP, heads=(replace(HMI, stands=(3.0, 2.0)),))
    assert wait_between(SHOP, moved, 45, {}) == Wait(minutes=11, why="Sun strikes again and is warm after 11 min")
    assert wait_between(SHOP, replace(SHOP, heads=(LED,)), 45, {}) is None
    # In another place it is off on the way, whatever its place on that plan.
    cold = replace(SHOP, heads=(replace(HMI, is_hot=False),))
    assert wait_between(cold, replace(cold, place_id=2), 0, {}).minutes == 11


def test_what_is_empty_is_charged_first():
    led = replace(SHOP, heads=(LED,))
    # 180 Wh of 120: sixty are missing, at 45 W.
    assert wait_between(led, led, 0, KINDS) == Wait(minutes=80, why="Brick: 60 Wh to be charged, 80 min")
    assert wait_between(led, replace(led, needs_wh={"v": 30.0}), 0, KINDS) is None
    assert wait_between(led, replace(led, needs_wh={"w": 300.0}), 0, KINDS) is None
    assert wait_between(replace(led, needs_wh={}), replace(led, needs_wh={"v": 300.0}), 0, KINDS) is None
    slow, little = {"v": replace(KINDS["v"], charge_w=0.5)}, replace(led, needs_wh={"v": 60.25})
    assert wait_between(little, little, 0, slow) == Wait(minutes=60, why="Brick: 0 Wh to be charged, 60 min")
    nowhere = {"v": replace(KINDS["v"], charge_w=0.0)}
    assert wait_between(led, led, 0, nowhere) is None
    assert wait_between(SHOP, replace(LOCK, rig_min=0), 0, KINDS).minutes == 80
