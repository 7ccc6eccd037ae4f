"""What a password must be, and how it is kept."""

from functools import cache

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError
from zxcvbn.frequency_lists import FREQUENCY_LISTS

from iron_bucket.core.errors import BadValue

#: Length counts, not signs of several kinds; longer than this is no password but a file.
SHORTEST, LONGEST = 12, 128
#: Argon2id with 19 MiB, two passes, one lane: what OWASP's password storage cheat sheet asks at least. A crew that
#: signs in of a morning shares the processors of one small machine.
_HASHER = PasswordHasher(time_cost=2, memory_cost=19_456, parallelism=1)


@cache
def _common() -> frozenset[str]:
    """Tens of thousands that are guessed first."""
    return frozenset(FREQUENCY_LISTS["passwords"])


@cache
def _nobodys() -> str:
    return _HASHER.hash("this sign-in is not known")


def require_password(password: str, *, sign_in: str, name: str) -> None:
    """Raises: BadValue for one that is short, long, common, or made of the person's own names."""
    if not SHORTEST <= len(password) <= LONGEST:
        raise BadValue("password", f"{len(password)} letters long", f"{SHORTEST} to {LONGEST} letters")
    plain = password.lower()
    if plain in _common() or len(set(plain)) < 4:
        raise BadValue("password", "one that is guessed first", "one that nobody else uses, such as four odd words")
    rest = plain
    for word in filter(None, (sign_in.lower(), *name.lower().split(), "ironbucket", "iron", "bucket")):
        rest = rest.replace(word, "")
    if len(rest) < SHORTEST / 2:
        raise BadValue("password", "made of your own name", "one that nobody can guess from who you are")


def hashed(password: str) -> str:
    """As it is kept."""
    return _HASHER.hash(password)


def is_kept_otherwise(password_hash: str) -> bool:
    """Whether it was kept by other figures than today's."""
    return _HASHER.check_needs_rehash(password_hash)


def is_right(password: str, password_hash: str | None) -> bool:
    """Whether it is the one. Where nobody bears the name it takes as long as a wrong one."""
    try:
        return _HASHER.verify(password_hash or _nobodys(), password[:LONGEST]) and bool(password_hash)
    except (VerifyMismatchError, InvalidHashError):
        return False
