import pytest

from tests.core.bounds import bounds_beside, check


@pytest.mark.parametrize(("make", "given", "field", "accepted", "refused"), list(bounds_beside(__file__)))
def test_where_figures_end_and_what_is_usual(make, given, field, accepted, refused):
    check(make, given, field, accepted, refused)
