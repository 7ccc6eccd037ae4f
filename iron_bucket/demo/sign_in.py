"""Who signs in to the demo: printed at its start and offered on its page."""

DEMO_SIGN_IN, DEMO_PASSWORD, DEMO_NAME = "gaffer", "lamps-and-stands", "Demo gaffer"
DEMO_CREW = "The small-hours crew"
