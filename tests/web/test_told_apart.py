"""Names that are alike, told apart."""

from iron_bucket.web.shared.told_apart import told_apart
from iron_bucket.web.shared.typed_fields import Takes, field


def test_only_names_that_are_alike_get_numbers():
    names = ["Socket", "Lamp", "Socket", "Socket"]
    assert told_apart(names) == ["Socket (1)", "Lamp", "Socket (2)", "Socket (3)"]
    asked = field("feed", "Fed from", Takes.CHOICE, [("a", "Socket"), ("b", "Socket"), "Lamp"])
    assert asked.choices == (("a", "Socket (1)"), ("b", "Socket (2)"), ("Lamp", "Lamp"))
