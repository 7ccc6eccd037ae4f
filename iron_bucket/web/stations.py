"""The stations in working order: the one list that the application registers and the rail shows."""

from dataclasses import dataclass

from flask import Blueprint

from iron_bucket.web import account, bench, bucket, crews, days, jobs, people, pick, places, power, seen, setups
from iron_bucket.web.shared.blueprint import bp as shared


@dataclass(frozen=True, slots=True, kw_only=True)
class Stop:
    """A stop on the rail. ``in_job``: its endpoint within a job, ``anywhere``: without one; empty for none."""

    name: str
    label: str
    key: str
    mark: str
    in_job: str = ""
    anywhere: str = ""
    is_beside: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Station:
    """A blueprint and its stops; a part of the house that is no station has none."""

    blueprint: Blueprint
    stops: tuple[Stop, ...] = ()


STATIONS = (
    Station(blueprint=shared),
    Station(blueprint=seen.bp),
    Station(blueprint=account.bp),
    Station(blueprint=crews.bp),
    Station(blueprint=people.bp),
    Station(blueprint=jobs.bp, stops=(Stop(name="jobs", label="Jobs", key="j", mark="square", anywhere="jobs.index"),)),
    Station(
        blueprint=places.bp,
        stops=(Stop(name="places", label="Places", key="l", mark="square", anywhere="places.index"),),
    ),
    Station(
        blueprint=setups.bp,
        stops=(
            Stop(name="look", label="Look", key="o", mark="ladder-mark", in_job="setups.look"),
            Stop(name="setups", label="Set-ups", key="t", mark="beam", in_job="setups.index"),
        ),
    ),
    Station(blueprint=days.bp, stops=(Stop(name="days", label="Days", key="q", mark="strip-mark", in_job="days.day"),)),
    Station(
        blueprint=power.bp, stops=(Stop(name="power", label="Power", key="r", mark="notches", in_job="power.board"),)
    ),
    Station(
        blueprint=pick.bp,
        stops=(Stop(name="pick", label="Pick", key="p", mark="round", in_job="pick.in_job", anywhere="pick.anywhere"),),
    ),
    Station(
        blueprint=bucket.bp,
        stops=(Stop(name="bucket", label="Bucket", key="u", mark="round", in_job="bucket.contents"),),
    ),
    Station(blueprint=bucket.open_bp),
    Station(
        blueprint=bench.bp,
        stops=(Stop(name="bench", label="Bench", key="e", mark="square", anywhere="bench.index", is_beside=True),),
    ),
)
