"""A whole set-up by mouse, by keyboard alone, and read on a phone; and two people at one."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import barriers, job_address

PHONE = {"width": 390, "height": 844}


def begin(desk: Page, served: str, name: str, beginning: str = "empty: camera and one person") -> None:
    """A set-up in the clock shop, preset_setup from the list."""
    desk.goto(job_address(desk, served, "The Borrowed Minute").replace("/bucket", "/setups"))
    desk.locator("#begin [name=name]").fill(name)
    desk.locator("#begin [name=place_id]").select_option("Clock-repair shop")
    desk.locator("#begin [name=beginning]").select_option(beginning)
    desk.get_by_role("button", name="Begin").click()
    expect(desk.get_by_role("heading", name=name, exact=True)).to_be_visible()
    desk.wait_for_load_state()


def piece(desk: Page, name: str):
    return desk.locator(f'[data-piece]:not([data-where="spots"])[aria-label^="{name},"]')


def test_a_set_up_by_mouse(desk: Page, served: str):
    begin(desk, served, "By mouse")
    desk.get_by_label("which head").select_option("day-led-300.reflector")
    desk.get_by_role("button", name="Add lamp").click()
    lamp = piece(desk, "day LED 300")
    expect(lamp).to_be_visible()
    expect(desk.locator("#bucket-bar")).to_contain_text("heads")
    before = float(lamp.get_attribute("data-x"))
    box = lamp.locator(".grip").bounding_box()
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    desk.mouse.move(*middle)
    desk.mouse.down()
    total = desk.locator(".who-total").inner_text()
    desk.mouse.move(middle[0] - 60, middle[1] - 50, steps=8)
    expect(desk.locator(".who-total")).not_to_have_text(total)  # levels follow while it is held
    desk.mouse.up()
    expect(desk.get_by_role("button", name=re.compile("Undo: moved day LED 300"))).to_be_visible()
    assert float(piece(desk, "day LED 300").get_attribute("data-x")) < before - 0.3
    # Its exact figures beside the plan, and one of them typed.
    piece(desk, "day LED 300").locator(".grip").click()
    desk.get_by_label("Level", exact=True).fill("12")
    desk.get_by_label("Level", exact=True).press("Enter")
    expect(piece(desk, "day LED 300")).to_have_attribute("aria-label", re.compile("at 12 %"))
    # A target that is missed, a way out, and back.
    missed = desk.locator(".misses li").first
    expect(missed).to_be_visible()
    missed.get_by_role("button", name="ways out").click()
    desk.locator(".ways .way").first.click()
    expect(desk.locator(".misses")).to_have_count(0)
    desk.get_by_role("button", name=re.compile("^Undo: ")).click()
    expect(desk.locator(".misses")).to_be_visible()
    # A cell of the table unfolds to its steps.
    desk.locator(".who .cell").first.click()
    expect(desk.locator(".unfolded")).to_contain_text("cos ε")
    desk.get_by_role("button", name="stops at face height").click()
    expect(desk.locator(".plan-frame")).to_have_class(re.compile("shows-field"))
    desk.get_by_label("Zoom in").click()  # the light grows with the plan
    plan, light = (desk.locator(place).bounding_box()["width"] for place in ("#throw-plan", ".light-field"))
    assert light == pytest.approx(1.3 * plan, rel=0.01)
    # The next pass begins as this one, and says what moves.
    desk.get_by_role("button", name="Go tighter").click()
    expect(desk.locator(".move-sheet")).to_contain_text("Nothing moves yet")
    desk.get_by_role("link", name="Camera", exact=True).click()
    desk.get_by_label("Focal length, mm").fill("65")
    desk.get_by_label("Focal length, mm").press("Enter")
    expect(desk.locator(".move-sheet")).to_contain_text("65 mm for 50")


def test_a_set_up_by_keyboard_alone(desk: Page, served: str):
    begin(desk, served, "By keys", "sit-down portrait, wrapped")
    key = piece(desk, "Wrapped key")
    key.focus()
    x = float(key.get_attribute("data-x"))
    desk.keyboard.press("ArrowRight")
    expect(piece(desk, "Wrapped key")).to_have_attribute("data-x", f"{round(x + 0.1, 3):g}")
    desk.keyboard.press("Shift+ArrowLeft")  # the focus stayed on the lamp
    expect(piece(desk, "Wrapped key")).to_have_attribute("data-x", f"{round(x - 0.9, 3):g}")
    desk.keyboard.press("PageUp")
    expect(desk.get_by_role("button", name=re.compile("Undo: moved Wrapped key"))).to_be_visible()
    level = piece(desk, "Wrapped key").get_attribute("aria-label")
    desk.keyboard.press("]")
    expect(piece(desk, "Wrapped key")).not_to_have_attribute("aria-label", level)
    desk.keyboard.press("x")
    expect(piece(desk, "Wrapped key")).to_have_attribute("aria-label", re.compile("off"))
    desk.keyboard.press("x")
    expect(piece(desk, "Wrapped key")).to_have_attribute("aria-label", re.compile("at "))
    lamps = desk.locator('[data-where="lamps"]')
    count = lamps.count()
    desk.keyboard.press("c")
    expect(lamps).to_have_count(count + 1)
    desk.keyboard.press("z")
    expect(lamps).to_have_count(count)
    desk.keyboard.press("y")
    expect(lamps).to_have_count(count + 1)
    desk.keyboard.press("s")
    expect(desk.locator(".solved")).to_be_visible()
    desk.keyboard.press("Shift+?")
    expect(desk.get_by_role("dialog")).to_contain_text("turn it 5°")


def test_what_could_not_be_kept_is_told(desk: Page, served: str):
    begin(desk, served, "Cut off", "sit-down portrait, wrapped")
    page = desk.context.new_page()
    page.goto(desk.url)
    page.route("**/changes", lambda route: route.abort())
    piece(page, "Lift").focus()
    page.keyboard.press("ArrowUp")
    expect(page.get_by_role("alert")).to_contain_text("What you just changed is not kept")
    page.close()


@pytest.mark.parametrize("light", ["enamel", "dim"])
def test_a_set_up_is_read_on_a_phone_and_by_everybody(desk: Page, served: str, light: str):
    desk.context.add_cookies([{"name": "light", "value": light, "url": served}])
    desk.set_viewport_size(PHONE)
    desk.goto(job_address(desk, served, "The Borrowed Minute").replace("/bucket", "/setups"))
    desk.get_by_role("link", name="At the bench").first.click()
    expect(desk.locator("#throw-plan")).to_be_visible()
    for address in (desk.url, desk.url + "/sheet", f"{served}/places/1", desk.url.split("/setups")[0] + "/look"):
        desk.goto(address)
        assert desk.evaluate("document.documentElement.scrollWidth") <= 390, address
        assert barriers(desk, light) == [], address


def test_two_people_at_one_set_up_see_each_other_and_lose_nothing(desk: Page, served: str, browser):
    begin(desk, served, "Together", "sit-down portrait, wrapped")
    other = desk.context.new_page()
    other.goto(desk.url)
    piece(desk, "Wrapped key").focus()
    desk.keyboard.press("ArrowRight")
    moved = piece(desk, "Wrapped key").get_attribute("data-x")
    expect(piece(other, "Wrapped key")).to_have_attribute("data-x", moved)  # without being asked
    # Both change different things at once: both stay.
    stale = other.locator("#board").get_attribute("data-version")
    piece(desk, "Lift").focus()
    desk.keyboard.press("ArrowUp")
    piece(other, "Background").focus()
    other.keyboard.press("[")
    expect(other.locator("#board")).not_to_have_attribute("data-version", stale)
    desk.reload()
    other.reload()
    for page in (desk, other):
        expect(page.get_by_role("button", name=re.compile("^Undo: (dimmed|moved)"))).to_be_visible()
    # Both change the very same thing: the second is told, and nothing is lost.
    for page in (desk, other):
        page.locator(".chooser").get_by_role("link", name="Lift", exact=True).click()
        expect(page.get_by_label("Height", exact=True)).to_be_visible()
    other.get_by_label("Height", exact=True).fill("2.1")
    desk.get_by_label("Height", exact=True).fill("1.9")
    desk.get_by_label("Height", exact=True).press("Enter")
    expect(desk.locator("#board .undo-none")).to_have_count(0)
    other.get_by_label("Height", exact=True).press("Enter")
    expect(other.get_by_role("alert")).to_contain_text("was changed meanwhile: it is 1.9 now")
    expect(other.get_by_label("Height", exact=True)).to_have_value("2.1")  # what was typed is still there
    other.close()
