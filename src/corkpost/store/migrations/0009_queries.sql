-- Questions to the client: what is asked, the message that it went out with, what came back.

-- Who answers for the client. The latest row counts.
CREATE TABLE contacts (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  number    INTEGER NOT NULL,
  name      TEXT    NOT NULL CHECK (trim(name) <> ''),
  email     TEXT    NOT NULL CHECK (email LIKE '%_@_%'),
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE queries (
  client_id    INTEGER NOT NULL REFERENCES clients (id),
  number       INTEGER NOT NULL,
  point        TEXT,               -- the review point that waits for the answer, where there is one
  question     TEXT    NOT NULL CHECK (trim(question) <> ''),
  transactions TEXT    NOT NULL,   -- JSON: the entries that it is about
  back_on      TEXT,               -- the day on which it comes back without an answer
  made_by      TEXT    NOT NULL REFERENCES staff (code),
  made_at      TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

-- Other words for a question that is not sent yet. The latest row counts.
CREATE TABLE query_wordings (
  client_id INTEGER NOT NULL,
  query     INTEGER NOT NULL,
  number    INTEGER NOT NULL,
  question  TEXT    NOT NULL CHECK (trim(question) <> ''),
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, query, number),
  FOREIGN KEY (client_id, query) REFERENCES queries (client_id, number)
) STRICT, WITHOUT ROWID;

-- A message with questions. It is written before it goes out; what went out has a row in
-- message_sendings too.
CREATE TABLE messages (
  client_id INTEGER NOT NULL REFERENCES clients (id),
  number    INTEGER NOT NULL,
  token     TEXT    NOT NULL UNIQUE,  -- by which an answer is known, as nobody can guess it
  to_name   TEXT    NOT NULL,
  to_email  TEXT    NOT NULL,
  subject   TEXT    NOT NULL,
  body      TEXT    NOT NULL,
  queries   TEXT    NOT NULL,         -- JSON: their numbers, in the order of the message
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE message_sendings (
  client_id INTEGER NOT NULL,
  message   INTEGER NOT NULL,
  sent_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, message),
  FOREIGN KEY (client_id, message) REFERENCES messages (client_id, number)
) STRICT, WITHOUT ROWID;

-- What came back. *query*: none where the answer does not say to which question it belongs.
CREATE TABLE answers (
  client_id   INTEGER NOT NULL REFERENCES clients (id),
  number      INTEGER NOT NULL,
  message     INTEGER,             -- none where somebody wrote down what was said
  query       INTEGER,
  body        TEXT    NOT NULL,
  files       TEXT    NOT NULL,    -- JSON: names and digests
  from_email  TEXT,
  taken_by    TEXT REFERENCES staff (code),
  received_at TEXT    NOT NULL,
  sorted_from INTEGER,             -- of one that a person gave to its question: the number it came under
  PRIMARY KEY (client_id, number)
) STRICT, WITHOUT ROWID;

-- A question that needs no more: answered and read, or withdrawn before it was sent.
CREATE TABLE query_ends (
  client_id INTEGER NOT NULL,
  query     INTEGER NOT NULL,
  how       TEXT    NOT NULL CHECK (how IN ('done', 'withdrawn')),
  made_by   TEXT    NOT NULL REFERENCES staff (code),
  made_at   TEXT    NOT NULL,
  PRIMARY KEY (client_id, query),
  FOREIGN KEY (client_id, query) REFERENCES queries (client_id, number)
) STRICT, WITHOUT ROWID;

-- What was read in the practice's mailbox, so that it is looked at once.
CREATE TABLE mail_read (
  mark TEXT PRIMARY KEY
) STRICT, WITHOUT ROWID;

-- What a person saw among a client's review points: at the last visit, and at the one before.
CREATE TABLE visits (
  staff_code TEXT    NOT NULL REFERENCES staff (code),
  client_id  INTEGER NOT NULL REFERENCES clients (id),
  seen_at    TEXT    NOT NULL,
  seen       TEXT    NOT NULL,  -- JSON: point to state and facts
  before_at  TEXT,
  before     TEXT,
  PRIMARY KEY (staff_code, client_id)
) STRICT, WITHOUT ROWID;
