"""Who may do what on a job, with a place, with a crew's gear: one table."""

from enum import StrEnum


class Role(StrEnum):
    """What somebody is on a job or in a crew."""

    GAFFER = "gaffer"
    BEST_BOY = "best boy"
    TECHNICIAN = "technician"
    VIEWER = "view only"


class Act(StrEnum):
    """What is done: looked at; done on the day (ticked, read off a meter, photographed, told as shot); planned;
    settled: who belongs here, what is put away.
    """

    LOOK = "look"
    WORK = "work"
    PLAN = "plan"
    SETTLE = "settle"


#: Of every role, what it may.
MAY = {
    Role.GAFFER: frozenset(Act),
    Role.BEST_BOY: frozenset({Act.LOOK, Act.WORK, Act.PLAN}),
    Role.TECHNICIAN: frozenset({Act.LOOK, Act.WORK}),
    Role.VIEWER: frozenset({Act.LOOK}),
}
_WORDS = {
    Act.LOOK: "looking",
    Act.WORK: "ticking, readings, photos and what was shot",
    Act.PLAN: "changing the plan, the kit, places and gear",
    Act.SETTLE: "settling who belongs here and what is put away",
}


def may(role: Role, act: Act) -> bool:
    """Whether a role may do it."""
    return act in MAY[role]


def refusal(role: Role, act: Act) -> str:
    """Why not, and who may."""
    able = " or ".join(each.value for each in Role if may(each, act))
    return f"here you are {role.value}; {_WORDS[act]} is for the {able}"
