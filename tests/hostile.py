"""What a form or a file may be sent by whoever means harm or has a broken program; for tests and for benchmarks."""

import json
import re
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit

import lxml.html
from hypothesis import strategies as st

_TOLD = json.loads(Path(__file__).with_suffix(".json").read_text(encoding="utf-8"))
#: Pages whose forms are taken, with the demo's numbers.
PAGES = tuple(_TOLD["PAGES"])
VALUES = (*_TOLD["VALUES"], *(text * count for text, count in _TOLD["REPEATED"]))
#: What would end the hunt itself: signing out, and letting the hunter in no more.
_SPARED = re.compile(r"/sign-out|/account/(delete|password|devices)|/people/1/|/leave$|/crew/(out|people)|best$")


@dataclass(frozen=True)
class Form:
    """Where a form goes, and what stands in it."""

    address: str
    is_post: bool
    fields: tuple[tuple[str, str], ...]


def forms_on(page: str, here: str) -> list[Form]:
    """Every form of a page, by its action or by what its script sends."""
    found = []
    for form in lxml.html.fromstring(page).xpath("//form"):
        address = form.get("hx-post") or form.get("hx-get") or form.get("action") or urlsplit(here).path
        is_post = bool(form.get("hx-post")) or form.get("method", "get").lower() == "post"
        fields = {str(name): str(value) for name, value in form.form_values() if name != "csrf_token"}
        fields |= {str(button.get("name")): button.get("value", "") for button in form.xpath(".//button[@name]")[:1]}
        if not _SPARED.search(address):
            found.append(Form(address, is_post, tuple(fields.items())))
    return found


def hostile_values() -> st.SearchStrategy[str]:
    """A word from the list, or any text."""
    return st.sampled_from(VALUES) | st.text(max_size=60)


@st.composite
def hostile_form(draw, forms: list[Form]) -> tuple[Form, dict[str, str]]:
    """A form with some of its fields replaced, left out, or joined by others."""
    form = draw(st.sampled_from(forms))
    fields = dict(form.fields)
    names = [*fields, "piece", "version", "changes", "number", "was-name"]
    for name in draw(st.lists(st.sampled_from(names), min_size=1, max_size=4, unique=True)):
        if draw(st.integers(0, 5)):
            fields[name] = draw(hostile_values())
        else:
            fields.pop(name, None)
    return form, fields


@st.composite
def hostile_address(draw, address: str) -> str:
    """The same address, one part of it another; mostly as it is."""
    if draw(st.integers(0, 7)):
        return address
    parts = address.split("/")
    at = draw(st.integers(1, len(parts) - 1))
    parts[at] = draw(st.sampled_from(["0", "-1", "999999", "9" * 30, "%00", "x", "..", "1", "lamps", "back"]))
    return "/".join(parts)
