"""Stand-ins for the world outside, small and local: a bank that issues statement files."""
