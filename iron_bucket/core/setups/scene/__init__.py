"""A set-up in its place as a scene: fixtures as sources, people, frames and flags as surfaces. No levels yet."""
