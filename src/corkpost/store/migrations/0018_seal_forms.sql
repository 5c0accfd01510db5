-- By which canonical form a seal was made, and that form itself, packed: what moved is found by it.
ALTER TABLE seals ADD COLUMN form INTEGER NOT NULL DEFAULT 1;
ALTER TABLE seals ADD COLUMN content BLOB;
