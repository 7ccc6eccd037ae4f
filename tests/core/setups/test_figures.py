"""The demo's set-ups come to the figures that they came to.

Origin: computed by this code on 25 November 2026 and looked over pass by pass; the laws behind them have their own tests, by hand and against the reference
cases. What these rows guard is everything that hangs together: no figure of a whole set-up moves unseen. ``figures.py`` tells how to write them anew.
"""

import json

import pytest

from tests.core.setups import figures

KEPT = json.loads(figures.FILE.read_text(encoding="utf-8"))


def differences(kept: object, found: object, path: str = "") -> list[str]:
    """Where two values differ: numbers by more than a ten-thousandth of themselves, else at all."""
    if isinstance(kept, dict) and isinstance(found, dict) and kept.keys() == found.keys():
        return [each for key in kept for each in differences(kept[key], found[key], f"{path}/{key}")]
    if isinstance(kept, list) and isinstance(found, list) and len(kept) == len(found):
        return [
            each
            for at, (one, other) in enumerate(zip(kept, found, strict=True))
            for each in differences(one, other, f"{path}/{at}")
        ]
    if isinstance(kept, float | int) and isinstance(found, float | int) and not isinstance(kept, bool):
        return [] if found == pytest.approx(kept, rel=1e-4, abs=1e-4) else [f"{path}: {found} in place of {kept}"]
    return [] if kept == found else [f"{path}: {found} in place of {kept}"]


@pytest.mark.parametrize("name", [name for name, *_ in figures.passes()])
def test_a_pass_comes_to_its_figures(name):
    assert differences(KEPT["passes"][name], figures.evaluated(name)) == []


@pytest.mark.parametrize("place", list(figures.places()))
def test_a_beginning_comes_to_its_figures(place):
    assert differences(KEPT["beginnings"][place], figures.beginnings_in(place)) == []


def test_a_bucket_comes_to_its_figures():
    assert differences(KEPT["bucket"], figures.bucket()) == []
