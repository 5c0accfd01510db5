-- Facts of a client that the practice set, over what its books said when they came.
INSERT INTO row_kinds (name) VALUES ('facts_set');
