"""What the panels make of the light."""
