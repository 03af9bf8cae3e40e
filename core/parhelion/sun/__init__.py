"""What the sky gives: the sun's place, clear-sky light, sky words."""
