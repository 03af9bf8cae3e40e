"""Log: what the meters said, what it means, and what was learned."""
