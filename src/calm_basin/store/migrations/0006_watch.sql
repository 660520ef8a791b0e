-- Who came in, what was deleted and what was restored; and the one who may come in from elsewhere.
CREATE TABLE event (
  id INTEGER PRIMARY KEY,
  at TEXT NOT NULL,
  kind TEXT NOT NULL,
  address TEXT NOT NULL,
  detail TEXT NOT NULL
) STRICT;

CREATE TABLE passphrase (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  hash TEXT NOT NULL,
  changed_at TEXT NOT NULL
) STRICT;

CREATE TABLE session (
  token TEXT PRIMARY KEY,
  made_at TEXT NOT NULL,
  address TEXT NOT NULL,
  browser TEXT NOT NULL
) STRICT;
