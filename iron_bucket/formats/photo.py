"""Photos as they are kept: a plain JPEG of modest size that says nothing of camera, place or hour."""

from dataclasses import dataclass
from io import BytesIO

from PIL import Image, ImageOps, UnidentifiedImageError

from iron_bucket.formats.errors import FormatError

#: What a telephone makes is taken in; it is kept no longer than this on its longer side.
PHOTO_LIMIT_BYTES, LONGEST_PX, MOST_PIXELS = 16_000_000, 1800, 60_000_000
_QUALITY = 82
_KINDS = ("JPEG", "PNG", "WEBP")


@dataclass(frozen=True, slots=True, kw_only=True)
class Photo:
    """``data``: a JPEG without metadata."""

    data: bytes
    width_px: int
    height_px: int


def clean_photo(data: bytes) -> Photo:
    """Upright, small enough, and stripped. Raises: FormatError for what is no photo, or too large a one."""
    if len(data) > PHOTO_LIMIT_BYTES:
        raise FormatError("photo", None, f"the file has {len(data):,} bytes; accepted: up to {PHOTO_LIMIT_BYTES:,}")
    turned = _opened(data)
    turned.thumbnail((LONGEST_PX, LONGEST_PX))
    bare = Image.new("RGB", turned.size)  # the pixels alone: no profile, no comment, no maker's block
    bare.paste(turned)
    kept = BytesIO()
    bare.save(kept, "JPEG", quality=_QUALITY)
    return Photo(data=kept.getvalue(), width_px=bare.width, height_px=bare.height)


def _opened(data: bytes) -> Image.Image:
    """Upright, in plain colours."""
    try:
        with Image.open(BytesIO(data), formats=_KINDS) as opened:
            if opened.width * opened.height <= MOST_PIXELS:
                return ImageOps.exif_transpose(opened).convert("RGB")
            size = f"{opened.width} × {opened.height} pixels"
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise FormatError("photo", None, "it cannot be read; accepted: a JPEG, PNG or WebP picture") from None
    raise FormatError("photo", None, f"it has {size}; accepted: up to {MOST_PIXELS:,} in all")
