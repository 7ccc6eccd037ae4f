"""Cautions: a figure that triggers, and what to do. Local rules and licensed practice come first, always."""
