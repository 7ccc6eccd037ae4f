"""A whole set-up by mouse, by keyboard alone, and read on a phone; and two people at one."""

import random
import re

import pytest
from playwright.sync_api import Page, Route, expect

from iron_bucket.demo.sign_in import DEMO_PASSWORD, DEMO_SIGN_IN
from tests.browser.conftest import job_address, sign_in
from tests.web.forms import sent_by


def begin(desk: Page, served: str, name: str, beginning: str = "empty: camera and one person") -> None:
    """A set-up in the clock shop, by what the form of its list sends."""
    setups = job_address(desk, served, "The Borrowed Minute").replace("/bucket", "/setups")
    page = desk.request.get(setups).text()
    place = re.search(r'value="(\d+)"[^>]*>\s*Clock-repair shop<', page)[1]
    form = sent_by(page, "begin") | {"name": name, "place_id": place, "beginning": beginning}
    desk.goto(desk.request.post(setups, form=form).url)
    expect(desk.get_by_role("heading", name=name, exact=True)).to_be_visible()
    desk.wait_for_load_state()


def test_a_beginning_proposes_its_hour_and_a_typed_one_stands(desk: Page, served: str):
    desk.goto(job_address(desk, served, "The Borrowed Minute").replace("/bucket", "/setups"))
    when, beginning = desk.locator("#begin [name=when]"), desk.locator("#begin [name=beginning]")
    beginning.select_option("night table under a practical")
    expect(when).to_have_value(re.compile("T22:00$"))
    when.fill("2026-11-30T20:30")
    beginning.select_option("moon behind, fire before")
    expect(when).to_have_value("2026-11-30T20:30")
    desk.locator("#begin [name=name]").fill("Half past eight")
    desk.get_by_role("button", name="Start").click()
    desk.get_by_role("link", name="Pass", exact=True).click()
    expect(desk.locator("[name=when]").first).to_have_value("2026-11-30T20:30")


ARROWS = (("ArrowRight", 0, 0.1), ("ArrowLeft", 0, -0.1), ("ArrowUp", 1, 0.1), ("ArrowDown", 1, -0.1))


def piece(desk: Page, name: str):
    return desk.locator(f'[data-piece]:not([data-where="spots"])[aria-label^="{name},"]')


def test_a_set_up_by_mouse(desk: Page, served: str):
    begin(desk, served, "By mouse")
    desk.keyboard.press("k")
    desk.keyboard.type("300 refl")
    desk.get_by_role("option", name="day LED 300, reflector 55°").click()
    lamp = piece(desk, "day LED 300")
    expect(lamp).to_be_visible()
    expect(desk.locator("#bucket-bar")).to_contain_text("heads")
    before = float(lamp.get_attribute("data-x"))
    box = lamp.locator(".grip").bounding_box()
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    desk.mouse.move(*middle)
    desk.mouse.down()
    total = desk.locator("#who-total").text_content()
    desk.mouse.move(middle[0] - 60, middle[1] - 50, steps=8)
    expect(desk.locator("#who-total")).not_to_have_text(total)  # levels follow while it is held
    desk.mouse.up()
    expect(desk.get_by_role("button", name=re.compile("Undo: moved day LED 300"))).to_be_visible()
    assert float(piece(desk, "day LED 300").get_attribute("data-x")) < before - 0.3
    # Its exact figures beside the plan, and one of them typed.
    piece(desk, "day LED 300").locator(".grip").click()
    desk.get_by_label("Level", exact=True).fill("12")
    desk.get_by_label("Level", exact=True).press("Enter")
    expect(piece(desk, "day LED 300")).to_have_attribute("aria-label", re.compile("at 12 %"))
    # A target that is missed, a way out, and back.
    missed = desk.locator("#misses li").first
    expect(missed).to_be_visible()
    missed.get_by_role("button", name="ways out").click()
    way = desk.locator("[data-previews]").first
    lands = re.search(r"lands at ([−+.\d]+)", way.text_content())[1]
    way.hover()  # shown on the ladder, and put back
    expect(desk.locator(".ladder-mark", has_text="Person key side").locator(".ladder-stops")).to_have_text(lands)
    desk.locator("h1").hover()
    expect(missed).to_be_visible()
    way.locator("button").click()
    expect(desk.locator("#misses")).to_have_count(0)
    desk.get_by_role("button", name=re.compile("^Undo: ")).click()
    expect(desk.locator("#misses")).to_be_visible()
    # A cell of the table unfolds to its steps.
    desk.locator("#who td button[hx-get]").first.click()
    expect(desk.locator("[data-unfolded]")).to_contain_text("cos ε")
    # The next pass begins as this one at an address of its own, and says what moves.
    here = desk.url
    desk.get_by_role("button", name="Go tighter").click()
    expect(desk).not_to_have_url(here)
    desk.reload()
    expect(desk.locator("#move-sheet")).to_contain_text("Nothing moves yet")
    desk.get_by_role("link", name="Camera", exact=True).click()
    desk.get_by_label("Focal length, mm").fill("65")
    desk.get_by_label("Focal length, mm").press("Enter")
    expect(desk.locator("#move-sheet")).to_contain_text("65 mm for 50")


