"""Generators of a job: what they bear and burn in a day, and how loud they are where it is listened."""

from dataclasses import dataclass

import numpy as np

from iron_bucket.core.arrays import Array
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.generator_day import GeneratorDay, generator_day, loudness_dba
from iron_bucket.core.power.job.kit import Generator
from iron_bucket.core.power.job.shooting_day import JobPass
from iron_bucket.desk.power.view import PowerView


@dataclass(frozen=True, kw_only=True, eq=False)
class GeneratorView:
    """One generator in its place: ``days``, and its level in dB(A) at the loudest of ``heard_at_m``; None where nobody
    measured it. Shape of heard_at_m (H, 2).
    """

    generator: Generator
    surroundings: Surroundings
    days: tuple[tuple[str, GeneratorDay], ...]
    heard_at_m: Array
    level_dba: float | None
    passes: tuple[JobPass, ...]

    @property
    def limit_dba(self) -> float | None:
        """Of the place."""
        return self.surroundings.place.most_noise_db


def heard_at(each: JobPass) -> Array:
    """Where a microphone listens: over everybody in the picture, at the camera where nobody is. Shape (H, 2)."""
    people = [(person.x_m, person.y_m) for person in (*each.setup.people, *each.setup.positions)]
    camera = each.setup.camera
    return np.array(people or [(camera.x_m, camera.y_m)])


def loudest_dba(view: PowerView, each: JobPass) -> dict[str, float]:
    """Of every generator in the place of a pass, at the loudest microphone, by its id."""
    around = view.surroundings(each)
    return {
        generator.piece_id: float(
            loudness_dba(generator, np.array([[generator.x_m, generator.y_m]]), heard_at(each), around).max()
        )
        for generator in view.power.generators
        if generator.place_id == each.place_id and generator.noise_dba is not None
    }


def generators_of(view: PowerView) -> tuple[GeneratorView, ...]:
    """All of the job that stand in a place of its passes."""
    return tuple(
        _of_one(view, generator)
        for generator in view.power.generators
        if any(each.place_id == generator.place_id for each in view.passes)
    )


def _of_one(view: PowerView, generator: Generator) -> GeneratorView:
    here = tuple(each for each in view.passes if each.place_id == generator.place_id)
    around, heard = view.surroundings(here[0]), np.concatenate([heard_at(each) for each in here])
    spot = np.array([[generator.x_m, generator.y_m]])
    level = None
    if generator.noise_dba is not None:
        level = float(loudness_dba(generator, spot, heard, around).max())
    days = ((f"{day.day:%a %d %b}", generator_day(generator, day, view.boards)) for day in view.days)
    return GeneratorView(
        generator=generator,
        surroundings=around,
        days=tuple((name, each) for name, each in days if each.runs_h > 0.0),
        heard_at_m=heard,
        level_dba=level,
        passes=here,
    )
