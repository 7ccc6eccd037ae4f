"""The kit of a job from nothing but its values: what a file holds, without anything at hand from before."""

from collections.abc import Mapping, Sequence

from iron_bucket.core.bench.gear import Gear
from iron_bucket.core.bucket.bucket_plan import BucketPlan
from iron_bucket.core.bucket.entry import Entry
from iron_bucket.core.bucket.job_kit import JobKit, job_kit
from iron_bucket.core.bucket.kit_pass import kit_passes
from iron_bucket.core.bucket.lead_kit import lead_kit
from iron_bucket.core.bucket.pass_kit import pass_kit
from iron_bucket.core.jobs.house_rules import HouseRules
from iron_bucket.core.places.surroundings import Surroundings
from iron_bucket.core.power.job.kit import JobPower
from iron_bucket.core.power.job.outlets import fed_place
from iron_bucket.core.power.job.shooting_day import JobPass


def whole_kit(
    passes: Sequence[JobPass],
    places: Mapping[int, Surroundings],
    by_hand: Sequence[Entry],
    power: JobPower,
    plan: BucketPlan,
    gear: Gear,
    rules: HouseRules,
) -> JobKit:
    """``places`` by the numbers that passes and power speak of them by, without the job's outlets."""
    fed = {
        number: around.fed_by(fed_place(around.place, number, power).place) if power.sources else around
        for number, around in places.items()
    }
    kits = {
        each.setup_id: (
            pass_kit(each.setup, gear, rules, fed[each.place_id]),
            lead_kit(each.setup, each.setup_id, each.place_id, fed[each.place_id], power, gear, rules),
        )
        for each in passes
    }
    return job_kit(kit_passes(passes, kits, power, plan.pairs), by_hand, power, gear, rules, (), plan.borrowed)
