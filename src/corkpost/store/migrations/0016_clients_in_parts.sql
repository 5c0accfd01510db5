-- The books of a new client are written in parts, so that nobody waits for all of them. Until the last part
-- is there the client is not whole: nobody sees it. What is left of one that never became whole (the program
-- was ended meanwhile) is no record, and is taken away once its lease has run out.
ALTER TABLE clients ADD COLUMN whole INTEGER NOT NULL DEFAULT 1 CHECK (whole IN (0, 1));
ALTER TABLE clients ADD COLUMN lease INTEGER NOT NULL DEFAULT 0;  -- seconds since 1970, by the machine's clock

DROP TRIGGER transactions_are_never_deleted;
CREATE TRIGGER transactions_are_never_deleted BEFORE DELETE ON transactions
WHEN (SELECT whole FROM clients WHERE id = OLD.client_id)
BEGIN SELECT RAISE(ABORT, 'A posted transaction is never deleted: post a correction.'); END;
DROP TRIGGER lines_are_never_deleted;
CREATE TRIGGER lines_are_never_deleted BEFORE DELETE ON lines
WHEN (SELECT whole FROM clients WHERE id = OLD.client_id)
BEGIN SELECT RAISE(ABORT, 'A posted line is never deleted: post a correction.'); END;
DROP TRIGGER allocations_are_never_deleted;
CREATE TRIGGER allocations_are_never_deleted BEFORE DELETE ON allocations
WHEN (SELECT whole FROM clients WHERE id = OLD.client_id)
BEGIN SELECT RAISE(ABORT, 'An allocation is never deleted: undo it by another row.'); END;
CREATE TRIGGER a_whole_client_stays_whole BEFORE UPDATE OF whole ON clients
WHEN OLD.whole AND NOT NEW.whole
BEGIN SELECT RAISE(ABORT, 'A client that was taken in stays.'); END;
