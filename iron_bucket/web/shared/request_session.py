"""One database session a request, closed whatever happens; and who is signed in."""

from flask import Flask, g, redirect, request, url_for
from flask.typing import ResponseReturnValue
from flask_login import LoginManager, UserMixin, current_user
from sqlalchemy.orm import Session, sessionmaker

from iron_bucket.desk import people
from iron_bucket.web.shared.numbers import whole_number
from iron_bucket.web.shared.reply import is_by_script


class SignedIn(UserMixin):  # type: ignore[misc]
    """A person as Flask-Login wants them."""

    def __init__(self, person: people.Person) -> None:
        self.person = person

    def get_id(self) -> str:
        """What the signed cookie holds."""
        return str(self.person.person_id)


def attach(app: Flask, sessions: "sessionmaker[Session]") -> None:
    """Open and close sessions, and load who is signed in."""
    login = LoginManager(app)

    @app.before_request
    def open_session() -> None:
        g.session = sessions()

    @app.teardown_request
    def close_session(error: BaseException | None) -> None:
        session = g.pop("session", None)
        if session is not None:
            session.close()

    def load(person_id: str) -> SignedIn | None:
        number = whole_number(person_id)
        person = people.person_of(g.session, number) if number is not None else None
        return SignedIn(person) if person else None

    login.user_loader(load)

    def to_sign_in() -> ResponseReturnValue:
        """A page goes to the sign-in and comes back; a part of one lets the page ask for it in its place."""
        if is_by_script():
            return "You were signed out.", 401
        return redirect(url_for("account.sign_in", next=request.full_path.rstrip("?")))

    login.unauthorized_handler(to_sign_in)


def person_id() -> int:
    """The number of who is signed in; only behind ``login_required``."""
    return int(current_user.person.person_id)
