-- A job that was deleted can be brought back for a while.
ALTER TABLE job ADD COLUMN deleted_at TEXT;
