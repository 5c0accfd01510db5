"""Days as people write them. Amounts are written by their currency (`Currency.format_amount`)."""

from datetime import date


def format_date(day: date) -> str:
    """A day as people say it: 5 April 2026."""
    return f"{day.day} {day:%B %Y}"