def test_a_light_by_what_it_must_do(desk: Page, served: str):
    begin(desk, served, "By need")
    desk.keyboard.press("+")
    asked = desk.locator("[data-new-light]")
    expect(asked).to_contain_text("Light for Person key side")
    desk.get_by_label("Level, from the exposure").fill("+2")
    desk.get_by_label("Level, from the exposure").press("Tab")
    offer = asked.locator("[data-previews]").first
    expect(offer).to_be_visible(timeout=15_000)
    offer.hover()  # drawn where it would stand
    expect(desk.locator("#ghosts .is-lamp")).to_have_count(1)
    desk.wait_for_event("response", lambda got: "/since/" in got.url)  # a poll that brings nothing
    desk.locator("h1").hover()
    expect(desk.locator("#ghosts .is-lamp")).to_have_count(0)
    # What is typed is answered in place, and a word that means nothing stays, marked.
    desk.get_by_label("Level, from the exposure").fill("bright")
    desk.get_by_label("Level, from the exposure").press("Tab")
    expect(desk.get_by_label("Level, from the exposure")).to_have_attribute("aria-invalid", "true")
    expect(asked.get_by_role("alert")).to_contain_text("'bright'")
    desk.get_by_label("Level, from the exposure").fill("+3")
    desk.get_by_label("Level, from the exposure").press("Tab")
    expect(asked.locator("[data-previews]").first).to_contain_text(re.compile(r"lands at \+(2\.[789]|3\.[0-3])"))
    # By pointing: a wall gets its point, and the lamp for it.
    box = desk.locator("#throw-plan .walls, #throw-plan [data-wall], #throw-plan").first.bounding_box()
    desk.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] * 0.45)
    expect(asked.get_by_role("heading", level=2)).not_to_contain_text("Person key side")
    desk.locator("h1").click()
    expect(asked.locator("[data-previews]").first).to_be_visible(timeout=15_000)
    desk.keyboard.press("1")
    expect(desk.locator('[data-where="lamps"]')).to_have_count(1)
    expect(desk.locator('[data-where="lamps"].is-chosen')).to_have_count(1)
    expect(desk.locator('[data-where="spots"]')).to_have_count(2)


def test_single_keys_are_switched_off_and_on(desk: Page, served: str):
    begin(desk, served, "Without keys")
    for word, count in (("off", 0), ("on", 1)):
        desk.keyboard.press("?")
        desk.get_by_role("button", name=f"Turn single keys {word}").click()
        expect(desk.locator(f"html[data-single-keys={word}]")).to_have_count(1)
        desk.wait_for_load_state()  # its keys are heard
        desk.keyboard.press("+")
        desk.wait_for_load_state("networkidle")
        expect(desk.locator("[data-new-light]")).to_have_count(count)


