"""What a scene refuses."""

from tests.tables import refusals

test_what_is_refused = refusals(__file__)
