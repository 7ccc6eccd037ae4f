"""List, record, open, change, copy, put away; undo and redo."""

import json
from datetime import date, datetime, time
from typing import Any

from flask import Blueprint, Response, flash, g, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as AnyResponse

from iron_bucket.core.checks import require_time
from iron_bucket.core.errors import BadValue
from iron_bucket.core.places.place import Place
from iron_bucket.desk import places as desk
from iron_bucket.desk.errors import ChangedMeanwhile, NotFound
from iron_bucket.desk.past import past_of_place, return_place_to
from iron_bucket.desk.photos import list_photos
from iron_bucket.formats.json_text import parsed_json
from iron_bucket.formats.record_json import read_record, write_record
from iron_bucket.formats.text_file import lines_of
from iron_bucket.web.places import forms
from iron_bucket.web.places.elevation import elevation
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.pictures.plan import PlacePicture, paper_for, place_picture, place_points
from iron_bucket.web.shared.reply import after_change, reply
from iron_bucket.web.shared.request_session import person_id
from iron_bucket.web.shared.today import today
from iron_bucket.web.shared.typed_fields import TypedField, changes_of, refusal

bp = Blueprint("places", __name__, template_folder="templates", url_prefix="/places")
VIEW: dict[str, Any] = {"page": "places/page.html", "fragment": "places/_place.html"}


def _picture(view: desk.PlaceView, shown_px: float, most_px: float) -> PlacePicture:
    paper = paper_for(place_points(view.surroundings), shown_px=shown_px, most_px=most_px)
    return place_picture(view.surroundings, paper, g.units)


@bp.get("")
def index() -> str:
    """All places, with little plans."""
    return _index()


def _index(bad: BadValue | None = None) -> str:
    views, trouble = desk.list_places_and_trouble(g.session)
    return render_template(
        "places/index.html",
        places=[(view, _picture(view, 150.0, 96.0)) for view in views],
        trouble=trouble,
        bad=bad,
        typed=request.form.to_dict() if bad else {},
    )


@bp.post("")
def create() -> AnyResponse | tuple[str, int]:
    """Record a place from the short form."""
    try:
        number = desk.add_place(g.session, person_id(), forms.new_place(request.form, g.units))
    except BadValue as bad:
        return _index(bad), 422
    return redirect(url_for("places.place", place_id=number), code=303)


@bp.post("/file")
def import_files() -> AnyResponse:
    """A place from its file."""
    upload = request.files.get("file")
    if upload is None or not upload.filename:
        raise BadValue("file", "missing", "a place's JSON file")
    row = parsed_json("\n".join(lines_of(upload.read(), "place")), "place")
    number = desk.add_place(g.session, person_id(), read_record(Place, row))
    return redirect(url_for("places.place", place_id=number), code=303)


def _context(
    view: desk.PlaceView,
    bad: str | None = None,
    bad_at: str = "",
    typed: dict[str, str] | None = None,
    *,
    is_saved: bool = False,
) -> dict[str, Any]:
    day = _day(request.args.get("day", ""))
    row, picture = write_record(view.place), _picture(view, 700.0, 380.0)
    return {
        "view": view,
        "row": row,
        "picture": picture,
        "heights": elevation(view.surroundings, picture.paper, g.units),
        "own": forms.place_fields(view.place),
        "lists": forms.lists_of(view.place),
        "opening_fields": forms.opening_fields,
        "new_opening": forms.NEW_OPENING,
        "wall_fields": lambda room: forms.wall_fields(room, view.place),
        "sun_day": day,
        "sun": _sun_hours(view, day),
        "setups": desk.setups_here(g.session, person_id(), view.place_id),
        "photos": list_photos(g.session, view.place_id),
        "is_saved": is_saved,
        "bad": bad,
        "bad_at": bad_at,
        "typed": typed or {},
    }


def _day(text: str) -> date:
    """The day that was asked for; today where none was, or none that there is."""
    try:
        require_time("day", datetime.combine(date.fromisoformat(text), time()))
        return date.fromisoformat(text)
    except ValueError:
        return today()


def _sun_hours(view: desk.PlaceView, day: date) -> list[tuple[datetime, float, float]]:
    """The sun over the place on a day, hour by hour: time, altitude, bearing on the plan."""
    found = []
    for hour in range(24):
        when = datetime.combine(day, time(hour))
        sun = view.surroundings.sun(when)
        if sun.altitude_deg > 0.0:
            found.append((when, sun.altitude_deg, view.surroundings.sun_bearing_deg(sun)))
    return found


@bp.get("/<int:place_id>")
def place(place_id: int) -> tuple[str, int]:
    """One place."""
    return reply(**VIEW, **_context(desk.open_place(g.session, place_id)))


def _change(place_id: int, changes: list[dict[str, Any]]) -> AnyResponse | str:
    view = (
        desk.change_place(g.session, person_id(), place_id, changes)
        if changes
        else desk.open_place(g.session, place_id)
    )
    return after_change(
        url_for("places.place", place_id=place_id), fragment=VIEW["fragment"], **_context(view, is_saved=True)
    )


def _refused(place_id: int, bad: Exception, at: str) -> tuple[str, int]:
    view = desk.open_place(g.session, place_id)
    typed = {key: value for key, value in request.form.items() if not key.startswith("was-")}
    said = refusal(bad, _asked_at(view, at), typed, g.units)
    status = 409 if isinstance(bad, ChangedMeanwhile) else 422
    return reply(**VIEW, status=status, **_context(view, said.words, at, typed))


