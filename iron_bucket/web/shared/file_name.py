"""Names of files that are taken along."""

import re


def file_name(words: str, ending: str) -> str:
    """Small letters and dashes, so that every machine takes it."""
    return f"{re.sub(r'[^a-z0-9]+', '-', words.lower()).strip('-') or 'job'}.{ending}"
