-- Proofs of the trial balance that were agreed, with initials and time by their change.
INSERT INTO row_kinds (name) VALUES ('tie_outs');