def _asked_at(view: desk.PlaceView, at: str) -> tuple[TypedField, ...]:
    """The fields of the form that was refused."""
    where = at.partition("-")[0]
    if where == "own":
        return forms.place_fields(view.place)
    if where == "openings":
        return forms.opening_fields({"corners": []})
    return next((each.fields for each in forms.lists_of(view.place) if each.where == where), ())


@bp.post("/<int:place_id>/own")
def change_own(place_id: int) -> AnyResponse | str | tuple[str, int]:
    """The place's own fields."""
    view = desk.open_place(g.session, place_id)
    try:
        to, was = changes_of(forms.place_fields(view.place), request.form, g.units)
        return _change(place_id, [{"operation": "set", "to": to, "was": was}] if to else [])
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(place_id, bad, "own")


def _list_of(view: desk.PlaceView, where: str) -> forms.PieceList:
    pieces = next((each for each in forms.lists_of(view.place) if each.where == where), None)
    if pieces is None:
        raise NotFound("a place has no such list")
    return pieces


@bp.post("/<int:place_id>/<where>")
def add_piece(place_id: int, where: str) -> AnyResponse | str | tuple[str, int]:
    """One more of a list."""
    view = desk.open_place(g.session, place_id)
    pieces = _list_of(view, where)
    try:
        return _change(place_id, [forms.added_piece(pieces, view.place, request.form, g.units)])
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(place_id, bad, f"{where}-new")


@bp.post("/<int:place_id>/<where>/<piece_id>")
def change_piece(place_id: int, where: str, piece_id: str) -> AnyResponse | str | tuple[str, int]:
    """Change one, or take it out."""
    view = desk.open_place(g.session, place_id)
    pieces = _list_of(view, where)
    try:
        if request.form.get("out"):
            return _change(place_id, [{"operation": "remove", "where": where, "piece_id": piece_id}])
        return _change(place_id, forms.changed_piece(pieces, piece_id, view.place, request.form, g.units))
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(place_id, bad, f"{where}-{piece_id}")


@bp.post("/<int:place_id>/rooms/<room_id>/walls")
def change_walls(place_id: int, room_id: str) -> AnyResponse | str | tuple[str, int]:
    """Surfaces of a room's walls."""
    view = desk.open_place(g.session, place_id)
    try:
        return _change(place_id, forms.wall_changes(view.place, room_id, request.form, g.units))
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(place_id, bad, f"rooms-{room_id}")


@bp.post("/<int:place_id>/rooms/<room_id>/openings")
def change_opening(place_id: int, room_id: str) -> AnyResponse | str | tuple[str, int]:
    """Add, change or take out a window or doorway."""
    view, opening_id = desk.open_place(g.session, place_id), request.form.get("opening_id", "")
    try:
        return _change(place_id, forms.opening_changes(view.place, room_id, opening_id, request.form, g.units))
    except (BadValue, ChangedMeanwhile) as bad:
        return _refused(place_id, bad, f"openings-{room_id}-{opening_id}")


@bp.post("/<int:place_id>/step/<any(back,on):way>/<int:number>")
def step(place_id: int, way: str, number: int) -> AnyResponse | str | tuple[str, int]:
    """Undo (``back``) or redo."""
    try:
        view = desk.step_place(g.session, person_id(), place_id, number, is_back=way == "back")
    except ChangedMeanwhile as bad:
        return _refused(place_id, bad, "own")
    return after_change(url_for("places.place", place_id=place_id), fragment=VIEW["fragment"], **_context(view))


@bp.get("/<int:place_id>/past")
def past(place_id: int) -> str:
    """What was done to the place, by whom."""
    found = past_of_place(g.session, place_id, whole_number(request.args.get("before")))
    here, home = url_for("places.past", place_id=place_id), url_for("places.place", place_id=place_id)
    return render_template("shared/past.html", past=found, back=here, here=here, home=home, home_word="The place")


@bp.post("/<int:place_id>/past/<int:number>")
def go_back(place_id: int, number: int) -> AnyResponse:
    """As it stood after a change."""
    flash(f"As it stood after: {return_place_to(g.session, person_id(), place_id, number)}.")
    return redirect(url_for("places.past", place_id=place_id), code=303)


@bp.post("/<int:place_id>/copy")
def copy(place_id: int) -> AnyResponse:
    """The same once more."""
    return redirect(url_for("places.place", place_id=desk.copy_place(g.session, person_id(), place_id)), code=303)


@bp.post("/<int:place_id>/archive")
def archive(place_id: int) -> AnyResponse:
    """Put away or bring back."""
    desk.archive_place(g.session, person_id(), place_id, is_archived=request.form.get("archived") == "yes")
    return redirect(url_for("places.index"), code=303)


@bp.get("/<int:place_id>/place.json")
def as_file(place_id: int) -> Response:
    """The place as a file that can be taken in again."""
    view = desk.open_place(g.session, place_id)
    text = json.dumps(write_record(view.place), ensure_ascii=False, indent=1)
    return Response(
        text,
        mimetype="application/json",
        headers={"Content-Disposition": f'attachment; filename="place-{place_id}.json"'},
    )
