"""The bench in the browser: a reading changes the ranking, a thumb walks away from a lamp, files come in with a bar."""

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import PHONE
from tests.conftest import GOLDEN

NEED = "/pick?level=500+lx&throw=3+m&width=&soft=&cct=&feed=any&ceiling=&own=any&tech=HMI&sort=headroom"


def test_a_reading_that_contradicts_the_maker_changes_the_ranking(desk: Page, served: str):
    desk.goto(served + NEED)
    first = desk.locator("[data-fit]").first
    before = first.get_attribute("id")
    configuration = re.search(r"fit-([^~]+)~", before)[1]
    desk.goto(f"{served}/bench/walk/{configuration}")
    for throw, level in (("2", "300"), ("3", "133"), ("4", "75")):  # far below what the sheet says
        desk.get_by_label("Stand at").fill(throw)
        desk.get_by_label("The meter says").fill(level)
        desk.get_by_role("button", name="Log it").click()
        expect(desk.locator("[data-walked] li").first).to_contain_text(f"{throw}.0")
    expect(desk.locator("[data-walk-fit]")).to_contain_text("the sheet is off")
    desk.goto(served + NEED)
    assert not desk.locator("[data-fit]").first.get_attribute("id").startswith(f"fit-{configuration}~")
    for _ in range(3):  # put the bench back for the other tests
        desk.goto(f"{served}/bench/heads/{configuration.rpartition('.')[0]}")
        desk.get_by_role("button", name=re.compile("Undo: read")).click()
    desk.goto(served + NEED)
    assert desk.locator("[data-fit]").first.get_attribute("id") == before


def test_walking_away_with_a_thumb(desk: Page, served: str):
    desk.set_viewport_size(PHONE)
    desk.goto(f"{served}/bench/walk/hmi-575.flood")
    assert desk.evaluate("document.documentElement.scrollWidth") <= PHONE["width"]
    assert desk.get_by_label("The meter says").bounding_box()["height"] >= 48
    assert desk.get_by_role("button", name="Log it").bounding_box()["height"] >= 48
    for level in ("20000", "8900", "5000"):
        desk.get_by_label("The meter says").fill(level)
        desk.keyboard.press("Enter")
        expect(desk.locator("[data-walked] li").first).to_contain_text(f"{int(level):,}".replace(",", "\u202f"))
    assert desk.get_by_label("Stand at").input_value() == "3.0 m"  # 1, 1.5, 2 and on
    expect(desk.locator("[data-walk-fit] [role=status]")).to_contain_text("against the claim")
    desk.get_by_label("The meter says").fill("bright")
    desk.keyboard.press("Enter")
    expect(desk.get_by_role("alert")).to_contain_text("Level is 'bright'")
    expect(desk.get_by_label("The meter says")).to_have_value("bright")
    for _ in range(3):
        desk.get_by_role("button", name="Undo the last").click()
    expect(desk.locator("[data-walked] li")).to_have_count(0)


def test_several_files_with_a_progress_bar(desk: Page, served: str):
    desk.goto(f"{served}/bench/upload")
    names = ["f21.ies", "m01_truncated.ies", "f23.ies"]
    desk.get_by_label("Files", exact=True).set_input_files([str(GOLDEN / "photometric" / name) for name in names])
    desk.get_by_label("Weight").fill("2")
    desk.get_by_role("button", name="Import").click()
    expect(desk.locator("#upload-results li")).to_have_count(3)
    expect(desk.locator("#upload-results")).to_contain_text("need 15 numbers, but 11 follow")
    assert desk.locator("#upload-progress").evaluate("bar => [bar.value, bar.max, bar.hidden]") == [3, 3, False]


def test_the_list_is_searched_while_typing_and_filtered(desk: Page, served: str):
    desk.goto(f"{served}/bench")
    desk.get_by_label("search").fill("bicolour 300 S-type under 8 kg")
    expect(desk.locator("#told")).to_contain_text("1 piece")
    desk.get_by_label("search").fill("tungsten")
    expect(desk.locator("#gear")).to_contain_text("tungsten 1 kW")
    desk.get_by_label("technology").select_option("tungsten")
    expect(desk).to_have_url(re.compile("technology=tungsten"))
    expect(desk.locator("#gear tbody")).not_to_contain_text("LED tungsten")
