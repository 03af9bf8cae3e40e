"""The passage: there and back, when to leave, how fast on each leg, when to turn back."""
