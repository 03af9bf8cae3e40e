"""Plain Python and numpy twins of the compiled kernels, written from the methods, not from the kernels."""