def test_who_was_signed_out_signs_in_in_place_and_goes_on(desk: Page, served: str):
    desk.context.clear_cookies()
    sign_in(desk, served)  # a sign-in of its own, for it ends wherever its cookie is
    begin(desk, served, "By the way", "sit-down portrait, wrapped")
    piece(desk, "Wrapped key").locator(".grip").click()
    expect(desk.get_by_label("Level", exact=True)).to_be_visible()
    other = desk.context.new_page()
    other.goto(served)
    other.get_by_role("button", name="Sign out").click()
    expect(other.get_by_role("button", name="Sign in", exact=True)).to_be_visible()
    other.close()
    here = desk.url
    desk.get_by_label("Level", exact=True).fill("37")
    desk.get_by_label("Level", exact=True).press("Tab")
    again = desk.get_by_role("dialog", name="You were signed out")
    again.get_by_label("Sign-in").fill(DEMO_SIGN_IN)
    again.get_by_label("Password").fill("wrong")
    again.get_by_role("button", name="Sign in and go on").click()
    expect(again.get_by_role("alert")).to_contain_text("Wrong sign-in or password")
    again.get_by_label("Password").fill(DEMO_PASSWORD)
    again.get_by_role("button", name="Sign in and go on").click()
    expect(again).to_be_hidden()
    expect(piece(desk, "Wrapped key")).to_have_attribute("aria-label", re.compile("at 37 %"))
    assert desk.url == here
    desk.get_by_role("button", name=re.compile("^Undo: ")).click()  # the page's tokens are good again
    expect(piece(desk, "Wrapped key")).not_to_have_attribute("aria-label", re.compile("at 37 %"))


def test_the_light_lies_under_the_plan_on_the_plane_that_is_asked_for(desk: Page, served: str):
    begin(desk, served, "By light", "sit-down portrait, wrapped")
    expect(desk.locator("#light .contour.is-key")).to_have_count(1)  # it came by itself
    expect(desk.locator("#light-words")).to_have_text(re.compile("^1.3 m over the floor, in stops from"))
    desk.locator("#light-on [name=plane]").select_option("at a height…")
    desk.locator("#light-on [name=height]").fill("6 ft")
    desk.locator("#light-on [name=height]").press("Enter")
    expect(desk.locator("#light-words")).to_have_text(re.compile("^1.83 m over"))
    desk.locator("#light-on [name=height]").fill("up there")
    desk.locator("#light-on [name=height]").press("Enter")
    expect(desk.locator("#light-words")).to_have_text(
        re.compile("^Height is 'up there'; accepted: a length such as 3.8 m")
    )
    desk.locator("#light-on [name=plane]").select_option("on Shop, wall 2")
    expect(desk.locator("#light-on-wall image")).to_be_visible()
    desk.locator("#light-on [name=plane]").select_option("at face height")
    expect(desk.locator("#light image")).to_be_visible()
    desk.wait_for_load_state("networkidle")  # nothing is laid anew while it is measured
    desk.get_by_label("Zoom in").click()  # the light grows with the plan
    desk.wait_for_function(  # laid anew while it is zoomed, so both are measured at once
        """() => {
            const [plan, light] = ["#throw-plan", "#light image"].map((each) => document.querySelector(each));
            return light && Math.abs(light.getBoundingClientRect().width / plan.getBoundingClientRect().width - 1.3) <
            0.013;
        }"""
    )


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
    desk.get_by_role("button", name="Go tighter").click()  # into the next pass with the same piece in hand
    expect(piece(desk, "Wrapped key")).to_be_focused()
    desk.get_by_role("navigation", name="Passes").get_by_role("link", name="wide", exact=True).last.click()
    expect(piece(desk, "Wrapped key")).to_be_focused()
    count = lamps.count()
    desk.keyboard.press("c")
    expect(lamps).to_have_count(count + 1)
    desk.keyboard.press("z")
    expect(lamps).to_have_count(count)
    desk.keyboard.press("y")
    expect(lamps).to_have_count(count + 1)
    desk.keyboard.press("s")
    expect(desk.locator("#solved")).to_be_visible()
    # Taken out and pushed before the answer: the push comes to nothing, and the next piece still moves.
    lift = piece(desk, "Lift")
    piece(desk, "Background").focus()
    desk.keyboard.press("Delete")
    desk.keyboard.press("PageUp")
    desk.keyboard.press("ArrowRight")
    expect(piece(desk, "Background")).to_have_count(0)
    x, z = (float(lift.get_attribute(f"data-{axis}")) for axis in "xz")
    lift.focus()
    desk.keyboard.press("PageUp")
    desk.keyboard.press("ArrowRight")
    expect(lift).to_have_attribute("data-x", f"{round(x + 0.1, 3):g}")
    expect(lift).to_have_attribute("data-z", f"{round(z + 0.1, 3):g}")
    expect(desk.locator("#said")).to_have_text(re.compile(r"^Person key side [−+.\d]+ stops?\. "))  # for who hears it
    desk.keyboard.press("Shift+?")
    expect(desk.get_by_role("dialog")).to_contain_text("turn it 5°")


