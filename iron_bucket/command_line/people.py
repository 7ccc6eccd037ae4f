"""``iron-bucket people``: who may sign in, for whoever has the machine in hand."""

import os
from pathlib import Path

import click

from iron_bucket.command_line.answer import json_option, print_json
from iron_bucket.command_line.installation import data_option, session_of
from iron_bucket.core.jobs.roles import Role
from iron_bucket.desk.people import administration as desk
from iron_bucket.store.crews import FIRST_CREW

sign_in = click.argument("sign_in")


@click.group()
def people() -> None:
    """Who may sign in: list, add, reset, rename, disable, enable, administrator."""


def told(invitation: desk.Invitation, address: str, *, as_json: bool) -> None:
    """A code, and how it is used; never told again."""
    link = f"{address.rstrip('/')}/welcome/{invitation.code}"
    if as_json:
        until = invitation.expires_at.isoformat()
        print_json({"sign_in": invitation.person.sign_in, "code": invitation.code, "link": link, "until": until})
    else:
        until = f"{invitation.expires_at:%d %b %H:%M} UTC"
        click.echo(f"{invitation.person.sign_in} sets a password, once and until {until}, at\n  {link}")


def _address() -> str:
    return os.environ.get("IRON_BUCKET_ADDRESS", "http://127.0.0.1:8000")


@people.command("list")
@data_option
@json_option
def everybody(data: Path | None, as_json: bool) -> None:
    """Everybody, the disabled last."""
    with session_of(data) as session:
        found = desk.list_people(session)
    if as_json:
        print_json([{name: getattr(each, name) for name in each.__slots__} for each in found])
        return
    for each in found:
        notes = [word for is_so, word in ((each.is_admin, "administrator"), (each.is_disabled, "disabled")) if is_so]
        click.echo("\t".join([each.sign_in, each.name, *notes]))


@people.command()
@sign_in
@click.argument("name")
@click.option("--role", type=click.Choice([role.value for role in Role]), default=Role.TECHNICIAN.value)
@click.option("--crew", default=FIRST_CREW, show_default=True, help="The crew's number; 0 for none yet.")
@click.option("--administrator", is_flag=True)
@data_option
@json_option
def add(sign_in: str, name: str, role: str, crew: int, administrator: bool, data: Path | None, as_json: bool) -> None:
    """Somebody new; prints a link by which they set a password."""
    with session_of(data) as session:
        made = desk.invite(
            session, None, name=name, sign_in=sign_in, is_admin=administrator, crew_id=crew or None, role=Role(role)
        )
    told(made, _address(), as_json=as_json)


@people.command()
@sign_in
@data_option
@json_option
def reset(sign_in: str, data: Path | None, as_json: bool) -> None:
    """End somebody's password and sign-ins; prints a link for a new one."""
    with session_of(data) as session:
        made = desk.reset_password(session, None, desk.person_named(session, sign_in).person_id)
    told(made, _address(), as_json=as_json)


@people.command()
@sign_in
@click.argument("name")
@data_option
def rename(sign_in: str, name: str, data: Path | None) -> None:
    """Another name."""
    with session_of(data) as session:
        desk.rename(session, None, desk.person_named(session, sign_in).person_id, name)


@people.command()
@sign_in
@data_option
def disable(sign_in: str, data: Path | None) -> None:
    """Let somebody in no more, at once."""
    with session_of(data) as session:
        desk.disable(session, None, desk.person_named(session, sign_in).person_id, is_disabled=True)


@people.command()
@sign_in
@data_option
def enable(sign_in: str, data: Path | None) -> None:
    """Let somebody in again."""
    with session_of(data) as session:
        desk.disable(session, None, desk.person_named(session, sign_in).person_id, is_disabled=False)


@people.command()
@sign_in
@click.option("--no", "is_taken_back", is_flag=True, help="No longer.")
@data_option
def administrator(sign_in: str, is_taken_back: bool, data: Path | None) -> None:
    """Make somebody administrator, who adds and disables people."""
    with session_of(data) as session:
        desk.make_admin(session, None, desk.person_named(session, sign_in).person_id, is_admin=not is_taken_back)
