"""A one-time link by mail, where the installation can send any."""

import re
from urllib.parse import urlsplit

from iron_bucket.devices.mail import SmtpPost
from tests.devices.test_mail import letters, post_office


def added(gaffer, sign_in: str) -> str:
    return gaffer.post("/people", {"name": "Spark Ode", "sign_in": sign_in, "role": "technician", "crew": ""}).text


def test_a_link_goes_by_mail_and_sets_a_password(app, gaffer, tmp_path, monkeypatch):
    gaffer.get("/people")
    assert "mail the link" not in added(gaffer, "by hand")  # none is set up here
    assert (
        "give the code or the link by hand" in gaffer.post("/people/mail", {"code": "x", "address": "o@c.example"}).text
    )
    with post_office(tmp_path) as url:
        monkeypatch.setitem(app.extensions, "post", SmtpPost(url=url, sender="lamps@crew.example"))
        code = re.search(r"/welcome/([A-Z0-9-]{24})", added(gaffer, "ode"))[1]
        for bad, status in (
            ("ode at crew", 422),
            ("o@crew.example, all@crew.example", 422),
            ("o@nowhere.example", 502),
        ):
            refused = gaffer.post("/people/mail", {"code": code, "address": bad})
            assert (refused.status_code, code in refused.text, bad in refused.text) == (status, True, True)
        assert not letters(tmp_path)
        sent = gaffer.post("/people/mail", {"code": code, "address": " ode@crew.example "})
        assert "took the link for <b>ode@crew.example</b>" in sent.text
        [letter] = letters(tmp_path)
        link = re.search(r"\S+/welcome/\S+", letter.get_content())[0]
        told = gaffer.get("/people/trail").text
        assert "mailed a one-time link for Spark Ode (ode) to ode@crew.example" in told
        assert not [each for each in (code, "nowhere") if each in told]
        gaffer.post("/sign-out")
        assert f'value="{code}"' in gaffer.get(urlsplit(link).path).text
        words = "seven quiet clocks tick"
        assert gaffer.post("/welcome", {"code": code, "password": words, "again": words}).status_code == 303
        gaffer.sign_in()
        gaffer.get("/people")
        assert gaffer.post("/people/mail", {"code": code, "address": "ode@crew.example"}).status_code == 403
    assert len(letters(tmp_path)) == 1
