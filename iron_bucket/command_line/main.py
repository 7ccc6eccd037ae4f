"""The way in: ``iron-bucket COMMAND``.

A command's module is loaded when it is called, so that each imports only what it needs.
"""

import importlib

import click

#: Where each command stands: its module, the name it has there, and its line in the help.
COMMANDS = {
    "backup": ("upkeep", "backup", "Everything into one file, while others go on working."),
    "check": ("upkeep", "check", "Name every row that cannot be read."),
    "people": ("people", "people", "Who may sign in: list, add, reset, rename, disable, enable, administrator."),
    "prune": ("upkeep", "prune", "Thin old history, take away old sign-ins."),
    "restore": ("upkeep", "restore", "Everything from such a file into an empty database."),
    "serve": ("serve", "serve", "Serve a real installation, by the settings in IRON_BUCKET_*."),
    "best-kit": ("best_kit", "best_kit", "Work on a search for the best kit that a page began."),
    "colour": ("colour", "colour", "The colour figures of spectra."),
    "demo": ("demo", "demo", "Serve the demo. Ctrl-C stops all of it."),
    "exposure": ("exposure", "exposure", "Lux from camera, or the missing figure of the camera from lux."),
    "gear": ("gear", "gear", "Gear as a file."),
    "gel": ("gel", "gel", "Gels from one colour temperature to another, the best first."),
    "hire-desk": ("hire_desk", "hire_desk", "Serve a made-up hire house: prices, stock by date, lead time."),
    "kit": ("kit", "kit", "What a job brings, down to the peg, and why."),
    "level": ("level", "level", "Lux at every mark of a scene."),
    "load-demo": ("load_demo", "load_demo_command", "Put the made-up scenario into an empty database."),
    "migrate": ("migrate", "migrate_database", "Make or update the tables in IRON_BUCKET_DATABASE_URL."),
    "photometry": ("photometry", "photometry", "The figures of photometric files."),
    "moon": ("sky", "moon", "Where the moon stands, and how much of it is lit."),
    "pick": ("pick", "pick", "What fits a need, and what was passed over."),
    "power": ("power", "power", "What a plan of sources and loads comes to, and who hangs where."),
    "take-in": ("take_in", "take_in", "Work on a large file that a page was sent."),
    "solve": ("solve", "solve", "Dimmers for several marks at once."),
    "sun": ("sky", "sun", "Where the sun stands, or when it rises and sets."),
    "post-office": ("post_office", "post_office", "Serve a made-up mail server, which hands nothing on."),
    "weather": ("weather", "weather", "Serve a made-up weather office: cloud, wind, rain, temperature."),
}


class _Commands(click.Group):
    """Tells of its commands without loading them."""

    def list_commands(self, context: click.Context) -> list[str]:
        """By name."""
        return sorted(COMMANDS)

    def get_command(self, context: click.Context, name: str) -> click.Command | None:
        """Loaded now."""
        if name not in COMMANDS:
            return None
        module, attribute, _ = COMMANDS[name]
        found: click.Command = getattr(importlib.import_module(f"iron_bucket.command_line.{module}"), attribute)
        return found

    def format_commands(self, context: click.Context, formatter: click.HelpFormatter) -> None:
        """The list in the help."""
        with formatter.section("Commands"):
            formatter.write_dl([(name, line) for name, (_, _, line) in sorted(COMMANDS.items())])


@click.command(cls=_Commands, context_settings={"help_option_names": ["-h", "--help"]})
def main() -> None:
    """The lamps a set needs, proven by measured output, and the kit that carries them."""
