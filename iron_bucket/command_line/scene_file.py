"""A scene from a file, with the photometric files that it names."""

from pathlib import Path

from iron_bucket.command_line.refusal import file_text
from iron_bucket.core.errors import BadValue
from iron_bucket.core.photometry.distribution import IntensityDistribution
from iron_bucket.core.scene.scene import Scene
from iron_bucket.formats.errors import FormatError
from iron_bucket.formats.photometric import read_photometric
from iron_bucket.formats.scene_json import read_scene
from iron_bucket.formats.text_file import FILE_LIMIT_BYTES


def scene_of(path: Path) -> Scene:
    """The scene; paths in it count from its folder. Raises: FormatError, BadValue."""
    return read_scene(file_text(path), lambda named: _distribution(path.parent / named))


def _distribution(path: Path) -> IntensityDistribution:
    try:
        with path.open("rb") as file:
            data = file.read(FILE_LIMIT_BYTES + 1)
    except OSError as bad:
        raise BadValue("path", path.name, f"a photometric file that can be opened ({bad.strerror or bad})") from bad
    try:
        return read_photometric(data, path.name).distribution
    except FormatError as bad:
        raise BadValue("path", path.name, f"a photometric file; {bad}") from bad
