"""Colour of light: tungsten on a dimmer, and how a lamp is seen against the camera's white balance."""
