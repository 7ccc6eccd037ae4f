"""Every page is open to everybody, in both inks, and has room on a phone."""

import re

import pytest
from playwright.sync_api import Page

from tests.browser.conftest import PHONE, barriers, job_address
from tests.tables import table

WIDE = {"width": 1280, "height": 800}
#: What the bar is called, where it begins, and how high its links are that are seen.
BOXES = """bar => [bar.ariaLabel, bar.getBoundingClientRect().y,
    ...[...bar.querySelectorAll("a")].filter(link => link.checkVisibility()).map(link => link.offsetHeight)]"""
STATIONS = table(__file__, "PAGES")


@pytest.mark.parametrize("station", STATIONS)
def test_a_page_has_no_barriers_and_room_on_a_phone(desk: Page, served: str, station: str):
    job = job_address(desk, served, "The Borrowed Minute")
    desk.goto(f"{job}/../setups")
    setup = desk.get_by_role("link", name="At the bench").first.get_attribute("href")
    for number, address in enumerate(STATIONS[station]):
        desk.set_viewport_size(WIDE)
        desk.goto(re.sub("^/", f"{served}/", address.format(job=job, setup=served + setup)))
        for opened in desk.locator("[data-figures]").all()[:1]:
            opened.evaluate("node => node.open = true")
        for adding in desk.locator("[data-key='+']").all():  # a new light, where there is one
            adding.click()
            desk.locator("[data-new-light]").wait_for()
        # In dim the inks alone differ, and pages share them: every other one is looked at in it.
        light = ("enamel", "dim")[number % 2]
        desk.evaluate("light => { document.documentElement.dataset.light = light; }", light)
        for size in (WIDE, PHONE):
            desk.set_viewport_size(size)
            assert barriers(desk) == [], (address, size, light)
        assert desk.evaluate("document.documentElement.scrollWidth") <= PHONE["width"], address
        stations, top, *heights = desk.get_by_role("navigation", name="Stations").evaluate(BOXES)
        assert (top > 700, min(heights) >= 44) == (True, True), stations


def test_the_sign_in_page_has_no_barriers(page: Page, served: str):
    page.goto(f"{served}/sign-in")
    assert barriers(page) == []
