"""From panels to bank: strings, volts, cables and what protects them."""
