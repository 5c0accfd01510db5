-- A window of dates in which one person may post where others may not; the latest of a person counts.

CREATE TABLE posting_windows (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  number    INTEGER NOT NULL,
  staff     TEXT    NOT NULL REFERENCES staff (code),
  first_day TEXT    NOT NULL,
  last_day  TEXT    NOT NULL CHECK (last_day >= first_day),
  until     TEXT    NOT NULL,   -- the last day on which it may be used
  reason    TEXT    NOT NULL CHECK (trim(reason) <> ''),
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER posting_windows_are_never_updated BEFORE UPDATE ON posting_windows
BEGIN SELECT RAISE(ABORT, 'A window is on the record for good.'); END;
CREATE TRIGGER posting_windows_are_never_deleted BEFORE DELETE ON posting_windows
BEGIN SELECT RAISE(ABORT, 'A window is on the record for good.'); END;
