-- By which rule a client's sales tax is reckoned, since when.
INSERT INTO row_kinds (name) VALUES ('tax_schemes');
