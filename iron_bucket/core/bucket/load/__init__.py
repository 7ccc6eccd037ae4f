"""The kit in cases, the cases in a vehicle and by the door: sizes, what goes where, in which order."""
