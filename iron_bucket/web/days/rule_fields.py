"""What the forms of a day and of its rules ask."""

from iron_bucket.web.shared.typed_fields import Takes, field

DAY_FIELDS = (
    field("call", "Call", Takes.TEXT, hint="usual", may_be_empty=True),
    field("wrap", "Overtime from", Takes.TEXT, hint="10 h later", may_be_empty=True),
    field("curfew", "Nothing after", Takes.TEXT, hint="no curfew", may_be_empty=True),
    field("sound", "Sound from-to", Takes.TEXT, hint="all day", may_be_empty=True),
)
RULE_FIELDS = (
    field("move_min", "Company move", unit="min"),
    field("turn_round_min", "Turn-round", unit="min"),
    field("break_min", "Break", unit="min"),
    field("break_after_min", "before", unit="min of work"),
    field("turn_deg", "The sun may turn", unit="°"),
    field("overtime", "A minute of overtime counts"),
    field("missed", "of light missed"),
    field("waited", "waited"),
    field("late", "late for what is fixed"),
    field("move", "A company move"),
    field("piece", "A piece carried"),
)
