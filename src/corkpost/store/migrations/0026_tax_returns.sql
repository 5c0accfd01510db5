-- Tax returns that were filed.
INSERT INTO row_kinds (name) VALUES ('tax_returns');
