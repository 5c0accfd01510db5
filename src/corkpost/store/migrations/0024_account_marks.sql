-- What an account asks of entries.
INSERT INTO row_kinds (name) VALUES ('account_marks');
