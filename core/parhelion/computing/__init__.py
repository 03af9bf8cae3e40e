"""How work is compiled, kept, shared out and followed."""
