"""A built set-up with what every light does at every mark."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.scene.fineness import SET
from iron_bucket.core.scene.mark_levels import BandedResponse, UnitResponse, banded_response, weighed
from iron_bucket.core.scene.standing import Standing
from iron_bucket.core.setups.scene.build_scene import BuiltScene, Side

#: What computes a built set-up; a caller that keeps responses at hand gives its own.
ResponseFor = Callable[[BuiltScene], BandedResponse]
#: Below this nothing is told from dark.
DARK_LX = 1e-6


def fresh_response(built: BuiltScene, standing: Standing | None = None) -> BandedResponse:
    """Everything, from nothing, or from what stands about."""
    return banded_response(built.scene, built.surroundings.grids, fineness=SET, standing=standing)


@dataclass(frozen=True, kw_only=True, eq=False)
class LitScene:
    """``banded``: the response band by band; everything here weighs it with the colours and levels of the lights."""

    built: BuiltScene
    banded: BandedResponse

    @cached_property
    def response(self) -> UnitResponse:
        """Of lights of these colours at full output."""
        return weighed(self.banded, self.built.band_shares)

    @property
    def by_light_lx(self) -> Array:
        """Lights by marks. Shape (L, M)."""
        return np.asarray(self.built.levels[:, None] * self.response.whole_lx)

    @property
    def total_lx(self) -> Array:
        """Shape (M,)."""
        return np.asarray(np.maximum(self.by_light_lx.sum(axis=0), 0.0))

    @property
    def off_walls_lx(self) -> Array:
        """What of it comes off the walls. Shape (M,)."""
        return np.asarray(self.built.levels @ self.response.indirect_lx)

    def key_and_shadow(self, person_id: str) -> tuple[str, str]:
        """The brighter cheek and the other, as sides."""
        total = self.total_lx
        left, right = (self.built.mark_index(f"{person_id}.{side}") for side in (Side.LEFT, Side.RIGHT))
        if left is None or right is None:
            raise KeyError(person_id)
        return (Side.LEFT, Side.RIGHT) if total[left] >= total[right] else (Side.RIGHT, Side.LEFT)

    def place_of(self, mark: str) -> int | None:
        """The column of a mark;

        ``anna.key`` and ``anna.shadow`` are the cheeks that are just that. None where nothing is called so.
        """
        person, _, side = mark.rpartition(".")
        if side in ("key", "shadow") and self.built.mark_index(f"{person}.{Side.LEFT}") is not None:
            key, shadow = self.key_and_shadow(person)
            return self.built.mark_index(f"{person}.{key if side == 'key' else shadow}")
        return self.built.mark_index(mark)


def lit(built: BuiltScene, response_for: ResponseFor = fresh_response) -> LitScene:
    """Evaluation."""
    return LitScene(built=built, banded=response_for(built))
