-- What Find looks in: made from the books after they are written, and made anew when it is gone.

-- What a number of the index stands for. *kind*: transaction, line of a statement, party, account.
CREATE TABLE find_rows (
  id        INTEGER PRIMARY KEY,
  client_id INTEGER NOT NULL REFERENCES clients (id),
  kind      TEXT    NOT NULL CHECK (kind IN ('t', 's', 'p', 'a')),
  key       TEXT    NOT NULL
) STRICT;

-- Words by their beginnings. The client is a word too, so that nobody finds another's.
CREATE VIRTUAL TABLE find_words USING fts5 (
  client, words, content='', prefix='2 3 4', tokenize='unicode61 remove_diacritics 2'
);

-- Sums as they are, without their signs.
CREATE TABLE find_amounts (
  client_id INTEGER NOT NULL,
  amount    INTEGER NOT NULL,
  id        INTEGER NOT NULL,
  PRIMARY KEY (client_id, amount, id)
) STRICT, WITHOUT ROWID;

-- How far each client is in the index.
CREATE TABLE find_marks (
  client_id       INTEGER PRIMARY KEY REFERENCES clients (id),
  transaction_seq INTEGER NOT NULL,
  change_number   INTEGER NOT NULL
) STRICT;
