"""The Strings station."""
