"""What parts weigh and cost."""
