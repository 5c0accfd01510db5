"""What speaks for what, each a number between 0 and 1: who is meant, which paper, what account."""
