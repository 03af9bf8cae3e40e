"""The Bank station."""
