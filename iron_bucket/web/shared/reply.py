"""Page or fragment: the only place that reads htmx's headers."""

from urllib.parse import urlsplit

from flask import flash, redirect, render_template, request
from werkzeug.wrappers import Response


def wants_fragment() -> bool:
    """Whether htmx asked for a part of a page."""
    return request.headers.get("HX-Request-Type") == "partial"


def is_by_script() -> bool:
    """Whether htmx asks, for a part of a page or for a whole one."""
    return "HX-Request" in request.headers


def reply(*, page: str, fragment: str, status: int = 200, **context: object) -> tuple[str, int]:
    """The fragment for a swap, the whole page for everybody else."""
    is_swap = wants_fragment()
    return render_template(fragment if is_swap else page, is_swap=is_swap, **context), status


def after_change(address: str, *, fragment: str, **context: object) -> Response | str:
    """After a change: the changed fragment for a swap, or on to a page that can be loaded again."""
    return render_template(fragment, is_swap=True, **context) if wants_fragment() else redirect(address, code=303)


def is_local(address: str) -> bool:
    """Whether an address stays here: a path, and not one that a browser takes for another host."""
    parts = urlsplit(address)
    return (
        not parts.scheme
        and not parts.netloc
        and address.startswith("/")
        and "\\" not in address
        and not address.startswith("//")
    )


def back_to() -> str:
    """The page a switch was pressed on."""
    wanted = request.form.get("back", "/")
    return wanted if is_local(wanted) else "/"


def after_step(text: str, way: str) -> Response:
    """Back to the page, told what was undone (``way`` back) or done again (on)."""
    flash(f"{'Undone' if way == 'back' else 'Done again'}: {text}.")
    return redirect(back_to(), code=303)
