"""Forms of a page as a browser would send them."""

import lxml.html


def sent_by(page: str, mark: str) -> dict[str, str]:
    """The fields of the form in which an element with the id ``mark`` stands, or whose ids begin with it."""
    tree = lxml.html.fromstring(page)
    found = tree.xpath("//form[@id=$mark or .//*[starts-with(@id, $mark)]]", mark=mark)
    return dict(found[0].form_values())