def test_the_hand_on_aim_height_sheet_and_levels(desk: Page, served: str):
    begin(desk, served, "By hand", "sit-down portrait, wrapped")
    key = piece(desk, "Wrapped key")
    x = float(key.get_attribute("data-x"))
    key.focus()
    for _ in range(5):  # faster than answers come: none is lost
        desk.keyboard.press("ArrowRight")
    expect(key).to_have_attribute("data-x", f"{round(x + 0.5, 3):g}")
    key.locator(".grip").click()
    expect(desk.locator("#chooser [aria-current]")).to_have_text("A Wrapped key")
    handle = desk.locator("[data-aims] circle")
    bearing, stands = key.get_attribute("data-bearing"), key.get_attribute("data-z")
    for grip, dx, dy in ((handle, 60, 40), (desk.locator("#height-strip .is-lamp circle").first, 0, -25)):
        box = grip.bounding_box()
        desk.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        desk.mouse.down()
        version = desk.locator("#board").get_attribute("data-version")
        desk.mouse.move(box["x"] + dx, box["y"] + dy, steps=4)
        desk.mouse.up()
        expect(desk.locator("#board")).not_to_have_attribute("data-version", version)
    assert key.get_attribute("data-bearing") != bearing
    assert [each.get_attribute("data-z") for each in desk.locator('[data-where="lamps"]').all()].count(stands) < 3
    # The sheet nearer by two fingers, moved by the mouse, and whole again; it stays so over a new board.
    fingers = desk.context.new_cdp_session(desk)
    fingers.send("Emulation.setTouchEmulationEnabled", {"enabled": True})
    desk.reload()
    plan = desk.locator("#throw-plan")
    whole, box = plan.get_attribute("viewBox"), plan.bounding_box()
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] - 40)
    for kind, apart in (("touchStart", 20), ("touchMove", 60), ("touchEnd", None)):
        points = [{"x": middle[0] + side * apart, "y": middle[1]} for side in (-1, 1)] if apart else []
        fingers.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})
    nearer = plan.get_attribute("viewBox")
    assert float(nearer.split()[2]) == pytest.approx(float(whole.split()[2]) / 3, rel=0.02)
    desk.get_by_label("level of Lift").press("ArrowLeft")
    expect(desk.get_by_role("button", name=re.compile("Undo: dimmed Lift"))).to_be_visible()
    expect(plan).to_have_attribute("viewBox", nearer)
    desk.get_by_role("button", name="whole").click()
    expect(plan).to_have_attribute("viewBox", whole)
    # One lamp alone, kept nowhere, and back.
    total = desk.locator("#who-total").text_content()
    for changes in (True, False):
        desk.get_by_role("button", name="solo").first.click()
        kept = expect(desk.locator("#who-total"))
        kept.not_to_have_text(total) if changes else kept.to_have_text(total)


