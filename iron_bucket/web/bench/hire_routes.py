"""The hire desk: what it asks, what is free on a day, and its prices taken onto the bench."""

from datetime import UTC, date, datetime

from flask import current_app, flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from iron_bucket.core.errors import BadValue
from iron_bucket.desk import hire as desk
from iron_bucket.formats.errors import FormatError
from iron_bucket.web.bench.blueprint import bp
from iron_bucket.web.shared.numbers import page_number
from iron_bucket.web.shared.request_session import person_id

PAGE_ROWS = 60


def answers() -> desk.HireAnswers:
    """The hire desk of this application."""
    found: desk.HireAnswers = current_app.extensions["hire_answers"]
    return found


def _day(text: str) -> date:
    """The day asked for. Raises: BadValue."""
    if not text:
        return datetime.now(UTC).date()
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise BadValue("day", repr(text), "a day such as 2026-10-12") from None


def _page(status: int = 200, **context: object) -> tuple[str, int]:
    bad = context.pop("bad", None)
    try:
        day = _day(request.values.get("day", ""))
    except BadValue as refused:
        day, bad, status = datetime.now(UTC).date(), refused, 422
    state = answers().on(day)
    rows = desk.price_rows(g.session, state)
    number = request.args.get("page", "1")
    page = page_number(number)
    shown = rows[(page - 1) * PAGE_ROWS : page * PAGE_ROWS]
    taken = context.get("taken")
    template = render_template(
        "bench/hire.html",
        state=state,
        is_set=answers().is_set,
        rows=shown,
        total=len(rows),
        differing=sum(row.differs for row in rows),
        page=page,
        pages=max(1, -(-len(rows) // PAGE_ROWS)),
        bad=bad,
        taken=taken,
    )
    return template, status


@bp.get("/hire")
def hire() -> tuple[str, int]:
    """Prices and what is free on a day."""
    return _page()


@bp.post("/hire/prices")
def take_prices() -> Response:
    """The desk's day prices for everything that it offers."""
    day = _day(request.form.get("day", ""))
    count = desk.take_prices(g.session, person_id(), answers().on(day))
    flash(f"{count} prices updated from the hire desk." if count else "Prices already up to date.")
    return redirect(url_for("bench.hire", day=day.isoformat()), code=303)


@bp.post("/hire/list")
def take_price_list() -> tuple[str, int]:
    """Day prices from a price list."""
    file = request.files.get("file")
    try:
        if file is None or not file.filename:
            raise BadValue("file", "missing", "a price list as CSV")
        taken = desk.take_price_list(g.session, person_id(), file.read())
    except (BadValue, FormatError) as bad:
        return _page(422, bad=bad)
    return _page(taken=taken)
