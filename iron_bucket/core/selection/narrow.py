"""A packed bench cut down to what some keys name."""

from dataclasses import fields

import numpy as np

from iron_bucket.core.selection.fronts import FrontKind
from iron_bucket.core.selection.packing import PackedBench


def with_fronts(bench: PackedBench, kinds: tuple[FrontKind, ...]) -> PackedBench:
    """Only fronts of those kinds: without the rest Pick is several times quicker."""
    fronts = np.array([at for at, front in enumerate(bench.fronts) if front.kind in kinds], dtype=int)
    return cut_to(bench, np.arange(len(bench.configurations)), fronts, np.arange(len(bench.sheet_sets)))


def key_places(bench: PackedBench, key: str) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Row, front and sheet set that a key names, each as an index array; empty along a part that is not there."""
    configuration, front, sheets = [*key.split("~"), "", ""][:3]
    rows = [index for index, each in enumerate(bench.configurations) if each.slug == configuration]
    fronts = [index for index, each in enumerate(bench.fronts) if each.key == front]
    sets = [index for index, each in enumerate(bench.sheet_sets) if each.key == sheets]
    return np.array(rows, dtype=int), np.array(fronts, dtype=int), np.array(sets, dtype=int)


def narrowed(bench: PackedBench, key: str) -> PackedBench:
    """Only the configuration, front and sheet set of a key; empty along the part that is not there."""
    return cut_to(bench, *key_places(bench, key))


def cut_to(bench: PackedBench, rows: np.ndarray, fronts: np.ndarray, sets: np.ndarray) -> PackedBench:
    """Some configurations, fronts and sheet sets, by index and in that order."""
    cut: dict[str, object] = {}
    for each in fields(PackedBench):
        value = getattr(bench, each.name)
        if each.name in ("mounts", "wears"):
            cut[each.name] = value[np.ix_(rows, fronts if each.name == "mounts" else sets)]
            continue
        if each.name in ("measured", "scatters"):
            cut[each.name] = value
            continue
        index = fronts if each.name.startswith("front") else sets if each.name.startswith("sheet") else rows
        if isinstance(value, tuple):
            cut[each.name] = tuple(value[place] for place in index)
        else:  # figures by class of head have the front or sheet set last; candela has the configuration first
            cut[each.name] = value[index] if index is rows else value[..., index]
    return PackedBench(**cut)  # type: ignore[arg-type]
