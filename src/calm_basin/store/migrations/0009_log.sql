-- The site log: only added to. Each entry carries the hash of the one before it and of the plan that
-- it was judged by.
CREATE TABLE log_entry (
  job_id TEXT NOT NULL REFERENCES job (id) ON DELETE CASCADE,
  number INTEGER NOT NULL CHECK (number >= 1),
  id TEXT NOT NULL,
  made_at TEXT NOT NULL,
  body TEXT NOT NULL,
  revision INTEGER,
  plan_hash TEXT NOT NULL,
  previous TEXT NOT NULL,
  hash TEXT NOT NULL,
  PRIMARY KEY (job_id, number),
  UNIQUE (job_id, id)
) STRICT;

CREATE TRIGGER log_entry_stays BEFORE UPDATE ON log_entry
BEGIN SELECT RAISE(ABORT, 'an entry of the log is never changed'); END;

CREATE TRIGGER log_entry_is_kept BEFORE DELETE ON log_entry
WHEN EXISTS (SELECT 1 FROM job WHERE id = OLD.job_id)
BEGIN SELECT RAISE(ABORT, 'an entry of the log is never taken out'); END;
