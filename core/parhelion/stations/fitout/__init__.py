"""Between the plan and the first cruise: what to buy, in which order to connect, and whether it is right."""
