"""Photos of a recce: put in, look at, take out."""

from sqlalchemy.orm import Session

from iron_bucket.core.checks import require_at_most, require_showable
from iron_bucket.desk.errors import NotFound
from iron_bucket.desk.history import note
from iron_bucket.desk.places import get_place
from iron_bucket.desk.transaction import now, one_transaction
from iron_bucket.formats.photo import clean_photo
from iron_bucket.store.history import Scope, ScopeKind
from iron_bucket.store.photos import PhotoRow, count_photos, photo_row, photos_of

MOST_PHOTOS, LONGEST_CAPTION = 40, 200


@one_transaction
def list_photos(session: Session, place_id: int) -> tuple[PhotoRow, ...]:
    """Of a place, without their pixels: one query."""
    return tuple(photos_of(session, place_id))


@one_transaction
def add_photos(session: Session, person_id: int, place_id: int, files: tuple[bytes, ...], caption: str) -> None:
    """All of them, or none. Raises: NotFound; BadValue for too many, or a caption; FormatError for what is no photo."""
    require_showable("caption", caption.strip(), longest=LONGEST_CAPTION)
    get_place(session, place_id, locked=True)
    many = "a photo" if len(files) == 1 else f"{len(files)} photos"
    note(session, Scope(ScopeKind.PLACE, place_id), person_id, f"added {many}")
    require_at_most("photos of a place", count_photos(session, place_id) + len(files), MOST_PHOTOS)
    for data in files:
        photo = clean_photo(data)
        session.add(
            PhotoRow(
                place_id=place_id,
                caption=caption.strip(),
                width_px=photo.width_px,
                height_px=photo.height_px,
                data=photo.data,
                person_id=person_id,
                made_at=now(),
            )
        )


@one_transaction
def photo_data(session: Session, place_id: int, photo_id: int) -> bytes:
    """A JPEG. Raises: NotFound."""
    return _photo(session, place_id, photo_id).data


@one_transaction
def remove_photo(session: Session, person_id: int, place_id: int, photo_id: int) -> None:
    """For good. Raises: NotFound."""
    session.delete(_photo(session, place_id, photo_id))
    note(session, Scope(ScopeKind.PLACE, place_id), person_id, "removed a photo")


def _photo(session: Session, place_id: int, photo_id: int) -> PhotoRow:
    row = photo_row(session, place_id, photo_id)
    if row is None:
        raise NotFound("there is no such photo of this place")
    return row
