-- What was asked for under each idempotency key: the key stands for that request alone.
CREATE TABLE posted_requests (
  client_id       INTEGER NOT NULL REFERENCES clients (id),
  idempotency_key TEXT    NOT NULL,
  request         TEXT    NOT NULL,        -- SHA-256
  PRIMARY KEY (client_id, idempotency_key)
) STRICT, WITHOUT ROWID;
