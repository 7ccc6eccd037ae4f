"""A packed bench cut down to what one key names."""

from dataclasses import fields

import numpy as np

from iron_bucket.core.selection.packing import PackedBench


def narrowed(bench: PackedBench, key: str) -> PackedBench:
    """Only the configuration, front and sheet set of a key; empty along the part that is not there."""
    configuration, front, sheets = [*key.split("~"), "", ""][:3]
    rows = np.array([index for index, each in enumerate(bench.configurations) if each.slug == configuration], dtype=int)
    fronts = np.array([index for index, each in enumerate(bench.fronts) if each.key == front], dtype=int)
    sets = np.array([index for index, each in enumerate(bench.sheet_sets) if each.key == sheets], dtype=int)
    cut: dict[str, object] = {}
    for each in fields(PackedBench):
        value = getattr(bench, each.name)
        if each.name in ("mounts", "wears"):
            cut[each.name] = value[np.ix_(rows, fronts if each.name == "mounts" else sets)]
            continue
        if each.name == "measured":
            cut[each.name] = value
            continue
        index = fronts if each.name.startswith("front") else sets if each.name.startswith("sheet") else rows
        if isinstance(value, tuple):
            cut[each.name] = tuple(value[place] for place in index)
        else:  # figures by class of head have the front or sheet set last; candela has the configuration first
            cut[each.name] = value[index] if index is rows else value[..., index]
    return PackedBench(**cut)  # type: ignore[arg-type]
