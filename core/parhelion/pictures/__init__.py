"""What each station's picture shows, as numbers ready to draw."""
