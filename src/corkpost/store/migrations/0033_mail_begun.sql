-- Messages whose reading began: one that ended the program is not tried for ever.
CREATE TABLE mail_begun (
  mark  TEXT    NOT NULL PRIMARY KEY,
  tries INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
