"""Photos of a place: in, shown, out."""

from flask import Response, flash, g, redirect, request, url_for
from werkzeug.wrappers import Response as AnyResponse

from iron_bucket.core.errors import BadValue
from iron_bucket.desk import photos as desk
from iron_bucket.web.places.routes import bp
from iron_bucket.web.shared.in_words import in_words
from iron_bucket.web.shared.request_session import person_id

#: Photos that are sent at once.
MOST_AT_ONCE = 6


@bp.post("/<int:place_id>/photos")
def add_photos(place_id: int) -> AnyResponse:
    """Take some in."""
    files = [file for file in request.files.getlist("photo") if file.filename]
    try:
        if not 1 <= len(files) <= MOST_AT_ONCE:
            raise BadValue("photos", f"{len(files)} files", f"1 to {MOST_AT_ONCE} at once")
        data = tuple(file.read() for file in files)
        desk.add_photos(g.session, person_id(), place_id, data, request.form.get("caption", ""))
        flash("Saved. Camera data such as location was removed.")
    except BadValue as bad:
        flash(in_words(bad))
    return redirect(url_for("places.place", place_id=place_id, _anchor="photos"), code=303)


@bp.get("/<int:place_id>/photos/<int:photo_id>.jpg")
def photo(place_id: int, photo_id: int) -> Response:
    """One of them."""
    found = desk.photo_data(g.session, place_id, photo_id)
    return Response(found, mimetype="image/jpeg")


@bp.post("/<int:place_id>/photos/<int:photo_id>")
def remove_photo(place_id: int, photo_id: int) -> AnyResponse:
    """Take one out."""
    desk.remove_photo(g.session, person_id(), place_id, photo_id)
    return redirect(url_for("places.place", place_id=place_id, _anchor="photos"), code=303)
