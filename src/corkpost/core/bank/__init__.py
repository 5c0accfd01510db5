"""The bank: what the books and the statements say of one account, and tying them (section 5)."""
