"""Mixed light at the glasshouse made to agree, and at the lock made to disagree; an effect played and paused."""

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import job_address


def open_pass(desk: Page, served: str, name: str) -> None:
    """The first pass of a set-up of the film."""
    desk.goto(job_address(desk, served, "The Borrowed Minute").replace("/bucket", "/setups"))
    desk.get_by_role("link", name=re.compile(f"^{name}")).first.click()
    expect(desk.get_by_role("heading", name=name, exact=True)).to_be_visible()
    desk.wait_for_load_state()


def test_the_glasshouse_is_made_to_agree(desk: Page, served: str):
    open_pass(desk, served, "Among the seedlings")
    miss = desk.get_by_text("against its colour target")
    expect(miss).to_be_visible()
    desk.keyboard.press("c")
    expect(desk.get_by_role("heading", name="Agree", exact=True)).to_be_visible()
    expect(desk.get_by_text("by its spectrum").first).to_be_visible()
    expect(desk.get_by_role("heading", name="Gel the lamps")).to_be_visible()
    expect(desk.get_by_text(re.compile("holds (from|until|\\d)")).first).to_be_visible()  # over the day
    desk.keyboard.press("g")
    expect(desk.get_by_text("Done.")).to_be_visible()
    desk.get_by_role("link", name="plan", exact=True).click()
    expect(desk.get_by_role("button", name=re.compile("^Undo: made the colours agree"))).to_be_visible()
    expect(miss).to_have_count(0)
    desk.wait_for_load_state()
    desk.keyboard.press("z")
    expect(miss).to_be_visible()


def test_the_lock_is_made_to_disagree_and_its_lantern_burns(desk: Page, served: str):
    open_pass(desk, served, "On the gate")
    play = desk.get_by_role("button", name="play on the plan")
    play.click()
    expect(desk.get_by_role("button", name="pause")).to_have_attribute("aria-pressed", "true")
    running = "document.getElementById('piece-lantern').getAnimations().length"
    assert desk.evaluate(running) == 1
    desk.get_by_role("button", name="pause").click()
    assert desk.evaluate(running) == 0
    desk.get_by_role("link", name=re.compile("^Colour")).click()
    desk.get_by_label("Contrast").select_option("moon and fire")
    desk.get_by_label("group of Lantern").select_option("warm group")
    for cool in ("Moon", "Gate lift"):
        desk.get_by_label(f"group of {cool}").select_option("cool group")
    disagree = desk.get_by_role("region", name="Disagree")
    disagree.get_by_role("button", name="Work out").click()
    apart = disagree.get_by_text(re.compile("mired apart"))
    expect(apart).to_be_visible()
    reached = float(re.search(r"(\d+) mired apart", apart.text_content())[1])
    assert 190.0 < reached < 270.0
    disagree.get_by_role("button", name="Apply").click()
    expect(desk.get_by_text("Done.")).to_be_visible()
    warm = desk.locator("tbody", has=desk.get_by_role("rowheader", name=re.compile("Lock keeper, left")))
    expect(warm.get_by_role("row").first).to_contain_text(re.compile("1[0-9]\\d mired warm"))
    cool = desk.locator("tbody", has=desk.get_by_role("rowheader", name=re.compile("Lock keeper, back")))
    expect(cool.get_by_role("row").first).to_contain_text(re.compile("[5-9]\\d mired cool"))
    desk.get_by_role("link", name="plan", exact=True).click()
    expect(desk.get_by_role("button", name=re.compile("^Undo: made the colours disagree"))).to_be_visible()
    desk.wait_for_load_state()  # keys are heard once the page's script is there
    desk.keyboard.press("z")
    expect(desk.get_by_role("button", name=re.compile("^Redo: made the colours disagree"))).to_be_visible()
