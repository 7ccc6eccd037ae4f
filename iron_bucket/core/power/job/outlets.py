"""Outlets of what a job brings to a place, as circuits and sockets beside the house's own."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from iron_bucket.core.places.place import HouseCircuit, Place, Socket
from iron_bucket.core.power.job.kit import Board, BoardKind, Generator, JobPower, Phases

#: What the sockets of brought sources begin with: no socket of a place is called so.
BROUGHT = "brought."


@dataclass(frozen=True, slots=True, kw_only=True)
class SourceLegs:
    """A brought source and its circuits by their names, leg by leg."""

    source: Generator | Board
    circuits: tuple[str, ...]

    @property
    def name(self) -> str:
        """Without its legs."""
        return self.circuits[0].removesuffix(f", leg {self.phases.legs[0]}")

    @property
    def phases(self) -> Phases:
        """How its legs stand to each other."""
        return self.source.phases

    @property
    def needs_electrician(self) -> bool:
        """Whether it is more than plugging in."""
        return isinstance(self.source, Board) and self.source.kind is not BoardKind.VEHICLE


def _circuit_name(name: str, leg: str, phases: Phases) -> str:
    return name if phases is Phases.ONE else f"{name}, leg {leg}"


def outlet_id(source: Generator | Board, leg: str) -> str:
    """What a lamp names as its feed."""
    return f"{BROUGHT}{source.piece_id}" + ("" if source.phases is Phases.ONE else f".{leg}")


@dataclass(frozen=True, slots=True, kw_only=True)
class FedPlace:
    """``place`` with the outlets of what the job brings beside its own; ``legs`` of each brought source."""

    place: Place
    legs: tuple[SourceLegs, ...] = ()


def fed_place(place: Place, place_id: int, power: JobPower) -> FedPlace:
    """Raises: BadValue where there are more circuits than a place can have."""
    legs = tuple(_legs(place, place_id, power))
    if not legs:
        return FedPlace(place=place)
    circuits, sockets = list(place.circuits), list(place.sockets)
    for each in legs:
        for leg, name in zip(each.phases.legs, each.circuits, strict=True):
            circuits.append(_circuit(each.source, name))
            sockets.append(_socket(each.source, leg, name))
    return FedPlace(place=replace(place, circuits=tuple(circuits), sockets=tuple(sockets)), legs=legs)


def _legs(place: Place, place_id: int, power: JobPower) -> Iterator[SourceLegs]:
    """Names that the house's circuits bear already are told apart."""
    taken = {each.name for each in place.circuits}
    for source in power.sources:
        if source.place_id != place_id:
            continue
        name, legs = source.name, source.phases.legs
        while any(_circuit_name(name, leg, source.phases) in taken for leg in legs):
            name += ", ours"
        names = tuple(_circuit_name(name, leg, source.phases) for leg in legs)
        taken.update(names)
        yield SourceLegs(source=source, circuits=names)


def _socket(source: Generator | Board, leg: str, circuit: str) -> Socket:
    return Socket(
        socket_id=outlet_id(source, leg),
        name=source.name,
        x_m=source.x_m,
        y_m=source.y_m,
        circuit=circuit,
        outlet=source.outlet,
    )


def _circuit(source: Generator | Board, name: str) -> HouseCircuit:
    """A generator's rated amps are its breaker."""
    if isinstance(source, Generator):
        return HouseCircuit(name=name, voltage_v=source.voltage_v, breaker_a=source.rated_a)
    return HouseCircuit(
        name=name,
        voltage_v=source.voltage_v,
        breaker_a=source.breaker_a,
        used_a=source.used_a,
        curve=source.curve,
        rcd_ma=source.rcd_ma,
    )
