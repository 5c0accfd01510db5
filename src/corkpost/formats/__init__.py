"""Bytes to core values and back. No SQL here."""
