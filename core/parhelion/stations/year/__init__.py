"""The Year station."""
