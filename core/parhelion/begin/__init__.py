"""From what an owner knows of a boat to a whole design, and the towns to find her waters by."""
