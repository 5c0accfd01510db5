"""Listings as clients and their bookkeepers send them: ledgers, trial balances, open items, charts, in any
columns and any of the usual layouts. What they are is found by what proves itself, and asked where it
does not."""
