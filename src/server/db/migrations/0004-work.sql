-- Tasks, what is handed in for them, and marks.

-- tasks ------------------------------------------------------------------------------------------------------
CREATE TABLE task (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  title TEXT NOT NULL,
  instructions TEXT NOT NULL DEFAULT '',
  -- What is handed in.
  takes_text INTEGER NOT NULL DEFAULT 1 CHECK (takes_text IN (0, 1)),
  takes_links INTEGER NOT NULL DEFAULT 1 CHECK (takes_links IN (0, 1)),
  available_from TEXT,
  due_at TEXT,
  late TEXT NOT NULL DEFAULT 'no' CHECK (late IN ('no', 'until', 'always')),
  late_until TEXT,
  for_whom TEXT NOT NULL DEFAULT 'groups' CHECK (for_whom IN ('groups', 'some-groups', 'students')),
  without_group TEXT NOT NULL DEFAULT 'locked' CHECK (without_group IN ('locked', 'hidden', 'open')),
  -- Plain points, where there are no criteria; criteria are JSON.
  points REAL NOT NULL DEFAULT 10 CHECK (points > 0),
  criteria TEXT NOT NULL DEFAULT '[]',
  -- Null while it is being written.
  out_at TEXT,
  created_at TEXT NOT NULL,
  removed_at TEXT,
  CHECK (takes_text + takes_links > 0),
  CHECK (available_from IS NULL OR due_at IS NULL OR available_from < due_at),
  CHECK (late <> 'until' OR (late_until IS NOT NULL AND due_at IS NOT NULL AND due_at < late_until))
) STRICT;
CREATE INDEX task_by_sheet ON task (sheet_id, id);

CREATE TABLE task_group (
  task_id INTEGER NOT NULL REFERENCES task (id),
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  PRIMARY KEY (task_id, group_id)
) STRICT, WITHOUT ROWID;

-- hand-ins ---------------------------------------------------------------------------------------------------
-- Every version is kept. Of a group, or of one student.
CREATE TABLE hand_in (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL REFERENCES task (id),
  group_id INTEGER REFERENCES sheet_group (id),
  student_id INTEGER REFERENCES enrolment (id),
  version INTEGER NOT NULL CHECK (version >= 1),
  by_id INTEGER NOT NULL REFERENCES enrolment (id),
  text TEXT NOT NULL,
  links TEXT NOT NULL DEFAULT '[]',
  handed_at TEXT NOT NULL,
  late INTEGER NOT NULL CHECK (late IN (0, 1)),
  taken_back_at TEXT,
  CHECK ((group_id IS NULL) <> (student_id IS NULL))
) STRICT;
CREATE UNIQUE INDEX one_version_each_group ON hand_in (task_id, group_id, version) WHERE group_id IS NOT NULL;
CREATE UNIQUE INDEX one_version_each_student ON hand_in (task_id, student_id, version) WHERE student_id IS NOT NULL;
CREATE INDEX hand_in_by_group ON hand_in (group_id) WHERE group_id IS NOT NULL;

-- For whom it was handed in, as the group stood at that moment.
CREATE TABLE hand_in_member (
  hand_in_id INTEGER NOT NULL REFERENCES hand_in (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  PRIMARY KEY (hand_in_id, enrolment_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX hand_in_by_member ON hand_in_member (enrolment_id);

CREATE TRIGGER hand_in_stays_as_it_was BEFORE UPDATE OF task_id, group_id, student_id, version, by_id, text, links, handed_at, late ON hand_in
BEGIN
  SELECT RAISE(ABORT, 'a hand-in is taken back or followed by another version, never changed');
END;

-- What is being written, by one at a time.
CREATE TABLE work_draft (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL REFERENCES task (id),
  group_id INTEGER REFERENCES sheet_group (id),
  student_id INTEGER REFERENCES enrolment (id),
  text TEXT NOT NULL,
  links TEXT NOT NULL DEFAULT '[]',
  holder_id INTEGER REFERENCES enrolment (id),
  held_at TEXT,
  saved_at TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX one_draft_each_owner ON work_draft (task_id, ifnull(group_id, 0), ifnull(student_id, 0));

-- marks ------------------------------------------------------------------------------------------------------
-- For a group or a student; or, with `apart_id`, for one member set apart from the group.
CREATE TABLE mark (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL REFERENCES task (id),
  group_id INTEGER REFERENCES sheet_group (id),
  student_id INTEGER REFERENCES enrolment (id),
  apart_id INTEGER REFERENCES enrolment (id),
  placements TEXT NOT NULL DEFAULT '{}',
  points REAL,
  feedback TEXT NOT NULL DEFAULT '',
  version INTEGER NOT NULL DEFAULT 1,
  changed_at TEXT NOT NULL,
  changed_by INTEGER NOT NULL REFERENCES person (id),
  released_at TEXT,
  CHECK ((group_id IS NULL) <> (student_id IS NULL))
) STRICT;
CREATE UNIQUE INDEX one_mark_each ON mark (task_id, ifnull(group_id, 0), ifnull(student_id, 0), ifnull(apart_id, 0));

-- May tutors mark the groups they look after?
ALTER TABLE course ADD COLUMN tutors_mark INTEGER NOT NULL DEFAULT 0 CHECK (tutors_mark IN (0, 1));
