-- Remarks on the work itself: at a passage, a spot or an area; answers to them; files that staff give back.

-- Whether students may answer each remark once.
ALTER TABLE task ADD COLUMN answers INTEGER NOT NULL DEFAULT 0 CHECK (answers IN (0, 1));
-- SHA-256 of what is in a file, as hex; null for what was kept before that was looked at.
ALTER TABLE kept_file ADD COLUMN digest TEXT;

CREATE TABLE remark (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  -- What the page called it, so that the same remark sent twice is one.
  page_key TEXT NOT NULL,
  task_id INTEGER NOT NULL REFERENCES task (id),
  group_id INTEGER REFERENCES sheet_group (id),
  student_id INTEGER REFERENCES enrolment (id),
  -- The version on which it was made, and the file of it; null for what was written.
  version INTEGER NOT NULL CHECK (version >= 1),
  file_id INTEGER REFERENCES kept_file (id),
  -- JSON: a passage, a spot or an area.
  place TEXT NOT NULL,
  words TEXT NOT NULL,
  criterion TEXT,
  points REAL,
  -- How often it was changed, so that nobody overwrites what somebody else wrote.
  edition INTEGER NOT NULL DEFAULT 1,
  by_id INTEGER NOT NULL REFERENCES enrolment (id),
  made_at TEXT NOT NULL,
  changed_at TEXT NOT NULL,
  removed_at TEXT,
  CHECK ((group_id IS NULL) <> (student_id IS NULL))
) STRICT;
CREATE INDEX remark_by_task ON remark (task_id, group_id, student_id);
CREATE UNIQUE INDEX one_remark_each_key ON remark (task_id, by_id, page_key);

CREATE TABLE remark_answer (
  remark_id INTEGER NOT NULL REFERENCES remark (id),
  by_id INTEGER NOT NULL REFERENCES enrolment (id),
  words TEXT NOT NULL,
  answered_at TEXT NOT NULL,
  PRIMARY KEY (remark_id, by_id)
) STRICT, WITHOUT ROWID;

-- Files that staff give back with a mark.
CREATE TABLE feedback_file (
  file_id INTEGER PRIMARY KEY REFERENCES kept_file (id),
  task_id INTEGER NOT NULL REFERENCES task (id),
  group_id INTEGER REFERENCES sheet_group (id),
  student_id INTEGER REFERENCES enrolment (id),
  CHECK ((group_id IS NULL) <> (student_id IS NULL))
) STRICT;
CREATE INDEX feedback_file_by_task ON feedback_file (task_id, group_id, student_id);
