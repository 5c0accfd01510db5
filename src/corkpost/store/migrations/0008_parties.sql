-- One more table that is kept under keys: parties that are read as others.
CREATE TABLE wider_kept_rows (
  client_id     INTEGER NOT NULL REFERENCES clients (id),
  of_table      TEXT    NOT NULL CHECK (of_table IN (
                  'dimensions', 'bank_accounts', 'statements', 'prior_year', 'stock', 'payroll',
                  'agreements', 'amendments', 'attachments', 'account_amendments',
                  'party_amendments')),
  key           TEXT    NOT NULL,
  change_number INTEGER NOT NULL,
  position      INTEGER NOT NULL,
  content       TEXT    NOT NULL,        -- JSON array in the order of the value's fields
  PRIMARY KEY (client_id, of_table, key, change_number)
) STRICT, WITHOUT ROWID;
INSERT INTO wider_kept_rows SELECT * FROM kept_rows;
DROP TABLE kept_rows;
ALTER TABLE wider_kept_rows RENAME TO kept_rows;
CREATE TRIGGER kept_rows_are_never_updated BEFORE UPDATE ON kept_rows
BEGIN SELECT RAISE(ABORT, 'What was received is never altered: a newer row replaces it.'); END;
CREATE TRIGGER kept_rows_are_never_deleted BEFORE DELETE ON kept_rows
BEGIN SELECT RAISE(ABORT, 'What was received is never deleted.'); END;
