-- Figures set beside the actual, and other groupings of accounts.
INSERT INTO row_kinds (name) VALUES ('budgets'), ('arrangements');
