-- Group pages with talk, files and messages; files in tasks and hand-ins.

-- tasks ------------------------------------------------------------------------------------------------------
-- Files can be handed in too, so the check on what is handed in changes, and the table is made anew.
CREATE TABLE task_anew (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  title TEXT NOT NULL,
  instructions TEXT NOT NULL DEFAULT '',
  -- What is handed in.
  takes_text INTEGER NOT NULL DEFAULT 1 CHECK (takes_text IN (0, 1)),
  takes_links INTEGER NOT NULL DEFAULT 1 CHECK (takes_links IN (0, 1)),
  takes_files INTEGER NOT NULL DEFAULT 0 CHECK (takes_files IN (0, 1)),
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
  CHECK (takes_text + takes_links + takes_files > 0),
  CHECK (available_from IS NULL OR due_at IS NULL OR available_from < due_at),
  CHECK (late <> 'until' OR (late_until IS NOT NULL AND due_at IS NOT NULL AND due_at < late_until))
) STRICT;
INSERT INTO task_anew (id, code, sheet_id, title, instructions, takes_text, takes_links, available_from, due_at, late,
    late_until, for_whom, without_group, points, criteria, out_at, created_at, removed_at)
  SELECT id, code, sheet_id, title, instructions, takes_text, takes_links, available_from, due_at, late, late_until,
    for_whom, without_group, points, criteria, out_at, created_at, removed_at FROM task;
DROP TABLE task;
ALTER TABLE task_anew RENAME TO task;
CREATE INDEX task_by_sheet ON task (sheet_id, id);
CREATE INDEX hand_in_by_task ON hand_in (task_id, version);

-- files ------------------------------------------------------------------------------------------------------
-- One row for each file on the disk, written in the moment in which it is whole. `stored` is its name there.
CREATE TABLE kept_file (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  stored TEXT NOT NULL UNIQUE,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  name TEXT NOT NULL,
  size INTEGER NOT NULL CHECK (size > 0),
  -- The media type, as its content shows.
  type TEXT NOT NULL,
  by_id INTEGER NOT NULL REFERENCES enrolment (id),
  kept_at TEXT NOT NULL
) STRICT;
CREATE INDEX kept_file_by_sheet ON kept_file (sheet_id);

-- A file on its way. How much has arrived is the size of its part on the disk; `aim` says what it is for, as JSON.
CREATE TABLE upload (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  by_id INTEGER NOT NULL REFERENCES enrolment (id),
  name TEXT NOT NULL,
  size INTEGER NOT NULL CHECK (size > 0),
  modified INTEGER NOT NULL,
  aim TEXT NOT NULL,
  begun_at TEXT NOT NULL
) STRICT;
CREATE INDEX upload_by_sheet ON upload (sheet_id);

-- Files of a group. A further file of the same name is a further version.
CREATE TABLE group_file (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  name TEXT NOT NULL,
  removed_at TEXT,
  removed_by INTEGER REFERENCES enrolment (id)
) STRICT;
CREATE UNIQUE INDEX one_name_each_group ON group_file (group_id, lower(name)) WHERE removed_at IS NULL;
CREATE INDEX group_file_by_group ON group_file (group_id);

CREATE TABLE group_file_version (
  group_file_id INTEGER NOT NULL REFERENCES group_file (id),
  version INTEGER NOT NULL CHECK (version >= 1),
  file_id INTEGER NOT NULL UNIQUE REFERENCES kept_file (id),
  PRIMARY KEY (group_file_id, version)
) STRICT, WITHOUT ROWID;

CREATE TABLE task_file (
  task_id INTEGER NOT NULL REFERENCES task (id),
  file_id INTEGER NOT NULL UNIQUE REFERENCES kept_file (id),
  PRIMARY KEY (task_id, file_id)
) STRICT, WITHOUT ROWID;

-- Files brought for a hand-in, before it is handed in.
CREATE TABLE draft_file (
  file_id INTEGER PRIMARY KEY REFERENCES kept_file (id),
  task_id INTEGER NOT NULL REFERENCES task (id),
  group_id INTEGER REFERENCES sheet_group (id),
  student_id INTEGER REFERENCES enrolment (id),
  CHECK ((group_id IS NULL) <> (student_id IS NULL))
) STRICT;
CREATE INDEX draft_file_by_task ON draft_file (task_id);

