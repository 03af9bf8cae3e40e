"""The Hull station."""
