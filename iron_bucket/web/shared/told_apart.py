"""Names in a list, told apart where several are the same."""

from collections import Counter
from collections.abc import Iterable


def told_apart(names: Iterable[str]) -> list[str]:
    """The same names; of several that are alike each has its number."""
    names = list(names)
    alike, seen = Counter(names), Counter[str]()
    found = []
    for name in names:
        seen[name] += 1
        found.append(f"{name} ({seen[name]})" if alike[name] > 1 else name)
    return found
