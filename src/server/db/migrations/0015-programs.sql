-- Tokens with which programs act in one course for the instructor who made them. Kept hashed; shown once, when made.
CREATE TABLE program_token (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  course_id INTEGER NOT NULL REFERENCES course (id),
  person_id INTEGER NOT NULL REFERENCES person (id),
  name TEXT NOT NULL CHECK (name <> ''),
  token_hash TEXT NOT NULL UNIQUE,
  may_write INTEGER NOT NULL CHECK (may_write IN (0, 1)),
  made_at TEXT NOT NULL,
  -- Noted once an hour at most.
  used_at TEXT,
  ended_at TEXT
) STRICT;
CREATE INDEX program_token_by_course ON program_token (course_id, ended_at);
