"""Where panels stand, what shades them and what they give."""
