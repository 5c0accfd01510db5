"""The standard audit file (OECD SAF-T 2.00): a client's year in one XML file, written and read."""
