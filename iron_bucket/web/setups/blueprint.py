"""The blueprint of the station; its routes stand beside it."""

from flask import Blueprint

bp = Blueprint("setups", __name__, template_folder="templates")
