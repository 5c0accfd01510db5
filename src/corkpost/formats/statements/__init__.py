"""Bank statement files to values. What a file is shows in its content, never in its name."""
