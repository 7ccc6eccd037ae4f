"""Whole tasks as a browser goes through them, told in ``walks.json``: a name, and its steps one after the other.

A step is a list. First what is done: ``GET``, ``PART`` (a swap of what stands), ``POST`` or ``SWAP`` (a form, as a page
and as a swap), and the address. Then, in any order: an object, which is the form or the query; a number, the status
(else 200, or for a POST a way onward); texts that are seen, or with ``!`` before them not seen;
``{"sent to": pattern}`` where one is sent; ``{"take": {name: pattern}}`` what is remembered for later steps.
``{name}`` stands for a number of the demo or for what was remembered, ``{there}`` for where one was sent; a form begins
``{"as": mark}`` with what the page shows.
"""

import html
import json
import re
from pathlib import Path

import pytest

from tests.web.forms import sent_by

WALKS = json.loads(Path(__file__).with_name("walks.json").read_text(encoding="utf-8"))


def filled(value, known: dict):
    if isinstance(value, str):
        return re.sub(r"\{(\w+)\}", lambda name: str(known.get(name[1], name[0])), value)
    return [filled(each, known) for each in value] if isinstance(value, list) else value


def form_of(given: dict, known: dict, page: str) -> dict:
    shown = sent_by(page, given["as"]) if "as" in given else {}
    sent = {key: filled(value, known) for key, value in given.items() if key != "as"}
    return shown | {key: json.dumps(value) if _is_record(value) else value for key, value in sent.items()}


def aimed(address: str, page: str, known: dict) -> str:
    """An undo or a redo names the change that the page shows."""
    if not re.search(r"/step/(back|on)$", address):
        return address
    steps = re.search(rf"{re.escape(address)}/\d+", page + known.get("steps", ""))
    return steps[0] if steps else f"{address}/0"


def _is_record(value) -> bool:
    return isinstance(value, dict) or (isinstance(value, list) and isinstance(value[0], dict))


@pytest.mark.parametrize("name", WALKS)
def test_a_walk(gaffer, at, name):
    known, page = dict(at), ""
    for what, *rest in WALKS[name]:
        verb, address = filled(what, known).split(" ", 1)
        address = aimed(address, page, known)
        notes = [each for each in rest if isinstance(each, dict) and {"take", "sent to"} & set(each)]
        form = next((form_of(each, known, page) for each in rest if isinstance(each, dict) and each not in notes), {})
        if verb in ("GET", "PART"):
            answer = gaffer.get(
                address, query_string=form or None, headers={"HX-Request-Type": "partial"} if verb != "GET" else {}
            )
        else:
            answer = gaffer.post(address, form, as_swap=verb == "SWAP")
        status = [each for each in rest if isinstance(each, int)] or ([302, 303] if verb == "POST" else [200])
        assert answer.status_code in status, (what, answer.text)
        known["steps"] = page if "/step/" in page else known.get("steps", "")
        page, known["there"] = answer.text, answer.headers.get("Location", "")
        seen = html.unescape(page)
        for words in (filled(each, known) for each in rest if isinstance(each, str)):
            assert (words[1:] not in seen) if words.startswith("!") else (words in seen), (what, words)
        for note in notes:
            known |= {key: html.unescape(re.search(pattern, page)[1]) for key, pattern in note.get("take", {}).items()}
            assert re.search(filled(note.get("sent to", ""), known), known["there"])
