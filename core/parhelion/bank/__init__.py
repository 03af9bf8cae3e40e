"""What the boat stores."""
