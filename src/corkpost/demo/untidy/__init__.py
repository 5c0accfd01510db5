"""Labelled books as small businesses' evidence really is: in parts that share nothing."""
