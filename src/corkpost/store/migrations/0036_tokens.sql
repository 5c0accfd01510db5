-- Tokens by which a person is known on the command line: one each.
CREATE TABLE tokens (
  staff_code TEXT NOT NULL PRIMARY KEY REFERENCES staff (code),
  id         TEXT NOT NULL UNIQUE,          -- SHA-256 of the token
  made_at    TEXT NOT NULL
) STRICT, WITHOUT ROWID;

ALTER TABLE practice ADD COLUMN token_needed INTEGER NOT NULL DEFAULT 0;  -- on the command line
