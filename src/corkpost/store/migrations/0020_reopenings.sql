-- A reopening ends by itself, and a seal can be reopened again after that: each is a row of its own.

CREATE TABLE seal_reopenings (
  client_id   INTEGER NOT NULL,
  seal_number INTEGER NOT NULL,
  number      INTEGER NOT NULL,
  reason      TEXT    NOT NULL CHECK (trim(reason) <> ''),
  until       TEXT,             -- the last day that it is open; none for those made before there was one
  made_by     TEXT    NOT NULL REFERENCES staff (code),
  made_at     TEXT    NOT NULL,
  PRIMARY KEY (client_id, seal_number, number),
  FOREIGN KEY (client_id, seal_number) REFERENCES seals (client_id, number)
) STRICT, WITHOUT ROWID;
INSERT INTO seal_reopenings (client_id, seal_number, number, reason, until, made_by, made_at)
SELECT client_id, seal_number, 1, reason, NULL, made_by, made_at FROM reopenings;
DROP TABLE reopenings;

CREATE TRIGGER seal_reopenings_are_never_updated BEFORE UPDATE ON seal_reopenings
BEGIN SELECT RAISE(ABORT, 'A reopening is on the record for good.'); END;
CREATE TRIGGER seal_reopenings_are_never_deleted BEFORE DELETE ON seal_reopenings
BEGIN SELECT RAISE(ABORT, 'A reopening is on the record for good.'); END;
