"""``iron-bucket post-office``: the simulated mail server, in a process of its own."""

from pathlib import Path

import click

from iron_bucket.command_line.answer import json_option
from iron_bucket.command_line.stand_in import serve_started
from iron_bucket.devices.mail.stand_in import StandInPost, smtp_post


@click.command("post-office")
@click.option("--host", default="127.0.0.1", show_default=True)
@click.option("--port", default=8025, show_default=True, type=click.IntRange(1, 65535))
@click.option("--folder", required=True, type=click.Path(file_okay=False, path_type=Path), help="Where letters lie.")
@json_option
def post_office(host: str, port: int, folder: Path, as_json: bool) -> None:
    """Serve a made-up mail server, which hands nothing on. Its protocol is SMTP."""
    folder.mkdir(parents=True, exist_ok=True)
    server = smtp_post(StandInPost(folder), host, port)
    serve_started("post office", server.start, f"smtp://{host}:{port}", as_json=as_json)
