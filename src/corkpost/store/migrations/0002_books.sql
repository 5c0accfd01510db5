-- A client's books. Append only: a row that has come stays, what replaces it is another row.
-- client_id leads every key, so that a client's rows lie together.

-- A change is the unit of work: a batch of received books, a correction, an entry, an undoing.
CREATE TABLE changes (
  client_id       INTEGER NOT NULL REFERENCES clients (id),
  number          INTEGER NOT NULL CHECK (number > 0),
  kind            TEXT    NOT NULL CHECK (kind IN ('import', 'correction', 'entry', 'undo')),
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

CREATE TABLE client_facts (
  client_id            INTEGER NOT NULL REFERENCES clients (id),
  change_number        INTEGER NOT NULL,
  name                 TEXT    NOT NULL,
  entity               TEXT    NOT NULL,
  currency             TEXT    NOT NULL,
  year_end             TEXT    NOT NULL,  -- month-day; day 31 means the month's last
  tax_registered       INTEGER NOT NULL,
  books_from           TEXT,
  books_to             TEXT,
  filed_through        TEXT,
  filed_on             TEXT,
  tax_returned_through TEXT,
  materiality          INTEGER,           -- minor units
  capital_item         INTEGER,           -- minor units
  years                TEXT    NOT NULL,  -- JSON: label, first day, last day, due
  PRIMARY KEY (client_id, change_number)
) STRICT, WITHOUT ROWID;

CREATE TABLE transactions (
  client_id     INTEGER NOT NULL REFERENCES clients (id),
  seq           INTEGER NOT NULL,         -- the order in which they came
  change_number INTEGER NOT NULL,
  id            TEXT    NOT NULL,
  kind          TEXT    NOT NULL,
  posting_date  TEXT    NOT NULL,
  document_date TEXT,
  due_date      TEXT,
  entered_at    TEXT,
  entered_by    TEXT,
  reference     TEXT,
  party         TEXT,
  memo          TEXT,
  source        TEXT,
  currency      TEXT,
  rate          TEXT,
  reverses      TEXT,
  entry_kind    TEXT,
  corrects      TEXT,
  reason        TEXT,
  other         TEXT    NOT NULL,         -- JSON: columns that the format does not know
  PRIMARY KEY (client_id, seq)
) STRICT, WITHOUT ROWID;

CREATE TABLE lines (
  client_id       INTEGER NOT NULL,
  transaction_seq INTEGER NOT NULL,
  position        INTEGER NOT NULL,
  number          INTEGER NOT NULL,
  account         TEXT    NOT NULL,
  amount          INTEGER NOT NULL CHECK (amount <> 0),  -- minor units, debit positive
  party           TEXT,
  tax_code        TEXT,
  description     TEXT,
  dimensions      TEXT,
  currency        TEXT,
  foreign_amount  TEXT,
  tax_date        TEXT,
  other           TEXT    NOT NULL,
  PRIMARY KEY (client_id, transaction_seq, position),
  FOREIGN KEY (client_id, transaction_seq) REFERENCES transactions (client_id, seq)
    DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;

CREATE TABLE allocations (
  client_id          INTEGER NOT NULL REFERENCES clients (id),
  seq                INTEGER NOT NULL,
  change_number      INTEGER NOT NULL,
  id                 TEXT    NOT NULL,
  date               TEXT    NOT NULL,
  party              TEXT    NOT NULL,
  debit_transaction  TEXT    NOT NULL,
  credit_transaction TEXT    NOT NULL,
  amount             INTEGER NOT NULL CHECK (amount > 0),
  foreign_amount     TEXT,
  undoes             TEXT,
  other              TEXT    NOT NULL,
  PRIMARY KEY (client_id, seq)
) STRICT, WITHOUT ROWID;

-- Newer books of the client changed or no longer have these rows. They stay, and count no more.
CREATE TABLE superseded (
  client_id     INTEGER NOT NULL REFERENCES clients (id),
  of_table      TEXT    NOT NULL CHECK (of_table IN ('transactions', 'allocations')),
  seq           INTEGER NOT NULL,
  change_number INTEGER NOT NULL,
  PRIMARY KEY (client_id, of_table, seq)
) STRICT, WITHOUT ROWID;

-- The other tables of a books folder. A row counts until a later change brings one of the same key.
CREATE TABLE accounts (
  client_id     INTEGER NOT NULL REFERENCES clients (id),
  code          TEXT    NOT NULL,
  change_number INTEGER NOT NULL,
  position      INTEGER NOT NULL,
  name          TEXT    NOT NULL,
  type          TEXT    NOT NULL CHECK (type IN ('asset', 'liability', 'equity', 'income', 'expense')),
  role          TEXT    NOT NULL,
  owner         TEXT,
  tax_code      TEXT,
  expected_type TEXT,
  other         TEXT    NOT NULL,
  PRIMARY KEY (client_id, code, change_number)
) STRICT, WITHOUT ROWID;

CREATE TABLE parties (
  client_id     INTEGER NOT NULL REFERENCES clients (id),
  code          TEXT    NOT NULL,
  change_number INTEGER NOT NULL,
  position      INTEGER NOT NULL,
  name          TEXT    NOT NULL,
  kind          TEXT    NOT NULL,
  share         TEXT,                    -- a fraction, in percent
  aliases       TEXT    NOT NULL,        -- JSON
  other         TEXT    NOT NULL,
  PRIMARY KEY (client_id, code, change_number)
) STRICT, WITHOUT ROWID;

CREATE TABLE taxes (
  client_id     INTEGER NOT NULL REFERENCES clients (id),
  code          TEXT    NOT NULL,
  change_number INTEGER NOT NULL,
  position      INTEGER NOT NULL,
  name          TEXT    NOT NULL,
  rate          TEXT    NOT NULL,        -- a fraction, in percent
  kind          TEXT    NOT NULL,
  recoverable   INTEGER NOT NULL CHECK (recoverable IN (0, 1)),
  other         TEXT    NOT NULL,
  PRIMARY KEY (client_id, code, change_number)
) STRICT, WITHOUT ROWID;

-- Tables that the program only keeps and shows so far: one row each as JSON, under its key.
CREATE TABLE kept_rows (
  client_id     INTEGER NOT NULL REFERENCES clients (id),
  of_table      TEXT    NOT NULL CHECK (of_table IN (
                  'dimensions', 'bank_accounts', 'statements', 'prior_year', 'stock', 'payroll',
                  'agreements', 'amendments', 'attachments')),
  key           TEXT    NOT NULL,
  change_number INTEGER NOT NULL,
  position      INTEGER NOT NULL,
  content       TEXT    NOT NULL,        -- JSON array in the order of the value's fields
  PRIMARY KEY (client_id, of_table, key, change_number)
) STRICT, WITHOUT ROWID;

CREATE VIEW current_transactions AS
  SELECT posted.*
  FROM transactions AS posted
  WHERE NOT EXISTS (
    SELECT 1 FROM superseded
    WHERE superseded.client_id = posted.client_id
      AND superseded.of_table = 'transactions'
      AND superseded.seq = posted.seq
  );

CREATE VIEW current_allocations AS
  SELECT allocation.*
  FROM allocations AS allocation
  WHERE NOT EXISTS (
    SELECT 1 FROM superseded
    WHERE superseded.client_id = allocation.client_id
      AND superseded.of_table = 'allocations'
      AND superseded.seq = allocation.seq
  );

-- Two current transactions of one id must never be: asked by the writer, proved by this index.
CREATE INDEX transactions_by_id ON transactions (client_id, id);

-- A transaction balances when it is committed: its lines go in first, the header last.
CREATE TRIGGER transactions_balance BEFORE INSERT ON transactions
WHEN (SELECT COALESCE(SUM(amount), 0) FROM lines
      WHERE client_id = NEW.client_id AND transaction_seq = NEW.seq) <> 0
BEGIN SELECT RAISE(ABORT, 'The transaction does not balance: debits and credits must be equal.'); END;

CREATE TRIGGER lines_come_before_their_transaction BEFORE INSERT ON lines
WHEN EXISTS (SELECT 1 FROM transactions
             WHERE client_id = NEW.client_id AND seq = NEW.transaction_seq)
BEGIN SELECT RAISE(ABORT, 'A posted transaction takes no more lines: post a correction.'); END;

CREATE TRIGGER changes_are_never_updated BEFORE UPDATE ON changes
BEGIN SELECT RAISE(ABORT, 'A posted change is never altered: take it back by another.'); END;
CREATE TRIGGER changes_are_never_deleted BEFORE DELETE ON changes
BEGIN SELECT RAISE(ABORT, 'A posted change is never deleted: take it back by another.'); END;
CREATE TRIGGER client_facts_are_never_updated BEFORE UPDATE ON client_facts
BEGIN SELECT RAISE(ABORT, 'What was received is never altered: newer facts are another row.'); END;
CREATE TRIGGER client_facts_are_never_deleted BEFORE DELETE ON client_facts
BEGIN SELECT RAISE(ABORT, 'What was received is never deleted.'); END;
CREATE TRIGGER transactions_are_never_updated BEFORE UPDATE ON transactions
BEGIN SELECT RAISE(ABORT, 'A posted transaction is never changed: post a correction.'); END;
CREATE TRIGGER transactions_are_never_deleted BEFORE DELETE ON transactions
BEGIN SELECT RAISE(ABORT, 'A posted transaction is never deleted: post a correction.'); END;
CREATE TRIGGER lines_are_never_updated BEFORE UPDATE ON lines
BEGIN SELECT RAISE(ABORT, 'A posted line is never changed: post a correction.'); END;
CREATE TRIGGER lines_are_never_deleted BEFORE DELETE ON lines
BEGIN SELECT RAISE(ABORT, 'A posted line is never deleted: post a correction.'); END;
CREATE TRIGGER allocations_are_never_updated BEFORE UPDATE ON allocations
BEGIN SELECT RAISE(ABORT, 'An allocation is never changed: undo it by another row.'); END;
CREATE TRIGGER allocations_are_never_deleted BEFORE DELETE ON allocations
BEGIN SELECT RAISE(ABORT, 'An allocation is never deleted: undo it by another row.'); END;
CREATE TRIGGER superseded_are_never_updated BEFORE UPDATE ON superseded
BEGIN SELECT RAISE(ABORT, 'A mark of absence is never changed.'); END;
CREATE TRIGGER superseded_are_never_deleted BEFORE DELETE ON superseded
BEGIN SELECT RAISE(ABORT, 'A mark of absence is never deleted.'); END;
CREATE TRIGGER accounts_are_never_updated BEFORE UPDATE ON accounts
BEGIN SELECT RAISE(ABORT, 'An account as received is never altered: a newer row replaces it.'); END;
CREATE TRIGGER accounts_are_never_deleted BEFORE DELETE ON accounts
BEGIN SELECT RAISE(ABORT, 'An account as received is never deleted.'); END;
CREATE TRIGGER parties_are_never_updated BEFORE UPDATE ON parties
BEGIN SELECT RAISE(ABORT, 'A party as received is never altered: a newer row replaces it.'); END;
CREATE TRIGGER parties_are_never_deleted BEFORE DELETE ON parties
BEGIN SELECT RAISE(ABORT, 'A party as received is never deleted.'); END;
CREATE TRIGGER taxes_are_never_updated BEFORE UPDATE ON taxes
BEGIN SELECT RAISE(ABORT, 'A tax code as received is never altered: a newer row replaces it.'); END;
CREATE TRIGGER taxes_are_never_deleted BEFORE DELETE ON taxes
BEGIN SELECT RAISE(ABORT, 'A tax code as received is never deleted.'); END;
CREATE TRIGGER kept_rows_are_never_updated BEFORE UPDATE ON kept_rows
BEGIN SELECT RAISE(ABORT, 'What was received is never altered: a newer row replaces it.'); END;
CREATE TRIGGER kept_rows_are_never_deleted BEFORE DELETE ON kept_rows
BEGIN SELECT RAISE(ABORT, 'What was received is never deleted.'); END;
