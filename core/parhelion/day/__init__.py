"""The balance of a day: harvest against house and motor, step by step."""
