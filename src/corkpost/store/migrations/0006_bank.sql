-- Two more kinds of change: a statement taken in, lines agreed with it.
CREATE TABLE wider_changes (
  client_id       INTEGER NOT NULL REFERENCES clients (id),
  number          INTEGER NOT NULL CHECK (number > 0),
  kind            TEXT    NOT NULL CHECK (kind IN (
                    'import', 'correction', 'entry', 'undo', 'statement', 'agreement')),
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
INSERT INTO wider_changes SELECT * FROM changes;
DROP TABLE changes;
ALTER TABLE wider_changes RENAME TO changes;
CREATE TRIGGER changes_are_never_updated BEFORE UPDATE ON changes
BEGIN SELECT RAISE(ABORT, 'A posted change is never altered: take it back by another.'); END;
CREATE TRIGGER changes_are_never_deleted BEFORE DELETE ON changes
BEGIN SELECT RAISE(ABORT, 'A posted change is never deleted: take it back by another.'); END;

-- Bank statements as they were taken in, with the lines that were new in each.

CREATE TABLE statements (
  client_id     INTEGER NOT NULL REFERENCES clients (id),
  number        INTEGER NOT NULL,
  change_number INTEGER NOT NULL,
  account       TEXT    NOT NULL,
  path          TEXT    NOT NULL,  -- of its file: the digest stands beside it in kept_rows
  first_day     TEXT    NOT NULL,
  last_day      TEXT    NOT NULL,
  opening       INTEGER,           -- minor units, money in the account positive
  closing       INTEGER,
  off_by        INTEGER NOT NULL,  -- what opening and lines exceed the closing balance by
  off_from      TEXT,              -- the first line that the running balance does not follow
  warnings      TEXT    NOT NULL,  -- JSON
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE statement_lines (
  client_id        INTEGER NOT NULL,
  statement_number INTEGER NOT NULL,
  position         INTEGER NOT NULL,
  id               TEXT    NOT NULL,  -- path#number in its file
  day              TEXT    NOT NULL,
  amount           INTEGER NOT NULL,  -- minor units, money in positive
  text             TEXT    NOT NULL,
  reference        TEXT,
  counterparty     TEXT,
  bank_id          TEXT,
  balance          INTEGER,
  value_day        TEXT,
  PRIMARY KEY (client_id, statement_number, position),
  UNIQUE (client_id, id),
  FOREIGN KEY (client_id, statement_number) REFERENCES statements (client_id, number)
) STRICT, WITHOUT ROWID;

-- A finished reconciliation, with its list as it was.
CREATE TABLE reconciliations (
  client_id        INTEGER NOT NULL,
  number           INTEGER NOT NULL,
  account          TEXT    NOT NULL,
  statement_number INTEGER NOT NULL,
  content          TEXT    NOT NULL,  -- JSON: the sum, what is agreed, what is outstanding
  made_by          TEXT    NOT NULL REFERENCES staff (code),
  made_at          TEXT    NOT NULL,
  PRIMARY KEY (client_id, number),
  FOREIGN KEY (client_id, statement_number) REFERENCES statements (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE reconciliation_reopenings (
  client_id             INTEGER NOT NULL,
  reconciliation_number INTEGER NOT NULL,
  reason                TEXT    NOT NULL CHECK (trim(reason) <> ''),
  made_by               TEXT    NOT NULL REFERENCES staff (code),
  made_at               TEXT    NOT NULL,
  PRIMARY KEY (client_id, reconciliation_number),
  FOREIGN KEY (client_id, reconciliation_number) REFERENCES reconciliations (client_id, number)
) STRICT, WITHOUT ROWID;

-- Which column of a bank's CSV is what, as it was answered last for files with that heading.
CREATE TABLE column_choices (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  account   TEXT    NOT NULL,
  heading   TEXT    NOT NULL,  -- JSON
  columns   TEXT    NOT NULL,  -- JSON
  PRIMARY KEY (client_id, account, heading)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER statements_are_never_updated BEFORE UPDATE ON statements
BEGIN SELECT RAISE(ABORT, 'A statement is kept as the bank gave it.'); END;
CREATE TRIGGER statements_are_never_deleted BEFORE DELETE ON statements
BEGIN SELECT RAISE(ABORT, 'A statement is kept as the bank gave it.'); END;
CREATE TRIGGER statement_lines_are_never_updated BEFORE UPDATE ON statement_lines
BEGIN SELECT RAISE(ABORT, 'A statement line is kept as the bank gave it.'); END;
CREATE TRIGGER statement_lines_are_never_deleted BEFORE DELETE ON statement_lines
BEGIN SELECT RAISE(ABORT, 'A statement line is kept as the bank gave it.'); END;
CREATE TRIGGER reconciliations_are_never_updated BEFORE UPDATE ON reconciliations
BEGIN SELECT RAISE(ABORT, 'A finished reconciliation is fixed: reopen it with a reason.'); END;
CREATE TRIGGER reconciliations_are_never_deleted BEFORE DELETE ON reconciliations
BEGIN SELECT RAISE(ABORT, 'A finished reconciliation is fixed: reopen it with a reason.'); END;
CREATE TRIGGER reconciliation_reopenings_are_never_updated
BEFORE UPDATE ON reconciliation_reopenings
BEGIN SELECT RAISE(ABORT, 'A reopening is on the record for good.'); END;
CREATE TRIGGER reconciliation_reopenings_are_never_deleted
BEFORE DELETE ON reconciliation_reopenings
BEGIN SELECT RAISE(ABORT, 'A reopening is on the record for good.'); END;
