"""Jobs kept in SQLite, through plain SQL."""
