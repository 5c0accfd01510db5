-- What goes out to others and what waits for another's approval.

-- A receipt to a party for money that came in has a number before it goes out.
CREATE TABLE receipts (
  client_id      INTEGER NOT NULL REFERENCES clients (id),
  number         INTEGER NOT NULL,
  transaction_id TEXT    NOT NULL,
  PRIMARY KEY (client_id, number),
  UNIQUE (client_id, transaction_id)
) STRICT, WITHOUT ROWID;

-- Each time that it went out. The first is the receipt, the others are copies and say the same.
CREATE TABLE receipt_issues (
  client_id INTEGER NOT NULL,
  receipt   INTEGER NOT NULL,
  number    INTEGER NOT NULL,
  content   TEXT    NOT NULL,  -- JSON
  to_email  TEXT,              -- none where it was handed over as a file or on paper
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, receipt, number),
  FOREIGN KEY (client_id, receipt) REFERENCES receipts (client_id, number)
) STRICT, WITHOUT ROWID;

-- What the bookkeeper was told of our entries.
CREATE TABLE tellings (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  number    INTEGER NOT NULL,
  to_email  TEXT,              -- none where it was handed over otherwise
  body      TEXT    NOT NULL,
  changes   TEXT    NOT NULL,  -- JSON: the numbers of the changes that it explained
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

-- Whose postings wait for another's approval. The latest row of a person counts.
CREATE TABLE approval_rules (
  staff_code TEXT    NOT NULL REFERENCES staff (code),
  number     INTEGER NOT NULL,
  journals   INTEGER NOT NULL CHECK (journals IN (0, 1)),  -- every entry that they write themselves
  above      INTEGER CHECK (above >= 0),                   -- whatever moves more, in whole units
  made_by    TEXT    NOT NULL,
  made_at    TEXT    NOT NULL,
  PRIMARY KEY (staff_code, number)
) STRICT, WITHOUT ROWID;

-- What somebody would post, handed in to be approved. It counts nowhere until it is posted.
CREATE TABLE proposals (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  number    INTEGER NOT NULL,
  act       TEXT    NOT NULL,
  asked     TEXT    NOT NULL,  -- JSON: the act, as it was asked for
  reason    TEXT    NOT NULL CHECK (trim(reason) <> ''),
  shown     TEXT    NOT NULL,  -- the digest of what it would have posted then
  why       TEXT    NOT NULL,  -- why it waits
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE proposal_ends (
  client_id INTEGER NOT NULL,
  proposal  INTEGER NOT NULL,
  how       TEXT    NOT NULL CHECK (how IN ('posted', 'sent-back', 'withdrawn')),
  remark    TEXT    NOT NULL,
  change    INTEGER,           -- what it was posted as
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, proposal),
  FOREIGN KEY (client_id, proposal) REFERENCES proposals (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER receipt_issues_are_never_updated BEFORE UPDATE ON receipt_issues
BEGIN SELECT RAISE(ABORT, 'A receipt that was issued is never altered.'); END;
CREATE TRIGGER receipt_issues_are_never_deleted BEFORE DELETE ON receipt_issues
BEGIN SELECT RAISE(ABORT, 'A receipt that was issued is never deleted.'); END;
CREATE TRIGGER proposals_are_never_updated BEFORE UPDATE ON proposals
BEGIN SELECT RAISE(ABORT, 'What was handed in is never altered: hand in another.'); END;
CREATE TRIGGER proposals_are_never_deleted BEFORE DELETE ON proposals
BEGIN SELECT RAISE(ABORT, 'What was handed in is never deleted.'); END;
CREATE TRIGGER proposal_ends_are_never_updated BEFORE UPDATE ON proposal_ends
BEGIN SELECT RAISE(ABORT, 'How a proposal ended is never altered.'); END;
CREATE TRIGGER proposal_ends_are_never_deleted BEFORE DELETE ON proposal_ends
BEGIN SELECT RAISE(ABORT, 'How a proposal ended is never deleted.'); END;