CREATE TABLE hand_in_file (
  hand_in_id INTEGER NOT NULL REFERENCES hand_in (id),
  file_id INTEGER NOT NULL REFERENCES kept_file (id),
  PRIMARY KEY (hand_in_id, file_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX hand_in_file_by_file ON hand_in_file (file_id);

-- group pages ------------------------------------------------------------------------------------------------
-- What the groups of a sheet get. A sheet without a row has the first choices.
CREATE TABLE group_extras (
  sheet_id INTEGER PRIMARY KEY REFERENCES sheet (id),
  messages INTEGER NOT NULL CHECK (messages IN (0, 1)),
  talk INTEGER NOT NULL CHECK (talk IN (0, 1)),
  files INTEGER NOT NULL CHECK (files IN (0, 1)),
  meeting INTEGER NOT NULL CHECK (meeting IN (0, 1)),
  name INTEGER NOT NULL CHECK (name IN (0, 1)),
  -- Who starts a subject in the talk, and who sets the meeting link.
  starts TEXT NOT NULL CHECK (starts IN ('everybody', 'staff')),
  meeting_by TEXT NOT NULL CHECK (meeting_by IN ('staff', 'convener')),
  -- Bytes that one file, and all files of one group, may have.
  file_bytes INTEGER NOT NULL CHECK (file_bytes > 0),
  group_bytes INTEGER NOT NULL CHECK (group_bytes >= file_bytes)
) STRICT;

CREATE TABLE group_place (
  group_id INTEGER PRIMARY KEY REFERENCES sheet_group (id),
  meeting TEXT NOT NULL DEFAULT '',
  name TEXT NOT NULL DEFAULT '',
  emblem TEXT NOT NULL DEFAULT ''
) STRICT;

CREATE TABLE group_message (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  by_id INTEGER NOT NULL REFERENCES enrolment (id),
  subject TEXT NOT NULL,
  text TEXT NOT NULL,
  sent_at TEXT NOT NULL,
  -- How many it went to.
  reached INTEGER NOT NULL
) STRICT;
CREATE INDEX group_message_by_group ON group_message (group_id, id);

-- talk -------------------------------------------------------------------------------------------------------
CREATE TABLE talk_subject (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  title TEXT NOT NULL,
  by_id INTEGER NOT NULL REFERENCES enrolment (id),
  begun_at TEXT NOT NULL,
  -- The same in all groups in which one subject was opened at once; null in one group alone.
  shared TEXT
) STRICT;
CREATE INDEX talk_subject_by_group ON talk_subject (group_id, id);

CREATE TABLE talk_post (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  subject_id INTEGER NOT NULL REFERENCES talk_subject (id),
  by_id INTEGER NOT NULL REFERENCES enrolment (id),
  text TEXT NOT NULL,
  posted_at TEXT NOT NULL,
  edited_at TEXT,
  removed_at TEXT,
  removed_by INTEGER REFERENCES enrolment (id)
) STRICT;
CREATE INDEX talk_post_by_subject ON talk_post (subject_id, id);

-- What a post said before it was edited.
CREATE TABLE talk_earlier (
  post_id INTEGER NOT NULL REFERENCES talk_post (id),
  replaced_at TEXT NOT NULL,
  text TEXT NOT NULL
) STRICT;
CREATE INDEX talk_earlier_by_post ON talk_earlier (post_id);

CREATE TABLE talk_mention (
  post_id INTEGER NOT NULL REFERENCES talk_post (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  PRIMARY KEY (post_id, enrolment_id)
) STRICT, WITHOUT ROWID;

-- Up to which post somebody has read a subject.
CREATE TABLE talk_read (
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  subject_id INTEGER NOT NULL REFERENCES talk_subject (id),
  post_id INTEGER NOT NULL,
  PRIMARY KEY (enrolment_id, subject_id)
) STRICT, WITHOUT ROWID;
