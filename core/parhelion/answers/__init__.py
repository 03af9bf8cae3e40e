"""The headline answers: how fast and how far on the sun alone, and what holds the boat back."""
