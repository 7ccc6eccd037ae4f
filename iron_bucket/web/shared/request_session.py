"""One database session a request, closed whatever happens; and who is signed in, from which device."""

import secrets

from flask import Flask, current_app, g, redirect, request, session, url_for
from flask.typing import ResponseReturnValue
from flask_login import LoginManager, UserMixin, current_user, login_user
from itsdangerous import BadSignature, URLSafeSerializer
from sqlalchemy.orm import Session, sessionmaker
from werkzeug.wrappers import Response

from iron_bucket.desk import people
from iron_bucket.desk.people.signing_in import Device, SignInRules, signed_in_person
from iron_bucket.web.shared.reply import is_by_script

#: A cookie of a device from which somebody got in; it lasts longer than any sign-in.
_KNOWN, _KNOWN_FOR_S = "known", 365 * 86_400


class SignedIn(UserMixin):  # type: ignore[misc]
    """A person as Flask-Login wants them."""

    def __init__(self, person: people.Person, token: str) -> None:
        self.person, self.token = person, token

    def get_id(self) -> str:
        """What the signed cookie holds: the token of this sign-in, never the person's number."""
        return self.token


def attach(app: Flask, sessions: "sessionmaker[Session]") -> None:
    """Open and close sessions, and load who is signed in."""
    login = LoginManager(app)

    @app.before_request
    def open_session() -> None:
        g.session = sessions()
        g.role = g.crew = None  # what the guard finds them to be

    @app.teardown_request
    def close_session(error: BaseException | None) -> None:
        session = g.pop("session", None)
        if session is not None:
            session.close()

    def load(token: str) -> SignedIn | None:
        person = signed_in_person(g.session, token, rules())
        return SignedIn(person, token) if person else None

    login.user_loader(load)

    def to_sign_in() -> ResponseReturnValue:
        """A page goes to the sign-in and comes back; a part of one lets the page ask for it in its place."""
        if is_by_script():
            return "You were signed out.", 401
        return redirect(url_for("account.sign_in", next=request.full_path.rstrip("?")))

    login.unauthorized_handler(to_sign_in)


def person_id() -> int:
    """The number of who is signed in; only behind the guard."""
    return int(current_user.person.person_id)


def sign_in_token() -> str:
    """Of this device."""
    return str(current_user.token)


def rules() -> SignInRules:
    """As they are set."""
    found: SignInRules = current_app.extensions["sign_in_rules"]
    return found


def let_in(signed_in: people.SignedIn) -> None:
    """Nothing of the session before stays, not even its token against forged forms."""
    session.clear()
    session.permanent = True
    login_user(SignedIn(signed_in.person, signed_in.token))


def device(name: str = "") -> Device:
    """From where this is asked; ``name``: the account that is tried."""
    browser = request.user_agent.string or ""
    return Device(address=request.remote_addr or "", name=_short(browser), known=_known(name))


def remember_device(answer: Response, name: str) -> None:
    """From now on this device is known for that account."""
    if not _known(name):
        answer.set_cookie(
            _KNOWN,
            _signer().dumps([name.strip().lower(), secrets.token_urlsafe(12)]),
            max_age=_KNOWN_FOR_S,
            samesite="Lax",
            httponly=True,
            secure=current_app.config["SESSION_COOKIE_SECURE"],
        )


def _known(name: str) -> str:
    try:
        account, mark = _signer().loads(request.cookies.get(_KNOWN, ""))
    except (BadSignature, ValueError, TypeError):
        return ""
    return f"{account} {mark}" if account == name.strip().lower() else ""


def _signer() -> URLSafeSerializer:
    return URLSafeSerializer(str(current_app.secret_key), salt="known device")


def _short(browser: str) -> str:
    """What kind of machine it is, as far as its browser says."""
    kinds = ("iPhone", "iPad", "Android", "Windows", "Macintosh", "CrOS", "Linux")
    names = {"iPhone": "a phone", "Android": "a phone or tablet", "iPad": "a tablet"}
    kind = next((each for each in kinds if each in browser), "")
    return names.get(kind, "a computer") if kind else "a program"
