"""A bench of one head, and what a pick on it answers."""

from iron_bucket.core.power.circuit import Circuit
from iron_bucket.core.selection.fit import fit_of
from iron_bucket.core.selection.need import BatteryFeed
from iron_bucket.core.selection.packing import pack
from iron_bucket.core.selection.pick import Candidate, pick
from tests.made_up import a_battery, a_gear, a_need

ONLY = Candidate(row=0, front=0, sheets=0)
SOCKET = Circuit(voltage_v=230.0, breaker_a=13.0)
FOUR = BatteryFeed(kind=a_battery(), count=4, burn_h=2.0)


def answer(need=None, **gear):
    return pick(pack(a_gear(**gear)), need or a_need())


def only_fit(need=None, **gear):
    picked = answer(need, **gear)
    assert len(picked.fits) == 1, picked.tally
    return fit_of(picked, picked.fits.candidate(0))
