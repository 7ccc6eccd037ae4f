"""A day as its user has it: a pass moved past its light, the warning with its minute, the insurance taken, the
order.
"""

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import PHONE, job_address


def test_a_pass_is_moved_past_its_light_and_insured(desk: Page, served: str):
    job = job_address(desk, served, "The Borrowed Minute")
    desk.goto(f"{job}/../days?day=2026-11-26")
    wide = (
        desk.get_by_role("listitem").filter(has=desk.get_by_text("wide, Clock-repair shop; rig 60", exact=False)).first
    )
    expect(wide).to_contain_text("Its light holds")
    wide.get_by_role("textbox").fill("16:15")
    wide.get_by_role("textbox").press("Enter")
    warned = desk.get_by_text("min without its light, from 16:15").first
    expect(warned).to_be_visible()
    desk.keyboard.press("Escape")
    desk.get_by_role("link", name="What replaces it").last.scroll_into_view_if_needed()
    row = desk.get_by_role("listitem").filter(has_text="from 16:15").first
    row.get_by_role("link", name="What replaces it").click()
    desk.get_by_label("shot at").fill("17:00")
    desk.get_by_role("button", name="Work out").click()
    expect(desk.get_by_role("heading", name="With nothing done")).to_be_visible()
    expect(desk.locator("main")).to_contain_text("closes with")
    desk.goto(f"{job}/../days?day=2026-11-26")
    desk.get_by_role("button", name=re.compile("^Undo: ")).click()
    expect(desk.get_by_text("from 16:15")).to_have_count(0)
    wide.get_by_role("link", name="At the bench").first.wait_for()
    setup = wide.get_by_role("link", name="At the bench").first.get_attribute("href").rpartition("/")[2]
    desk.goto(f"{job}/../days/insurance?setup={setup}&at=17:00")
    desk.get_by_role("button", name="Bring it: into the bucket").first.click()
    expect(desk.get_by_text("It is on the plan, and its kit in the bucket.")).to_be_visible()
    expect(desk.locator("#throw-plan")).to_be_visible()
    desk.goto(f"{job}/../days?day=2026-11-26")
    expect(desk.get_by_role("list", name="The order of the day").get_by_role("listitem")).to_have_count(6)


def test_the_program_orders_a_day_and_it_is_undone(desk: Page, served: str):
    job = job_address(desk, served, "Hands That Bind")
    desk.goto(f"{job}/../days")
    order = desk.get_by_role("list", name="The order of the day").get_by_role("listitem")
    before = order.all_inner_texts()
    desk.keyboard.press("g")
    expect(desk.get_by_role("button", name=re.compile("^Undo: ordered the day"))).to_be_visible()
    expect(desk.get_by_text("That is how it stands.").first).to_be_visible()
    assert order.all_inner_texts() != before
    order.first.get_by_role("button", name=re.compile("^fixed: ")).click()
    expect(order.first.get_by_role("button", name=re.compile("^fixed: "))).to_have_attribute("aria-pressed", "true")
    desk.set_viewport_size(PHONE)
    assert desk.evaluate("document.documentElement.scrollWidth") <= PHONE["width"]
    for _ in range(2):
        undo = desk.get_by_role("button", name=re.compile("^Undo: "))
        words = undo.inner_text()
        undo.click()
        expect(desk.get_by_role("button", name=words, exact=True)).to_have_count(0)
    assert order.all_inner_texts() == before


def test_a_pass_is_dragged_to_another_place_and_moved_back_by_key(desk: Page, served: str):
    job = job_address(desk, served, "Hands That Bind")
    desk.goto(f"{job}/../days")
    order = desk.get_by_role("list", name="The order of the day").get_by_role("listitem")
    names = [text.split(";")[0] for text in order.all_inner_texts()]
    grips = desk.locator("[data-grip]")
    start, end = grips.nth(0).bounding_box(), order.nth(2).bounding_box()
    x = start["x"] + start["width"] / 2
    desk.mouse.move(x, start["y"] + start["height"] / 2)
    desk.mouse.down()
    desk.mouse.move(x, end["y"] + end["height"] - 4, steps=6)
    desk.mouse.up()
    expect(desk.get_by_role("button", name=re.compile("^Undo: moved "))).to_be_visible()
    expect(desk.get_by_role("status").filter(has_text="points: ")).to_be_visible()
    moved = names[0].split("\n")[0]
    expect(order.nth(2)).to_contain_text(moved)
    order.nth(2).locator("[data-grip]").focus()
    with desk.expect_response(lambda answer: answer.url.endswith("/days/place")):
        desk.keyboard.press("ArrowUp")
    expect(order.nth(1).locator("[data-grip]")).to_be_focused()
