"""Counts for whoever watches the machine, each a query of one figure."""

SINGLE = {
    "clients": ("Clients", "SELECT COUNT(*) FROM clients"),
    "changes": ("Posted changes of all clients", "SELECT COUNT(*) FROM changes"),
    "staff": ("People who work here", "SELECT COUNT(*) FROM staff WHERE left_on IS NULL"),
    "sessions": (
        "Sessions that go on",
        "SELECT COUNT(*) FROM sessions WHERE ended_at IS NULL AND seen > :now - 1800",
    ),
    "jobs_waiting": ("Jobs that wait", "SELECT COUNT(*) FROM jobs WHERE state = 'queued'"),
    "jobs_failed": ("Jobs that failed", "SELECT COUNT(*) FROM jobs WHERE state = 'failed'"),
    "failed_tries": ("Tries at the door that failed", "SELECT SUM(failed) FROM tries"),
    "record_rows": ("Rows on record", "SELECT COALESCE(MAX(number), 0) FROM record"),
}
