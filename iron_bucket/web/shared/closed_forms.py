"""Forms that whoever asks may not send: what stands in them is shown, and nothing is offered.

The one table of rights decides, by the address that a form goes to, so that no template has to know who may do what.
"""

import re

from flask import Flask, g, request
from werkzeug.exceptions import HTTPException
from werkzeug.routing import MapAdapter
from werkzeug.wrappers import Response

from iron_bucket.core.jobs.roles import Act, Role, may
from iron_bucket.web.shared.rights import JOB_IN_FORM, Subject, rule_of

_FORM = re.compile(r'(<form\b[^>]*\bmethod="post"[^>]*>)(.*?)</form>', re.DOTALL)
_ACTION = re.compile(r'\baction="([^"?]*)')
#: What a page is about, and of which forms its role decides: a crew's pages show that crew's places.
_DECIDES = {Subject.JOB: (Subject.JOB,), Subject.PLACE: (Subject.PLACE,), Subject.CREW: (Subject.CREW, Subject.PLACE)}


def attach(app: Flask) -> None:
    """Look through every page of who may not do everything there."""

    @app.after_request
    def close(answer: Response) -> Response:
        role = g.get("role")
        if role is None or all(may(role, act) for act in Act) or answer.mimetype != "text/html" or not request.url_rule:
            return answer
        here = rule_of(request.endpoint or "", "GET", frozenset(request.url_rule.arguments))
        at = app.create_url_adapter(request)
        if at is not None and here is not None and here.subject in _DECIDES:
            about = _DECIDES[here.subject]
            answer.set_data(_FORM.sub(lambda form: _shown(form, role, about, at), answer.get_data(as_text=True)))
        return answer


def _shown(form: re.Match[str], role: Role, about: tuple[Subject, ...], at: MapAdapter) -> str:
    action = _ACTION.search(form[1])
    if not _is_closed(action[1] if action else request.path, role, about, at):
        return form[0]
    return f'{form[1]}<fieldset class="closed" disabled>{form[2]}</fieldset></form>'


def _is_closed(address: str, role: Role, about: tuple[Subject, ...], at: MapAdapter) -> bool:
    """Of what the page is about, and not for this role. One that is about something else is left to its own guard."""
    try:
        rule, _ = at.match(address, method="POST", return_rule=True)
    except HTTPException:
        return False
    asked = rule_of(rule.endpoint, "POST", frozenset(rule.arguments))
    if asked is None or asked.subject not in about or rule.endpoint in JOB_IN_FORM:
        return False
    return not may(role, asked.act)
