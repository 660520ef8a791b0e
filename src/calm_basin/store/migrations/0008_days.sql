-- The day up to which this machine's clock is believed: what is old goes by it.
CREATE TABLE believed (
  day TEXT NOT NULL
) STRICT;