def test_typing_fast_loses_nothing_and_a_refused_value_stays(desk: Page, served: str):
    begin(desk, served, "By typing", "sit-down portrait, wrapped")
    desk.locator("[data-chooses]").first.click()
    expect(desk.locator("#chooser [aria-current]")).to_have_text("A Wrapped key")
    desk.keyboard.press("f")
    expect(desk.get_by_label("Name", exact=True)).to_be_focused()
    for label, words in (("Level", "21"), ("Height", "1.83"), ("Name", "Quick one")):  # never waiting for an answer
        desk.get_by_label(label, exact=True).click()
        desk.keyboard.press("Control+A")
        desk.keyboard.type(words)
    expect(desk.locator('[data-piece][aria-label*="at 21 %, 1.83 m high"]')).to_have_count(1)
    expect(desk.get_by_label("Name", exact=True)).to_have_value("Quick one")  # what is being typed stays
    desk.keyboard.press("Enter")
    expect(desk.locator('[data-piece][aria-label^="Quick one,"]')).to_have_count(1)
    desk.get_by_label("Height", exact=True).fill("99")
    desk.keyboard.press("Enter")
    expect(desk.locator("[data-refused]")).to_have_text("Height is '99'; accepted: 0.0 m to 60.0 m")
    desk.get_by_label("Level", exact=True).fill("22")  # others go on
    desk.keyboard.press("Enter")
    expect(desk.locator('[data-piece][aria-label*="at 22 %, 1.83 m high"]')).to_have_count(1)
    bad = desk.get_by_label("Height", exact=True)
    expect(bad).to_have_value("99")
    expect(bad).to_have_attribute("aria-invalid", "true")
    expect(bad).to_have_accessible_description(re.compile("accepted: 0.0 m to 60.0 m"))
    bad.fill("1.9")
    bad.press("Enter")
    expect(desk.locator('[data-piece][aria-label*="at 22 %, 1.9 m high"]')).to_have_count(1)
    expect(desk.locator("[aria-invalid]")).to_have_count(0)
    desk.keyboard.press("Escape")
    expect(desk.locator("#piece-lamp-1")).to_be_focused()


def test_two_hundred_quick_edits_end_as_they_say(desk: Page, served: str):
    """By keys on two pieces, by a slider and in a form, at random, without waiting; none is refused."""
    begin(desk, served, "By haste", "sit-down portrait, wrapped")
    answers: list[int] = []
    desk.on("response", lambda answer: answers.append(answer.status))
    chance = random.Random(7)
    lamp, point = desk.locator("#piece-lamp-1"), desk.locator("#piece-spot-1")
    desk.locator("[data-chooses]").first.click()
    expect(desk.get_by_label("Level", exact=True)).to_be_visible()
    form = desk.locator("[data-saves-itself]:has([name=piece][value=lamp-1])")
    at = {piece: [float(piece.get_attribute(f"data-{axis}")) for axis in "xy"] for piece in (lamp, point)}
    last: dict[str, str] = {}
    for _ in range(200):
        if chance.random() < 0.8:
            piece, (key, axis, way) = chance.choice((lamp, point)), chance.choice(ARROWS)
            piece.focus()
            desk.keyboard.press(key)
            at[piece][axis] += way
        else:
            name, words = chance.choice(
                (("level", f"{chance.randint(5, 60)}"), ("z_m", f"{chance.uniform(1, 2.5):.2f}"))
            )
            desk.locator("[data-chooses]").first.click()
            form.locator(f"[name={name}]").fill(words)
            desk.keyboard.press("Enter")
            last[name] = words
    for piece, spot in at.items():
        for axis, value in zip("xy", spot, strict=True):
            expect(piece).to_have_attribute(f"data-{axis}", f"{round(value, 3):g}")
    said = re.compile(re.escape(f"at {last['level']} %, {float(last['z_m']):g} m high"))
    expect(lamp).to_have_attribute("aria-label", said)
    desk.reload()
    expect(lamp).to_have_attribute("aria-label", said)
    assert not {409, 422, 500} & set(answers)


