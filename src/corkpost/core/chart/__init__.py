"""The chart of accounts: putting it right, what the program guesses, new accounts and parties."""
