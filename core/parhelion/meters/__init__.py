"""Meters: what they say, how two of them compare, and a boat played through a day so that they have "
"something to say."""
