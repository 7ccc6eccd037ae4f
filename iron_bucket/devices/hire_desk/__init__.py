"""A hire house's desk: day and week prices, stock by date, lead time.

The protocol is HTTP with JSON, described in ``openapi.json``.
"""

from iron_bucket.devices.hire_desk.client import HttpHireDesk
from iron_bucket.devices.hire_desk.protocol import HireDesk, HireDeskTrouble, Offer

__all__ = ["HireDesk", "HireDeskTrouble", "HttpHireDesk", "Offer"]
