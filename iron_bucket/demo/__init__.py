"""The made-up scenario, as data files. Every maker, figure and place in it is invented."""
