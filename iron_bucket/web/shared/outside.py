"""Addresses as others find them, for links that are sent or printed."""

from typing import Any

from flask import current_app, request, url_for


def outside(endpoint: str, **values: Any) -> str:
    """From the address that is set, else from the one that this was asked at."""
    here = current_app.config["ADDRESS"] or request.host_url.rstrip("/")
    return f"{here}{url_for(endpoint, **values)}"
