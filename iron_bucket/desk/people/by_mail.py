"""A one-time link, sent by mail where the installation can."""

import re

from sqlalchemy.orm import Session

from iron_bucket.core.errors import BadValue
from iron_bucket.desk.people.administration import Invitation
from iron_bucket.desk.trail import tell
from iron_bucket.desk.transaction import one_transaction
from iron_bucket.devices.mail import Letter, PostOffice

LONGEST_ADDRESS = 254
_ADDRESS = re.compile(r"[^\s@<>,;:\"()\[\]\\]{1,64}@[A-Za-z0-9-]+(\.[A-Za-z0-9-]+)*")


@one_transaction
def mail_invitation(
    session: Session, by: int, invitation: Invitation, link: str, address: str, post: PostOffice
) -> None:
    """Send the link of a code; the address is kept nowhere but among what was done.

    Raises: BadValue for no address; MailTrouble, and then nothing was done.
    """
    address = address.strip()
    if len(address) > LONGEST_ADDRESS or not address.isascii() or not _ADDRESS.fullmatch(address):
        raise BadValue("address", repr(address), "one like sam@crew.example")
    person = invitation.person
    tell(session, by, "people", f"mailed a one-time link for {person.name} ({person.sign_in}) to {address}")
    until = invitation.expires_at.strftime("%d %B %Y, %H:%M")
    text = (
        f"{person.name},\n\nset your password for Iron Bucket here; you sign in as {person.sign_in}.\n\n{link}\n\n"
        f"The link is good once, until {until} UTC. If you expected no such letter, throw it away: nothing happens.\n"
    )
    post.send(Letter(to=address, subject="Your password for Iron Bucket", text=text))