def test_a_form_being_typed_in_stays_while_an_older_change_of_another_piece_is_answered(desk: Page, served: str):
    begin(desk, served, "Typed over", "sit-down portrait, wrapped")
    desk.locator("[data-chooses]").first.click()
    form = desk.locator("[data-saves-itself]:has([name=piece][value=lamp-1])")
    expect(form).to_be_visible()
    held: list[Route] = []

    def hold(route: Route) -> None:
        held.append(route)

    desk.route("**/changes", hold, times=1)
    point = desk.locator("#piece-spot-1")
    left = float(point.get_attribute("data-x"))
    point.focus()
    with desk.expect_request("**/changes"):
        desk.keyboard.press("ArrowLeft")
    desk.locator("[data-chooses]").first.click()
    saved: list[str] = []
    desk.on("request", lambda asked: saved.append(asked.post_data) if "/form/" in asked.url else None)
    form.locator("[name=z_m]").fill("1.")
    held[0].continue_()
    expect(point).to_have_attribute("data-x", f"{round(left - 0.1, 3):g}")
    desk.keyboard.type("73")
    desk.keyboard.press("Enter")
    expect(desk.locator("#piece-lamp-1")).to_have_attribute("aria-label", re.compile("1.73 m high"))
    assert [re.search(r"&z_m=([^&]*)", each)[1] for each in saved] == ["1.73"]  # never "1.", half typed


def test_what_is_typed_while_its_form_opens_again_for_an_older_save_is_kept(desk: Page, served: str):
    begin(desk, served, "Typed twice", "sit-down portrait, wrapped")
    desk.locator("[data-chooses]").first.click()
    form = "[data-saves-itself]:has([name=piece][value=lamp-1])"
    expect(desk.locator(form)).to_be_visible()
    desk.evaluate(
        """(form) => document.addEventListener("htmx:after:swap", function again() {
          const field = document.querySelector(form)?.elements.level;
          if (!field) return;
          document.removeEventListener("htmx:after:swap", again);
          field.value = "45";
          for (const name of ["input", "change"]) field.dispatchEvent(new Event(name, { bubbles: true }));
        })""",
        form,
    )
    desk.locator(form).locator("[name=level]").evaluate(
        """(field) => {
          field.value = "12";
          field.dispatchEvent(new Event("input", { bubbles: true }));
          document.querySelector("#piece-spot-1").dispatchEvent(new MouseEvent("click", { bubbles: true }));
        }"""
    )  # another piece is chosen before it was sent: its form opens again for it, and is typed into at once
    expect(desk.locator("#piece-lamp-1")).to_have_attribute("aria-label", re.compile("at 45 %"))


def test_what_could_not_be_kept_is_told(desk: Page, served: str):
    begin(desk, served, "Cut off", "sit-down portrait, wrapped")
    page = desk.context.new_page()
    page.goto(desk.url)
    page.route("**/changes", lambda route: route.abort())
    piece(page, "Lift").focus()
    page.keyboard.press("ArrowUp")
    expect(page.get_by_role("alert")).to_contain_text("Your last change was not saved")
    answer = '<title>x</title><main><h1>Our fault</h1><p role="alert">Note the number 7.</p></main>'
    page.route("**/changes", lambda route: route.fulfill(status=500, body=answer, content_type="text/html"))
    page.keyboard.press("ArrowUp")
    expect(page.get_by_role("alert")).to_have_text("Note the number 7.")
    expect(page.locator("#throw-plan")).to_be_visible()  # the board stays where it was
    page.close()


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
        page.locator("#chooser").get_by_role("link", name=re.compile("Lift$")).click()
        expect(page.locator("#chooser [aria-current]")).to_have_text(re.compile("Lift$"))
    other.route("**/since/**", lambda route: route.abort())  # before it is told of the other's
    desk.get_by_label("Height", exact=True).fill("1.9")
    desk.get_by_label("Height", exact=True).press("Enter")
    expect(piece(desk, "Lift")).to_have_attribute("data-z", "1.9")
    other.get_by_label("Height", exact=True).fill("2.1")
    other.get_by_label("Height", exact=True).press("Enter")
    expect(other.get_by_role("alert")).to_contain_text("was changed meanwhile: it is 1.9 now")
    expect(other.get_by_label("Height", exact=True)).to_have_value("2.1")  # what was typed is still there
    other.close()
