-- Clients that the practice looks after no more: read, and not written to, until they are brought back or
-- their time is over and they are removed. The latest row counts.
CREATE TABLE archivings (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  number    INTEGER NOT NULL,
  archived  INTEGER NOT NULL CHECK (archived IN (0, 1)),
  reason    TEXT    NOT NULL,
  made_by   TEXT    NOT NULL,
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER archivings_are_never_updated BEFORE UPDATE ON archivings
BEGIN SELECT RAISE(ABORT, 'What was written stays as it is.'); END;
CREATE TRIGGER archivings_are_never_deleted BEFORE DELETE ON archivings
BEGIN SELECT RAISE(ABORT, 'What was written stays.'); END;

ALTER TABLE practice ADD COLUMN kept_years INTEGER NOT NULL DEFAULT 10;  -- after a client's last year
