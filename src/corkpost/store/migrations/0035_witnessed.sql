-- A witness of every row that is relied on and is no part of a client's chain of changes: decisions, states
-- of periods, seals, staff and the rest that `store/witness.py` names. Triggers write it, which are made
-- there from the columns of each table; each witness is chained to the one before.

CREATE TABLE witness_shapes (
  id       INTEGER PRIMARY KEY,
  of_table TEXT NOT NULL,
  key      TEXT NOT NULL,                   -- names of columns, with commas between
  columns  TEXT NOT NULL,
  UNIQUE (of_table, columns)
) STRICT;

CREATE TABLE witnessed (
  number  INTEGER PRIMARY KEY,
  shape   INTEGER NOT NULL REFERENCES witness_shapes (id),
  key     TEXT NOT NULL,
  content TEXT NOT NULL,                    -- SHA-256 of the row's columns; empty where the row went
  digest  TEXT NOT NULL                     -- SHA-256 of this row and of the digest before
) STRICT;

CREATE TRIGGER witness_shapes_are_never_updated BEFORE UPDATE ON witness_shapes
BEGIN SELECT RAISE(ABORT, 'What was witnessed stays as it is.'); END;
CREATE TRIGGER witness_shapes_are_never_deleted BEFORE DELETE ON witness_shapes
BEGIN SELECT RAISE(ABORT, 'What was witnessed stays.'); END;
CREATE TRIGGER witnessed_is_never_updated BEFORE UPDATE ON witnessed
BEGIN SELECT RAISE(ABORT, 'What was witnessed stays as it is.'); END;
CREATE TRIGGER witnessed_is_never_deleted BEFORE DELETE ON witnessed
BEGIN SELECT RAISE(ABORT, 'What was witnessed stays.'); END;

-- These were only added to all along; now nothing else can be done with them.
CREATE TRIGGER answers_are_never_updated BEFORE UPDATE ON answers
BEGIN SELECT RAISE(ABORT, 'What was written stays as it is.'); END;
CREATE TRIGGER answers_are_never_deleted BEFORE DELETE ON answers
BEGIN SELECT RAISE(ABORT, 'What was written stays.'); END;
CREATE TRIGGER approval_rules_are_never_updated BEFORE UPDATE ON approval_rules
BEGIN SELECT RAISE(ABORT, 'What was written stays as it is.'); END;
CREATE TRIGGER approval_rules_are_never_deleted BEFORE DELETE ON approval_rules
BEGIN SELECT RAISE(ABORT, 'What was written stays.'); END;
CREATE TRIGGER contacts_are_never_updated BEFORE UPDATE ON contacts
BEGIN SELECT RAISE(ABORT, 'What was written stays as it is.'); END;
CREATE TRIGGER contacts_are_never_deleted BEFORE DELETE ON contacts
BEGIN SELECT RAISE(ABORT, 'What was written stays.'); END;
CREATE TRIGGER message_sendings_are_never_updated BEFORE UPDATE ON message_sendings
BEGIN SELECT RAISE(ABORT, 'What was written stays as it is.'); END;
CREATE TRIGGER message_sendings_are_never_deleted BEFORE DELETE ON message_sendings
BEGIN SELECT RAISE(ABORT, 'What was written stays.'); END;
CREATE TRIGGER messages_are_never_updated BEFORE UPDATE ON messages
BEGIN SELECT RAISE(ABORT, 'What was written stays as it is.'); END;
CREATE TRIGGER messages_are_never_deleted BEFORE DELETE ON messages
BEGIN SELECT RAISE(ABORT, 'What was written stays.'); END;
CREATE TRIGGER queries_are_never_updated BEFORE UPDATE ON queries
BEGIN SELECT RAISE(ABORT, 'What was written stays as it is.'); END;
CREATE TRIGGER queries_are_never_deleted BEFORE DELETE ON queries
BEGIN SELECT RAISE(ABORT, 'What was written stays.'); END;
CREATE TRIGGER query_ends_are_never_updated BEFORE UPDATE ON query_ends
BEGIN SELECT RAISE(ABORT, 'What was written stays as it is.'); END;
CREATE TRIGGER query_ends_are_never_deleted BEFORE DELETE ON query_ends
BEGIN SELECT RAISE(ABORT, 'What was written stays.'); END;
CREATE TRIGGER query_wordings_are_never_updated BEFORE UPDATE ON query_wordings
BEGIN SELECT RAISE(ABORT, 'What was written stays as it is.'); END;
CREATE TRIGGER query_wordings_are_never_deleted BEFORE DELETE ON query_wordings
BEGIN SELECT RAISE(ABORT, 'What was written stays.'); END;
CREATE TRIGGER receipts_are_never_updated BEFORE UPDATE ON receipts
BEGIN SELECT RAISE(ABORT, 'What was written stays as it is.'); END;
CREATE TRIGGER receipts_are_never_deleted BEFORE DELETE ON receipts
BEGIN SELECT RAISE(ABORT, 'What was written stays.'); END;
CREATE TRIGGER remarks_cleared_are_never_updated BEFORE UPDATE ON remarks_cleared
BEGIN SELECT RAISE(ABORT, 'What was written stays as it is.'); END;
CREATE TRIGGER remarks_cleared_are_never_deleted BEFORE DELETE ON remarks_cleared
BEGIN SELECT RAISE(ABORT, 'What was written stays.'); END;
CREATE TRIGGER tellings_are_never_updated BEFORE UPDATE ON tellings
BEGIN SELECT RAISE(ABORT, 'What was written stays as it is.'); END;
CREATE TRIGGER tellings_are_never_deleted BEFORE DELETE ON tellings
BEGIN SELECT RAISE(ABORT, 'What was written stays.'); END;
