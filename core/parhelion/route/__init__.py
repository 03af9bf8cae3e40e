"""A way over the water: courses, streams, speeds and what they cost, from a start to an end."""
