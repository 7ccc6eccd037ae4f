"""The post office: its stand-in over real SMTP, and a client that never waits long nor gives a password away."""

import contextlib
import email.policy
import smtplib
import socket
from email.parser import BytesParser

import pytest

from iron_bucket.devices.mail import Letter, MailTrouble, SmtpPost
from iron_bucket.devices.mail.stand_in import StandInPost, smtp_post
from tests.database import free_port
from tests.tables import tabled

LETTER = Letter(to="wren@crew.example", subject="Your password – soon", text="Wren,\n\nHére is a link.\n")


@contextlib.contextmanager
def post_office(folder):
    """The stand-in's address, while the block lasts."""
    port = free_port()
    server = smtp_post(StandInPost(folder), "127.0.0.1", port)
    server.start()
    try:
        yield f"smtp://127.0.0.1:{port}"
    finally:
        server.stop()


def letters(folder):
    parse = BytesParser(policy=email.policy.default).parsebytes
    return [parse(path.read_bytes()) for path in sorted(folder.iterdir())]


def test_a_letter_lies_where_it_was_sent(tmp_path):
    with post_office(tmp_path) as url:
        SmtpPost(url=url, sender="lamps@crew.example").send(LETTER)
    [told] = letters(tmp_path)
    assert (told["To"], told["From"], told["Subject"]) == (LETTER.to, "lamps@crew.example", LETTER.subject)
    assert told.get_content().split() == LETTER.text.split()
    assert told["Date"]
    assert told["Message-ID"].endswith("@crew.example>")


@tabled
def test_trouble_is_told_in_a_sentence(tmp_path, monkeypatch, at, to, why):
    monkeypatch.setattr(smtplib.SMTP, "login", lambda *_: pytest.fail("a password was given in the open"))
    with post_office(tmp_path) as url, socket.create_server(("127.0.0.1", 0)) as mute:
        place = url.removeprefix("smtp://")
        filled = at.format(url=url, place=place, closed=free_port(), silent=mute.getsockname()[1])
        post = SmtpPost(url=filled, sender="lamps@crew.example", patience_s=0.4 if "silent" in at else 20.0)
        with pytest.raises(MailTrouble, match=why):
            post.send(Letter(to=to, subject="a", text="b"))
    assert not letters(tmp_path)
