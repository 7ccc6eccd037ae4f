"""The blueprints of the station: of a job's own pages, and of what is shown to others."""

from flask import Blueprint

bp = Blueprint("bucket", __name__, template_folder="templates", url_prefix="/jobs/<int:job_id>/bucket")
open_bp = Blueprint("open_bucket", __name__, template_folder="templates")
