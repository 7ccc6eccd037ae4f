"""A file that was written, and what it could not hold."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Written:
    """``ending`` of the file name; ``lost``: a sentence for each thing that the format has no room for."""

    data: bytes
    ending: str
    lost: tuple[str, ...]
