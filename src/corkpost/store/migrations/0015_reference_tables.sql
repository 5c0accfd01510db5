-- Words that a column may hold, where later work adds to them, are rows of tables: another word is a row,
-- and no table is made anew for it.
CREATE TABLE row_kinds (name TEXT PRIMARY KEY) STRICT, WITHOUT ROWID;
INSERT INTO row_kinds (name) VALUES
  ('dimensions'), ('bank_accounts'), ('statements'), ('prior_year'), ('stock'), ('payroll'),
  ('agreements'), ('amendments'), ('account_amendments'), ('party_amendments'), ('attachments');
CREATE TABLE change_kinds (name TEXT PRIMARY KEY) STRICT, WITHOUT ROWID;
INSERT INTO change_kinds (name) VALUES
  ('import'), ('correction'), ('entry'), ('undo'), ('statement'), ('agreement');
CREATE TABLE decision_states (name TEXT PRIMARY KEY) STRICT, WITHOUT ROWID;
INSERT INTO decision_states (name) VALUES ('open'), ('corrected'), ('left'), ('asked'), ('waived');

CREATE TABLE new_kept_rows (
  client_id     INTEGER NOT NULL REFERENCES clients (id),
  of_table      TEXT    NOT NULL REFERENCES row_kinds (name),
  key           TEXT    NOT NULL,
  change_number INTEGER NOT NULL,
  position      INTEGER NOT NULL,
  content       TEXT    NOT NULL,  -- JSON: fields by name; the first releases kept the values alone
  PRIMARY KEY (client_id, of_table, key, change_number)
) STRICT, WITHOUT ROWID;
INSERT INTO new_kept_rows (client_id, of_table, key, change_number, position, content)
  SELECT client_id, of_table, key, change_number, position, content FROM kept_rows;
DROP TABLE kept_rows;
ALTER TABLE new_kept_rows RENAME TO kept_rows;
CREATE TRIGGER kept_rows_are_never_updated BEFORE UPDATE ON kept_rows
BEGIN SELECT RAISE(ABORT, 'What was received is never altered: a newer row replaces it.'); END;
CREATE TRIGGER kept_rows_are_never_deleted BEFORE DELETE ON kept_rows
BEGIN SELECT RAISE(ABORT, 'What was received is never deleted.'); END;

CREATE TABLE new_changes (
  client_id       INTEGER NOT NULL REFERENCES clients (id),
  number          INTEGER NOT NULL CHECK (number > 0),
  kind            TEXT    NOT NULL REFERENCES change_kinds (name),
  made_by         TEXT    NOT NULL REFERENCES staff (code),
  made_at         TEXT    NOT NULL,
  reason          TEXT    NOT NULL CHECK (trim(reason) <> ''),
  route           TEXT,
  point           TEXT,               -- the review point that it answers
  undoes          INTEGER,            -- the change that it takes back
  prior_parts     TEXT    NOT NULL,   -- JSON: profit parts of corrections to earlier years
  idempotency_key TEXT,
  content         TEXT    NOT NULL,   -- SHA-256 of the rows that it brought
  previous        TEXT    NOT NULL,   -- the digest of the change before
  digest          TEXT    NOT NULL,   -- SHA-256 of this row and the one before
  PRIMARY KEY (client_id, number),
  UNIQUE (client_id, idempotency_key),
  UNIQUE (client_id, undoes)
) STRICT, WITHOUT ROWID;
INSERT INTO new_changes (
    client_id, number, kind, made_by, made_at, reason, route, point, undoes, prior_parts,
    idempotency_key, content, previous, digest)
  SELECT client_id, number, kind, made_by, made_at, reason, route, point, undoes, prior_parts,
         idempotency_key, content, previous, digest
  FROM changes;
DROP TABLE changes;
ALTER TABLE new_changes RENAME TO changes;
CREATE TRIGGER changes_are_never_updated BEFORE UPDATE ON changes
BEGIN SELECT RAISE(ABORT, 'A posted change is never altered: take it back by another.'); END;
CREATE TRIGGER changes_are_never_deleted BEFORE DELETE ON changes
BEGIN SELECT RAISE(ABORT, 'A posted change is never deleted: take it back by another.'); END;

CREATE TABLE new_decisions (
  client_id     INTEGER NOT NULL REFERENCES clients (id),
  number        INTEGER NOT NULL,
  point         TEXT    NOT NULL,
  state         TEXT    NOT NULL REFERENCES decision_states (name),
  reason        TEXT    NOT NULL CHECK (trim(reason) <> ''),
  facts         TEXT    NOT NULL,   -- the digest of what was seen when it was decided, behind its version
  seen          TEXT    NOT NULL,   -- JSON: the point as it was seen
  change_number INTEGER,            -- the change that corrected it
  made_by       TEXT    NOT NULL REFERENCES staff (code),
  made_at       TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;
INSERT INTO new_decisions (
    client_id, number, point, state, reason, facts, seen, change_number, made_by, made_at)
  SELECT client_id, number, point, state, reason, facts, seen, change_number, made_by, made_at
  FROM decisions;
DROP TABLE decisions;
ALTER TABLE new_decisions RENAME TO decisions;
CREATE TRIGGER decisions_are_never_updated BEFORE UPDATE ON decisions
BEGIN SELECT RAISE(ABORT, 'A decision is never altered: decide again.'); END;
CREATE TRIGGER decisions_are_never_deleted BEFORE DELETE ON decisions
BEGIN SELECT RAISE(ABORT, 'A decision is never deleted: decide again.'); END;
