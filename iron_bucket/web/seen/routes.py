"""Whether it lives, whether it can answer, and its figures."""

from flask import Blueprint, Response, current_app, g, request
from prometheus_client import CONTENT_TYPE_LATEST, generate_latest
from sqlalchemy.exc import SQLAlchemyError

from iron_bucket.desk.upkeep import waits_for
from iron_bucket.web.shared.measured import REGISTRY

bp = Blueprint("seen", __name__)


@bp.get("/healthz")
def alive() -> str:
    """This process answers."""
    return "alive\n"


@bp.get("/readyz")
def ready() -> tuple[str, int]:
    """The database answers, and its tables are those that this process knows, or newer ones."""
    try:
        missing = waits_for(g.session)
    except SQLAlchemyError:
        return "the database does not answer\n", 503
    return (f"the tables wait for migration {missing}\n", 503) if missing else ("ready\n", 200)


@bp.get("/metrics")
def metrics() -> tuple[Response, int] | Response:
    """Figures of this process, for whoever has the key that is set; closed where none is."""
    key = current_app.config["METRICS_KEY"]
    if not key or request.headers.get("Authorization") != f"Bearer {key}":
        return Response("set IRON_BUCKET_METRICS_KEY, and send it as a bearer token\n", mimetype="text/plain"), 403
    return Response(generate_latest(REGISTRY), content_type=CONTENT_TYPE_LATEST)
