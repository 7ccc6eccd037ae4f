"""``python -m iron_bucket`` is the command line."""

from iron_bucket.command_line.main import main

main(prog_name="iron-bucket")
