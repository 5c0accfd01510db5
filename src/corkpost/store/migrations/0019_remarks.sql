-- Remarks on anything in a client's books, and marks on the lines of its worksheet: the practice's own.

CREATE TABLE remarks (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  number    INTEGER NOT NULL,
  about     TEXT    NOT NULL,  -- account, transaction, tie-out, point
  name      TEXT    NOT NULL,  -- its code or id
  text      TEXT    NOT NULL CHECK (trim(text) <> ''),
  asks      INTEGER NOT NULL CHECK (asks IN (0, 1)),  -- has to be cleared before the sign-off
  answers   INTEGER,           -- the remark that it answers
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE remarks_cleared (
  client_id INTEGER NOT NULL,
  number    INTEGER NOT NULL,
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, number),
  FOREIGN KEY (client_id, number) REFERENCES remarks (client_id, number)
) STRICT, WITHOUT ROWID;

-- A line that somebody prepared or reviewed at a figure. The latest row of a person's kind counts.
CREATE TABLE line_marks (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  number    INTEGER NOT NULL,
  account   TEXT    NOT NULL,
  as_at     TEXT    NOT NULL,
  kind      TEXT    NOT NULL CHECK (kind IN ('prepared', 'reviewed')),
  figure    INTEGER,           -- minor units, debit positive; none: the mark is taken off
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER remarks_are_never_updated BEFORE UPDATE ON remarks
BEGIN SELECT RAISE(ABORT, 'A remark is never altered: make another.'); END;
CREATE TRIGGER remarks_are_never_deleted BEFORE DELETE ON remarks
BEGIN SELECT RAISE(ABORT, 'A remark is never deleted: clear it.'); END;
CREATE TRIGGER line_marks_are_never_updated BEFORE UPDATE ON line_marks
BEGIN SELECT RAISE(ABORT, 'A mark is never altered: set another.'); END;
CREATE TRIGGER line_marks_are_never_deleted BEFORE DELETE ON line_marks
BEGIN SELECT RAISE(ABORT, 'A mark is never deleted: take it off.'); END;

-- What was seen to of the checklist before a sign-off. The latest row of an item counts.
CREATE TABLE checklist_ticks (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  number    INTEGER NOT NULL,
  item      TEXT    NOT NULL,
  as_at     TEXT    NOT NULL,
  done      INTEGER NOT NULL CHECK (done IN (0, 1)),
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER ticks_are_never_updated BEFORE UPDATE ON checklist_ticks
BEGIN SELECT RAISE(ABORT, 'What was ticked stays: take it back.'); END;
CREATE TRIGGER ticks_are_never_deleted BEFORE DELETE ON checklist_ticks
BEGIN SELECT RAISE(ABORT, 'What was ticked stays: take it back.'); END;
