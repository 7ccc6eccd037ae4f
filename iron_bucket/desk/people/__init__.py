"""People: who signs in and how, who settles that, what is theirs."""

from iron_bucket.desk.people.administration import add_person
from iron_bucket.desk.people.person import Person
from iron_bucket.desk.people.signing_in import SignedIn, sign_in

__all__ = ["Person", "SignedIn", "add_person", "sign_in"]
