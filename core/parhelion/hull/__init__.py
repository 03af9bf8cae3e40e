"""What the boat needs to move: watts at each speed."""
