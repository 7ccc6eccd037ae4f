"""Photos are kept as pixels alone."""

from io import BytesIO

import pytest
from PIL import Image

from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.photo import LONGEST_PX, MOST_PIXELS, PHOTO_LIMIT_BYTES, clean_photo

MAKER, TURNED, PLACE = 0x010F, 0x0112, 0x8825


def a_photo(width: int = 40, height: int = 20, kind: str = "JPEG", **exif) -> bytes:
    """Left half white, right half black."""
    image, kept = Image.new("RGB", (width, height)), BytesIO()
    image.paste((255, 255, 255), (0, 0, width // 2, height))
    said = image.getexif()
    said[MAKER] = "somebody's camera"
    said[TURNED] = exif.get("turned", 1)
    said.get_ifd(PLACE)[1] = "N"
    image.save(kept, kind, exif=said, comment=b"taken at home") if kind == "JPEG" else image.save(kept, kind, exif=said)
    return kept.getvalue()


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_nothing_but_the_picture_is_kept(kind):
    given = a_photo(kind=kind)
    assert b"somebody" in given or kind == "WEBP"
    kept = clean_photo(given)
    with Image.open(BytesIO(kept.data)) as image:
        assert (image.format, image.size, dict(image.getexif())) == ("JPEG", (40, 20), {})
        assert not {"exif", "comment", "icc_profile"} & set(image.info)
        assert image.getpixel((5, 10))[0] > 200
        assert image.getpixel((35, 10))[0] < 60
    assert (kept.width_px, kept.height_px) == (40, 20)


def test_a_photo_stands_upright_and_is_no_larger_than_a_page_shows():
    kept = clean_photo(a_photo(width=4000, height=1000, turned=6))  # a quarter turn clockwise: white comes on top
    assert (kept.width_px, kept.height_px) == (LONGEST_PX // 4, LONGEST_PX)
    with Image.open(BytesIO(kept.data)) as image:
        assert image.getpixel((200, 100))[0] > 200
        assert image.getpixel((200, 1700))[0] < 60


@pytest.mark.parametrize(
    ("data", "sentence"),
    [
        (b"", "cannot be read; accepted: a JPEG, PNG or WebP"),
        (b"GIF89a not a photo", "cannot be read"),
        (a_photo()[:300], "cannot be read"),
        (b"x" * (PHOTO_LIMIT_BYTES + 1), "accepted: up to 16,000,000"),
    ],
)
def test_what_is_no_photo_is_refused_in_words(data, sentence):
    with pytest.raises(FormatError, match=sentence):
        clean_photo(data)


def test_a_small_file_of_a_huge_picture_is_refused_unread():
    kept = BytesIO()
    Image.new("1", (30_000, MOST_PIXELS // 30_000 + 1)).save(kept, "PNG")
    assert len(kept.getvalue()) < 100_000
    with pytest.raises(FormatError, match="pixels; accepted: up to 60,000,000 in all"):
        clean_photo(kept.getvalue())
