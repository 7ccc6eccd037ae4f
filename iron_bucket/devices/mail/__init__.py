"""A post office: takes a letter and hands it on. The protocol is SMTP (RFC 5321)."""

from iron_bucket.devices.mail.client import SmtpPost
from iron_bucket.devices.mail.protocol import Letter, MailTrouble, PostOffice

__all__ = ["Letter", "MailTrouble", "PostOffice", "SmtpPost"]
