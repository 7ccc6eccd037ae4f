"""Why a line stands on the kit list."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Why:
    """``setup``: the pass, empty for the whole job; ``rule``: its id; ``figure``: the figure that it fired by."""

    setup: str
    rule: str
    figure: str
