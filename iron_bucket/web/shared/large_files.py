"""A file of a form: small ones taken in at once, large ones in a process of their own while a page shows how far."""

import tempfile

from flask import current_app, g, request

from iron_bucket.core.errors import BadValue
from iron_bucket.desk.background import begin_in_background
from iron_bucket.desk.uploads import SMALL_BYTES, TakenFile, UploadKind, begin_upload, take_in
from iron_bucket.web.shared.request_session import person_id


def take_in_file(kind: UploadKind, choice: str) -> TakenFile | int:
    """What came of the form's ``file``, or the number of the upload that is worked on.

    Raises: BadValue, FormatError.
    """
    file = request.files.get("file")
    if file is None or not file.filename:
        raise BadValue("file", "missing", f"a {kind.value} file (.json)")
    if (request.content_length or 0) <= SMALL_BYTES:
        return take_in(g.session, person_id(), kind, choice, file.read())
    number = begin_upload(g.session, person_id(), kind, choice)
    url = current_app.extensions["engine"].url.render_as_string(hide_password=False)
    with tempfile.TemporaryFile() as copy:  # nameless: it goes with whoever holds it last, however they end
        file.save(copy)
        copy.seek(0)
        begin_in_background(url, "take-in", str(number), given=copy)
    return number
