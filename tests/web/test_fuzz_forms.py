"""Every form, sent anything: an answer or a sentence, never a fault of ours; and every page opens afterwards."""

import pytest
from hypothesis import HealthCheck, given, settings

from tests.hostile import PAGES, forms_on, hostile_address, hostile_form


@pytest.fixture
def forms(gaffer):
    return [form for page in PAGES[::2] for form in forms_on(gaffer.get(page).text or "<p>", page)]


def sent(browser, form, address: str, fields: dict[str, str]) -> int:
    clean = {name: value.encode("utf-8", "surrogatepass").decode("utf-8", "replace") for name, value in fields.items()}
    if form.is_post:
        return browser.client.post(address, data=clean | {"csrf_token": browser.token}).status_code
    return browser.client.get(address, query_string=clean).status_code


def test_anything_sent_to_any_form_is_answered(gaffer, forms):
    gaffer.get("/")
    assert len(forms) > 100

    @settings(max_examples=50, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True, database=None)
    @given(hostile_form(forms).flatmap(lambda found: hostile_address(found[0].address).map(lambda at: (*found, at))))
    def anything(found) -> None:
        form, fields, address = found
        status = sent(gaffer, form, address, fields)
        assert status < 500, (address, fields)
        assert status != 401

    anything()
    assert {gaffer.get(page).status_code for page in PAGES[1::2]} <= {200, 302, 404}
