"""What every station registers."""
