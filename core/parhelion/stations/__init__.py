"""The stations of the work, each with its picture, its findings and what is computed for it alone."""
