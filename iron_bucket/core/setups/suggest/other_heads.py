"""Other heads that give the light of a placed lamp with the same things on them."""

from collections.abc import Iterator
from dataclasses import dataclass

from iron_bucket.core.bench.configuration import Configuration
from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bench.head import Head
from iron_bucket.core.photometry.distribution import straight_cd
from iron_bucket.core.setups.scene.fixture import Fixture


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherHead:
    """``level``: at which it gives as much."""

    head: Head
    configuration: Configuration
    level: float

    @property
    def watts(self) -> float:
        """What it draws then."""
        return float(self.head.draw.watts(self.level))


def other_heads(fixture: Fixture, level: float, gear: Gear) -> Iterator[OtherHead]:
    """Heads that take the same box, or have the same kind of optic, and can be dimmed to the light that this one gives
    at a level: by lumens into a box, else by candela on the axis.
    """
    for each in gear.configurations:
        head = gear.head(each.head_slug)
        if head.slug == fixture.head.slug or each.is_retired or head.is_retired:
            continue
        if fixture.face:
            if not (each.takes_box and head.fitting == fixture.face.fitting):
                continue
            grows = each.lumens / fixture.configuration.lumens
        elif each.name == fixture.configuration.name:
            grows = straight_cd(each.distribution) / straight_cd(fixture.configuration.distribution)
        else:
            continue
        if head.lowest_level <= level / grows <= 1.0:
            yield OtherHead(head=head, configuration=each, level=level / grows)
