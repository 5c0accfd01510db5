-- Papers that came in and wait to be entered; what was kept with a transaction is used.
CREATE TABLE incoming_papers (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  number    INTEGER NOT NULL,
  name      TEXT    NOT NULL,
  digest    TEXT    NOT NULL,
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, number),
  UNIQUE (client_id, digest)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER incoming_papers_are_never_updated BEFORE UPDATE ON incoming_papers
BEGIN SELECT RAISE(ABORT, 'A paper that came in stays as it came.'); END;
CREATE TRIGGER incoming_papers_are_never_deleted BEFORE DELETE ON incoming_papers
BEGIN SELECT RAISE(ABORT, 'A paper that came in stays.'); END;
