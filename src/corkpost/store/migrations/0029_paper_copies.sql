-- Papers that are kept with a proof or a remark: which of them are this client's.
CREATE TABLE paper_copies (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  digest    TEXT    NOT NULL,
  name      TEXT    NOT NULL,
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, digest)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER paper_copies_are_never_updated BEFORE UPDATE ON paper_copies
BEGIN SELECT RAISE(ABORT, 'A paper that is kept stays as it came.'); END;
CREATE TRIGGER paper_copies_are_never_deleted BEFORE DELETE ON paper_copies
BEGIN SELECT RAISE(ABORT, 'A paper that is kept stays.'); END;

ALTER TABLE remarks ADD COLUMN paper TEXT;  -- the digest of the paper that goes with it
