"""The bench's blueprint, which every file of routes here adds to."""

from flask import Blueprint

bp = Blueprint("bench", __name__, template_folder="templates", url_prefix="/bench")
