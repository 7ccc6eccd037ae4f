"""A job of two days from nothing: a bakery that nobody has recorded, planned in a browser without a detour."""

import re

from playwright.sync_api import Page, expect


def fold(desk: Page, words: str | re.Pattern):
    """One part of a place, opened."""
    summary = desk.locator("summary", has_text=words)
    summary.last.click()
    return desk.locator("details[open]", has=summary).last


def a_place(desk: Page, served: str) -> None:
    """The job, and its place with a window, a circuit and a socket that is pointed at."""
    desk.goto(served)
    desk.get_by_role("link", name=re.compile("^New job")).click()
    desk.get_by_label("Name").fill("Bread before dawn")
    desk.get_by_label("One circuit is").select_option("230/16")
    desk.get_by_role("button", name="Create job").click()
    desk.get_by_role("link", name="Places").click()
    desk.locator("[name=name]").fill("Bakery")
    for side, length in (("width", "7"), ("depth", "5"), ("height", "3.2")):
        desk.locator(f"[name={side}]").fill(length)
    desk.locator("[name=height]").press("Enter")
    expect(desk.get_by_role("heading", name="Bakery", exact=True)).to_be_visible()
    fold(desk, "Location, hazards")
    desk.get_by_label("Latitude, north positive").fill("51")
    desk.get_by_label("Hazards").fill("Hot ovens along the back wall")
    desk.get_by_role("button", name="Save").first.click()
    expect(desk.get_by_text("Saved.", exact=True)).to_be_visible()
    expect(desk.get_by_label("Hazards")).to_be_visible()  # it stayed open
    fold(desk, re.compile("^\\s*Room "))
    window = fold(desk, "Add a window or doorway")
    window.get_by_label("In", exact=True).select_option("wall 3")
    for label, said in (("Middle, along the wall", "3"), ("Sill above", "1"), ("Width", "2"), ("Height", "1.4")):
        window.get_by_label(re.compile(f"^{label}")).fill(said)
    circuit = fold(desk, "Add a circuit")
    circuit.get_by_label("Name").fill("Oven ring")  # half typed when the window's answer comes in
    window.get_by_role("button", name="Add").click()
    expect(desk.locator("summary", has_text="2.0 m × 1.4 m")).to_be_visible()
    circuit.get_by_role("button", name="Add").click()
    expect(desk.locator("summary", has_text="Oven ring")).to_be_visible()
    socket = fold(desk, "Add a socket")
    plan = desk.locator("[data-plan] svg")
    plan.scroll_into_view_if_needed()
    plan.click(position={"x": 300, "y": 200})
    expect(socket.get_by_label("x, to the right")).not_to_have_value("0.2")
    socket.get_by_label("Name").fill("By the door")
    socket.get_by_role("button", name="Add").click()
    expect(desk.locator("summary", has_text="By the door")).to_be_visible()


def day_one(desk: Page, served: str) -> None:
    """An empty beginning, a key by what it must do, a lamp by its name, a walk, levels for the targets."""
    desk.goto(served)
    desk.get_by_role("link", name="Bread before dawn").click()
    desk.get_by_role("link", name="Set-ups").click()
    desk.locator("#begin [name=name]").fill("Kneading")
    desk.locator("#begin [name=place_id]").select_option("Bakery")
    desk.locator("#begin [name=when]").fill("2026-12-01T05:00")
    desk.get_by_role("button", name="Start").click()
    expect(desk.get_by_role("heading", name="Kneading", exact=True)).to_be_visible()
    expect(desk.locator("#told")).to_contain_text("Hot ovens along the back wall")
    desk.wait_for_load_state()
    desk.keyboard.press("+")
    offer = desk.locator("[data-new-light] [data-previews]").first
    expect(offer).to_contain_text("lands at")
    desk.keyboard.press("1")
    lamps = desk.locator('[data-where="lamps"]')
    expect(lamps).to_have_count(1)
    expect(desk.locator("#misses")).to_have_count(0)  # the target is met
    desk.keyboard.press("k")
    desk.keyboard.type("60 bic")
    desk.locator("#head-list [role=option]").first.click()
    expect(lamps).to_have_count(2)
    desk.get_by_label("Aims at").select_option("Background")
    expect(desk.get_by_role("button", name=re.compile("^Undo: "))).to_be_visible()
    desk.get_by_label("Fed from", exact=True).select_option("By the door, Oven ring")
    expect(desk.get_by_role("button", name=re.compile("^Undo: changed the feed"))).to_be_visible()
    desk.get_by_role("button", name="Next position").click()
    expect(desk.get_by_role("region", name="Person walks")).to_be_visible()
    desk.get_by_role("button", name=re.compile("Set levels for all targets")).click()
    expect(desk.locator("#solved")).to_contain_text("Levels are set")
    desk.get_by_role("button", name="Go tighter").click()
    expect(desk.locator("#move-sheet")).to_contain_text("Nothing moves yet")


def day_two(desk: Page) -> None:
    """The same again at another hour, and what goes on the truck."""
    desk.get_by_label("as", exact=True).fill("Loaves out")
    desk.get_by_role("button", name="Copy the set-up").click()
    expect(desk.get_by_role("heading", name="Loaves out", exact=True)).to_be_visible()
    desk.get_by_label("Day and hour, the place’s clock").fill("2026-12-02T16:30")
    desk.get_by_label("Day and hour, the place’s clock").press("Tab")
    expect(desk.get_by_role("button", name=re.compile("^Undo: "))).to_be_visible()
    desk.get_by_role("link", name="Set-ups").click()
    for name, day in (("Kneading", "01 Dec 05:00"), ("Loaves out", "02 Dec 16:30")):
        expect(desk.locator("li", has_text=name).filter(has_text=day).first).to_be_visible()
    desk.get_by_role("link", name="Bucket", exact=True).click()
    expect(desk.locator("main")).to_contain_text("Kneading, wide: lens LED 60 bicolour and 3 more")
    desk.get_by_role("link", name="Places").click()
    desk.get_by_role("link", name="Bakery", exact=True).click()
    expect(desk.locator("main")).to_contain_text("Loaves out")


def test_two_days_at_a_bakery(desk: Page, served: str):
    a_place(desk, served)
    day_one(desk, served)
    day_two(desk)
