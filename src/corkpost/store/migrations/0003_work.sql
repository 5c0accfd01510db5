-- The accountant's work on a client's books that is not postings.

-- What a person decided about a review point. The latest row counts.
CREATE TABLE decisions (
  client_id     INTEGER NOT NULL REFERENCES clients (id),
  number        INTEGER NOT NULL,
  point         TEXT    NOT NULL,
  state         TEXT    NOT NULL CHECK (state IN ('open', 'corrected', 'left', 'asked', 'waived')),
  reason        TEXT    NOT NULL CHECK (trim(reason) <> ''),
  facts         TEXT    NOT NULL,   -- the digest of what was seen when it was decided
  seen          TEXT    NOT NULL,   -- JSON: the point as it was seen
  change_number INTEGER,            -- the change that corrected it
  made_by       TEXT    NOT NULL REFERENCES staff (code),
  made_at       TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

-- Who may post in a period. The latest row counts.
CREATE TABLE period_states (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  number    INTEGER NOT NULL,
  first_day TEXT    NOT NULL,
  state     TEXT    NOT NULL CHECK (state IN ('open', 'held', 'barred')),
  reason    TEXT    NOT NULL CHECK (trim(reason) <> ''),
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE seals (
  client_id       INTEGER NOT NULL REFERENCES clients (id),
  number          INTEGER NOT NULL,
  as_at           TEXT    NOT NULL,
  digest          TEXT    NOT NULL,
  balances        TEXT    NOT NULL,  -- JSON: account, minor units; to show what moved underneath
  head            TEXT    NOT NULL,  -- the digest of the last change when it was signed
  prepared_by     TEXT,              -- who posted most of it; none where nobody posted
  override_reason TEXT,
  second_person   INTEGER NOT NULL CHECK (second_person IN (0, 1)),
  signed_by       TEXT    NOT NULL REFERENCES staff (code),
  signed_at       TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE reopenings (
  client_id   INTEGER NOT NULL,
  seal_number INTEGER NOT NULL,
  reason      TEXT    NOT NULL CHECK (trim(reason) <> ''),
  made_by     TEXT    NOT NULL REFERENCES staff (code),
  made_at     TEXT    NOT NULL,
  PRIMARY KEY (client_id, seal_number),
  FOREIGN KEY (client_id, seal_number) REFERENCES seals (client_id, number)
) STRICT, WITHOUT ROWID;

-- Unfinished entries: nothing of them counts anywhere.
CREATE TABLE drafts (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  id        TEXT    NOT NULL,
  content   TEXT    NOT NULL,  -- JSON: the composer's fields as they were keyed
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, id)
) STRICT, WITHOUT ROWID;

-- Papers that the practice keeps with a transaction. Their bytes are files under their digest.
CREATE TABLE papers (
  client_id      INTEGER NOT NULL REFERENCES clients (id),
  number         INTEGER NOT NULL,
  transaction_id TEXT    NOT NULL,
  name           TEXT    NOT NULL,
  digest         TEXT    NOT NULL,
  made_by        TEXT    NOT NULL REFERENCES staff (code),
  made_at        TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER decisions_are_never_updated BEFORE UPDATE ON decisions
BEGIN SELECT RAISE(ABORT, 'A decision is never altered: decide again.'); END;
CREATE TRIGGER decisions_are_never_deleted BEFORE DELETE ON decisions
BEGIN SELECT RAISE(ABORT, 'A decision is never deleted: decide again.'); END;
CREATE TRIGGER period_states_are_never_updated BEFORE UPDATE ON period_states
BEGIN SELECT RAISE(ABORT, 'A posting state is never altered: set another.'); END;
CREATE TRIGGER period_states_are_never_deleted BEFORE DELETE ON period_states
BEGIN SELECT RAISE(ABORT, 'A posting state is never deleted: set another.'); END;
CREATE TRIGGER seals_are_never_updated BEFORE UPDATE ON seals
BEGIN SELECT RAISE(ABORT, 'A seal is never altered: reopen and sign again.'); END;
CREATE TRIGGER seals_are_never_deleted BEFORE DELETE ON seals
BEGIN SELECT RAISE(ABORT, 'A seal is never deleted: reopening is another row.'); END;
CREATE TRIGGER reopenings_are_never_updated BEFORE UPDATE ON reopenings
BEGIN SELECT RAISE(ABORT, 'A reopening is on the record for good.'); END;
CREATE TRIGGER reopenings_are_never_deleted BEFORE DELETE ON reopenings
BEGIN SELECT RAISE(ABORT, 'A reopening is on the record for good.'); END;
CREATE TRIGGER papers_are_never_updated BEFORE UPDATE ON papers
BEGIN SELECT RAISE(ABORT, 'A paper is kept as it came.'); END;
CREATE TRIGGER papers_are_never_deleted BEFORE DELETE ON papers
BEGIN SELECT RAISE(ABORT, 'A paper is kept as it came.'); END;
