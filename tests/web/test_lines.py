"""Names on a plan keep clear of each other."""

from iron_bucket.web.shared.pictures.lines import LINE_PX, Lines


def test_a_line_goes_where_nothing_stands():
    lines = Lines()
    assert lines.free(0.0, 50.0, 100.0) == 100.0
    assert lines.free(60.0, 50.0, 100.0) == 100.0  # beside it there is room
    assert lines.free(40.0, 50.0, 102.0) == 102.0 + LINE_PX
    crowded = Lines()
    assert len({crowded.free(0.0, 10.0, 0.0) for _ in range(6)}) == 6
    assert crowded.free(0.0, 10.0, 0.0) == 0.0  # no room is left
