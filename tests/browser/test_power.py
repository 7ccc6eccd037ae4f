"""The load board in Chromium: a ring is overloaded, one sees what would go dark, and one key resolves it."""

from playwright.sync_api import Page, expect

from tests.browser.conftest import PHONE, job_address


def test_a_ring_is_overloaded_and_resolved_by_one_key(desk: Page, served: str):
    job = job_address(desk, served, "The Borrowed Minute")
    desk.goto(f"{job}/../power")
    ring, store = (desk.locator(f"[data-source='circuit:{name}']") for name in ("Shop ring", "Store"))
    kettle = desk.locator("svg [data-load=load-3] >> visible=true")
    # By keys: the next loads, until the kettle is chosen, and the figure of the store.
    for name in ("Window key", "Warm edge", "Hazer", "Monitors", "Kettle"):
        desk.keyboard.press("n")
        expect(desk.get_by_role("region", name="Chosen load")).to_contain_text(name)
    desk.keyboard.press("2")
    expect(store.locator("[data-load=load-3] >> visible=true")).to_be_visible()
    expect(ring).not_to_contain_text("dark")
    # By hand back on the ring: too much.
    from_, to = kettle.bounding_box(), ring.bounding_box()
    desk.mouse.move(from_["x"] + from_["width"] / 2, from_["y"] + from_["height"] / 2)
    desk.mouse.down()
    desk.mouse.move(to["x"] + 300, to["y"] + to["height"] / 2, steps=6)
    desk.mouse.up()
    expect(ring).to_contain_text("not at all: Window key, Warm edge, Hazer, Monitors, Kettle go dark.")
    ways = desk.get_by_role("region", name="Ways out: Shop ring")
    expect(ways).to_contain_text("Kettle to Store")
    desk.keyboard.press("Shift+Digit1")
    expect(ring).not_to_contain_text("dark")
    expect(ways).to_have_count(0)
    for is_dark in (True, False, True):
        desk.keyboard.press("z")
        expect(ring.get_by_text("go dark")).to_have_count(int(is_dark))
    # On a phone: by the list of what it may hang on.
    desk.set_viewport_size(PHONE)
    desk.get_by_role("button", name="Kettle", exact=True).click()
    desk.get_by_label("Fed from").select_option("Store")
    expect(ring).not_to_contain_text("dark")
    desk.set_viewport_size({"width": 1280, "height": 800})
    desk.keyboard.press("z")
    expect(ring).to_contain_text("dark")
