"""Sun, moon, sky and polarizer: where the light is, and how deep the sky goes."""
