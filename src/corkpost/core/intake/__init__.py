"""Books made of what was read of clients' listings: entries, accounts, kinds, what settles what."""
