"""The blueprint of the station."""

from flask import Blueprint

bp = Blueprint("days", __name__, template_folder="templates", url_prefix="/jobs/<int:job_id>/days")
