"""The Day station."""
