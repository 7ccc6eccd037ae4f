"""Figures in templates, in the reader's units: ``{{ level_lx | lx }}`` sets the number large and the unit small."""

import math

from flask import Flask, g
from markupsafe import Markup, escape

from iron_bucket.core.modifiers.cut_words import cut_words
from iron_bucket.core.quantities import display
from iron_bucket.core.quantities.display import Displayed
from iron_bucket.web.shared import typed_fields
from iron_bucket.web.shared.in_words import in_words
from iron_bucket.web.shared.told_apart import told_apart
from iron_bucket.web.shared.zones import cities


def _set(figure: Displayed) -> Markup:
    """Escaped part by part, not by a format: a set-up's table sets hundreds of figures while somebody drags a lamp."""
    unit = f"<small>\u202f{escape(figure.unit)}</small>" if figure.unit else ""
    return Markup(f"{escape(figure.value)}{unit}")


def attach(app: Flask) -> None:
    """Register the filters."""
    every = {
        "lx": lambda value: _set(display.illuminance(value, g.units)),
        "m": lambda value: _set(display.length(value, g.units)),
        "m2": lambda value: _set(display.area(value, g.units)),
        "kg": lambda value: _set(display.mass(value, g.units)),
        "temperature": lambda value: _set(display.temperature(value, g.units)),
        "stops": lambda value: _set(display.stops(value)),
        "kg_in": lambda value, units: _set(display.mass(value, units)),
        "amps": lambda value: _set(Displayed(f"{value:.1f}" if value >= 1 else f"{value:.2f}", "A")),
        "sentence_case": lambda text: text[:1].upper() + text[1:],
        "paired": lambda values: [(value, value) for value in values],
        "fine_stops": lambda value: _set(display.fine_stops(value)),
        "log2_stops": lambda share: _set(display.stops(math.log2(share))),
        "to_one": lambda value: str(display.ratio(value)),
        "mired": lambda value: _set(display.mired_shift(value)),
        "percent": lambda value: _set(display.share(value)),
        "hours": lambda value: _set(display.hours(value)),
        "figure": lambda value, unit="": _set(display.plain(value, unit)),
        "plain_lx": lambda value: str(display.illuminance(value, g.units)),
        "plain_m": lambda value: str(display.length(value, g.units)),
        "plain_stops": lambda value: str(display.stops(value)),
        "money": lambda value: _set(Displayed(money(value), _currency())),
        "whole": lambda value, unit: _set(Displayed(f"{value:,.0f}".replace(",", "\u202f"), unit)),
        "slider": lambda level: round(max(math.log2(max(level, 1e-4)) * 10.0, -100.0)),
        "said": lambda field, value: typed_fields.say(field, value, g.units),
        "signed_m": lambda value: (
            _set(display.length(value, g.units)) if value >= 0 else Markup("−") + _set(display.length(-value, g.units))
        ),
        "signed": lambda value, digits=0: display.signed(value, digits),
        "cut_words": lambda cut: cut_words(cut, g.units),
        "told_apart": told_apart,
        "in_words": in_words,
        "count": lambda value: f"{value:,}".replace(",", "\u202f"),
    }
    app.jinja_env.filters.update(every)
    app.jinja_env.globals["cities"] = cities


def _currency() -> str:
    """That of the job whose page it is."""
    return g.job.rules.kit.currency if g.get("job") else ""


def money(value: float) -> str:
    """Money is not rounded to what a meter can tell: whole, or to the hundredth."""
    return f"{value:,.2f}".removesuffix(".00").replace(",", "\u202f")
