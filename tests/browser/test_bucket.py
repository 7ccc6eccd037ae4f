"""The kit goes out and comes back in Chromium: two people tick at once, one without a connection for a while, one thing
is lost and one damaged.
"""

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import PHONE, job_address


def row(page: Page, name: str):
    """The first: what is in two cases has two rows, which say the same."""
    return page.locator(
        "[data-thing]", has=page.get_by_role("button", name=re.compile(f"^{re.escape(name)} ?: "))
    ).first


def tick(page: Page, name: str):
    row(page, name).get_by_role("button", name=re.compile(f"^{re.escape(name)} ?: ")).click()


def count(page: Page, name: str):
    return row(page, name).locator("[data-count]")


def test_two_people_tick_a_kit_out_and_back(desk: Page, served: str, signed_in: list):
    address = job_address(desk, served, "The Borrowed Minute") + "/tick"
    phone = desk.context.browser.new_context()  # another phone: it shares nothing but the server
    phone.add_cookies(signed_in)
    other = phone.new_page()
    for page in (desk, other):
        page.set_viewport_size(PHONE)
        page.goto(address)
    tick(desk, "day LED 300")
    expect(count(desk, "day LED 300")).to_have_text("1/1")
    expect(count(other, "day LED 300")).to_have_text("1/1")  # without being asked
    row(desk, "sandbag 10 kg").get_by_role("button", name="all 11").click()
    row(other, "stand 2.6 m").get_by_role("button", name=re.compile("^stand 2.6 m ?: 0")).click()
    for page in (desk, other):
        expect(count(page, "sandbag 10 kg")).to_have_text("11/11")
        expect(count(page, "stand 2.6 m")).to_have_text("1/2")
    # One loses the connection, ticks, reloads what she has, and both tick the last one: it is there once.
    other.route("**/bucket/tick", lambda route: route.abort() if route.request.method == "POST" else route.continue_())
    tick(other, "stand 2.6 m")
    tick(other, "bicolour LED 100")
    expect(other.locator("[data-waiting]")).to_have_text("2 not sent yet")
    expect(count(other, "bicolour LED 100")).to_have_text("1/1")
    tick(desk, "bicolour LED 100")
    other.reload()
    expect(other.locator("[data-waiting]")).to_have_text("2 not sent yet")
    other.unroute("**/bucket/tick")
    expect(other.locator("[data-waiting]")).to_have_text("", timeout=15_000)
    for page in (desk, other):
        expect(count(page, "stand 2.6 m")).to_have_text("2/2")
        expect(count(page, "bicolour LED 100")).to_have_text("1/1")
        expect(row(page, "bicolour LED 100")).to_contain_text("1 too many")
    # Back: one is lost, one damaged, and the bench knows.
    desk.get_by_role("navigation", name="Stage").get_by_role("link", name="returned").click()
    row(desk, "day LED 300").get_by_text("damaged or missing").click()
    row(desk, "day LED 300").get_by_label("which day LED 300").select_option(label="No. 1 TW-0331-118")
    row(desk, "day LED 300").get_by_label("what is wrong").fill("cracked lens")
    row(desk, "day LED 300").get_by_role("button", name="damaged").click()
    expect(row(desk, "day LED 300")).to_contain_text("1 damaged")
    row(desk, "lantern 0.5").get_by_text("damaged or missing").click()
    row(desk, "lantern 0.5").get_by_role("button", name="missing").click()
    expect(row(desk, "lantern 0.5")).to_contain_text("1 not coming back")
    desk.get_by_label("missing only").check()
    expect(row(desk, "lantern 0.5")).to_have_count(0)
    desk.goto(f"{served}/bench/heads/day-led-300")
    expect(desk.get_by_role("main")).to_contain_text("damaged after The Borrowed Minute: cracked lens")
    desk.goto(f"{served}/bench/pieces/lantern-0.5")
    expect(desk.get_by_role("main")).to_contain_text("missing after The Borrowed Minute")
    other.goto("about:blank")
    phone.close()


def test_the_best_choice_is_found_taken_over_and_undone(desk: Page, served: str):
    desk.goto(job_address(desk, served, "Hands That Bind") + "/best")
    desk.get_by_role("button", name="Search", exact=True).click()
    expect(desk.get_by_role("region", name="How far it is")).to_be_visible()
    desk.get_by_role("button", name="Stop").click()
    expect(desk.get_by_role("main")).to_contain_text("Stopped. Nothing was changed.")
    desk.get_by_role("button", name="Search again").click()
    expect(desk.get_by_role("heading", name=re.compile(r"^Best: \d+ lamps change$"))).to_be_visible(timeout=60_000)
    expect(desk.get_by_role("main")).to_contain_text(re.compile(r"all \d+ targets\s+of\s+these set-ups hold"))
    desk.get_by_role("button", name="Apply to all set-ups").click()
    undo = desk.get_by_role("button", name=re.compile(r"^Undo: applied the best choice \(best\) to \d set-ups"))
    undo.click()
    expect(undo).to_have_count(0)
