"""Physics and definitions that nobody chooses. Craft defaults live in data, not here."""

#: Exact; international yard and pound agreement, 1959.
METRES_PER_FOOT = 0.3048
INCHES_PER_FOOT = 12
FEET_PER_MILE = 5280
#: One lumen per square foot; derived, so that the two cannot disagree.
LUX_PER_FOOTCANDLE = METRES_PER_FOOT**-2
#: Exact; international pound, 1959.
KILOGRAMS_PER_POUND = 0.45359237
#: Reflectance of the middle grey card that a meter is calibrated to stand for.
MIDDLE_GREY = 0.18
#: ISO 2720:1974, table of constants; values inside its range that meters use.
METER_CONSTANT_FLAT = 250.0
METER_CONSTANT_DOME = 340.0
#: Annealed copper at 20 C, IACS 1913, in ohm metres.
COPPER_OHM_M = 1.724e-8
#: Standard gravity (CGPM 1901) and sea-level air (ISO 2533).
GRAVITY_M_S2 = 9.80665
AIR_KG_M3 = 1.225
