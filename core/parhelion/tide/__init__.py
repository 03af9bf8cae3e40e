"""Tides: heights and high waters from the harmonic constants of a station. Not for navigation."""
