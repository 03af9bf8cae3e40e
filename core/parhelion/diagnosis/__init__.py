"""What a reading means: what it should be, which causes fit it, and what tells two of them apart."""
