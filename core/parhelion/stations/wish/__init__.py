"""From what is wished to the boat that does it."""
