-- Summaries of a payroll bureau, taken in from its files.
INSERT INTO row_kinds (name) VALUES ('bureau_months');
