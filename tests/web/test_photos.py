"""Photos of a recce through the pages."""

import re
from io import BytesIO

from PIL import Image

from iron_bucket.desk.photos import MOST_PHOTOS
from tests.formats.test_photo import a_photo


def sent(gaffer, address: str, *files: bytes, **form):
    data = {"csrf_token": gaffer.token, "photo": [(BytesIO(file), "p.jpg") for file in files]} | form
    return gaffer.client.post(address, data=data, content_type="multipart/form-data", follow_redirects=True)


def test_photos_come_in_are_shown_and_go(gaffer, app, at):
    place = f"/places/{at['place']}"
    gaffer.get(place)
    page = sent(gaffer, f"{place}/photos", a_photo(), a_photo(kind="PNG"), caption="north <window>")
    assert "Saved. Camera data such as location was removed" in page.text
    assert page.text.count("north &lt;window&gt;") >= 4
    address = re.search(rf'src="\s*({place}/photos/\d+\.jpg)"', page.text)[1]
    photo = gaffer.client.get(address)
    assert (photo.mimetype, photo.headers["Cache-Control"].split(",")[0]) == ("image/jpeg", "no-store")
    assert not dict(Image.open(BytesIO(photo.data)).getexif())
    assert app.test_client().get(address).status_code == 302
    assert gaffer.client.get(address.replace(f"/{at['place']}/", "/999999/")).status_code == 404
    for files, sentence in (
        ((b"no photo",), "cannot be read"),
        ((a_photo(),) * 7, "7 files; accepted: 1 to 6 at once"),
        ((), "0 files"),
        ((a_photo(), b"no photo"), "cannot be read"),  # all or none
    ):
        assert sentence in sent(gaffer, f"{place}/photos", *files).text
    count = gaffer.get(place).text.count("remove photo")
    assert count == 2
    for _ in range((MOST_PHOTOS - count) // 6):
        sent(gaffer, f"{place}/photos", *((a_photo(),) * 6))
    assert "accepted: up to 40" in sent(gaffer, f"{place}/photos", *((a_photo(),) * 6)).text
    gaffer.post(address.removesuffix(".jpg"))
    assert gaffer.client.get(address).status_code == 404
