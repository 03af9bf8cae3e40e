"""The Array station."""
