-- How each job looked in the list when it was last worked out, and of what: its revision, and what
-- besides it hangs on. It can be worked out again at any time, so no backup brings it along.
CREATE TABLE card (
  job_id TEXT PRIMARY KEY REFERENCES job (id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  besides TEXT NOT NULL,
  body TEXT NOT NULL CHECK (json_valid(body))
) STRICT, WITHOUT ROWID;
