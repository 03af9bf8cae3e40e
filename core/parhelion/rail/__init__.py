"""The answer rail: how fast and how far, and what holds the boat back."""
