-- Work as it is taught: tasks without a hand-in, dated by each group, that differ for some; marks that belong to whoever was there.

-- 0 where nothing is handed in: what is marked takes place, such as a talk. What it would take else is kept beside.
ALTER TABLE task ADD COLUMN hands_in INTEGER NOT NULL DEFAULT 1 CHECK (hands_in IN (0, 1));
-- What says when a task is due: a date of its own, or the date of each group.
ALTER TABLE task ADD COLUMN dated_by TEXT NOT NULL DEFAULT 'task' CHECK (dated_by IN ('task', 'group'));
-- The most words that its text may have; null where that is free.
ALTER TABLE task ADD COLUMN most_words INTEGER CHECK (most_words > 0);

-- Who was there when a group was first marked without a hand-in: theirs is the mark, whoever sits there later.
CREATE TABLE marked_there (
  task_id INTEGER NOT NULL REFERENCES task (id),
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  PRIMARY KEY (task_id, group_id, enrolment_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX marked_there_by_member ON marked_there (enrolment_id, task_id);
-- Groups of which it was said by hand who was there, so that taking the mark away again does not forget it.
CREATE TABLE there_by_hand (
  task_id INTEGER NOT NULL REFERENCES task (id),
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  PRIMARY KEY (task_id, group_id)
) STRICT, WITHOUT ROWID;

-- Marks that stand without a hand-in belong to those who sit there now: who sat there then was not kept.
INSERT INTO marked_there (task_id, group_id, enrolment_id)
  SELECT DISTINCT m.task_id, m.group_id, s.enrolment_id FROM mark m JOIN seat s ON s.group_id = m.group_id
  WHERE m.group_id IS NOT NULL AND NOT EXISTS (
    SELECT 1 FROM hand_in h WHERE h.task_id = m.task_id AND h.group_id = m.group_id AND h.taken_back_at IS NULL
  );

-- What is otherwise in a task for some, unseen by the others: only what differs is in `fields`, as JSON.
CREATE TABLE task_difference (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  task_id INTEGER NOT NULL REFERENCES task (id),
  -- For the staff alone.
  note TEXT NOT NULL DEFAULT '',
  fields TEXT NOT NULL,
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX task_difference_by_task ON task_difference (task_id, id);
CREATE TABLE task_difference_for (
  difference_id INTEGER NOT NULL REFERENCES task_difference (id) ON DELETE CASCADE,
  group_id INTEGER REFERENCES sheet_group (id),
  list_id INTEGER REFERENCES people_list (id),
  student_id INTEGER REFERENCES enrolment (id),
  CHECK ((group_id IS NOT NULL) + (list_id IS NOT NULL) + (student_id IS NOT NULL) = 1)
) STRICT;
CREATE INDEX task_difference_for_each ON task_difference_for (difference_id);
CREATE INDEX task_difference_for_group ON task_difference_for (group_id) WHERE group_id IS NOT NULL;

-- Meetings of a group: once, or each week at the same hour on the wall.
CREATE TABLE meeting (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  title TEXT NOT NULL,
  place TEXT NOT NULL,
  link TEXT NOT NULL,
  starts_at TEXT NOT NULL,
  minutes INTEGER NOT NULL CHECK (minutes > 0),
  weeks INTEGER NOT NULL CHECK (weeks >= 1),
  -- Days on which it does not take place, as JSON, in the course's zone.
  skipped TEXT NOT NULL DEFAULT '[]',
  by_id INTEGER NOT NULL REFERENCES enrolment (id),
  set_at TEXT NOT NULL,
  removed_at TEXT
) STRICT;
CREATE INDEX meeting_by_group ON meeting (group_id, starts_at);
-- When somebody could meet with a group: a sign for each hour of the week.
CREATE TABLE could_meet (
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  hours TEXT NOT NULL CHECK (length(hours) = 168),
  PRIMARY KEY (group_id, enrolment_id)
) STRICT, WITHOUT ROWID;

ALTER TABLE group_extras ADD COLUMN calendar INTEGER NOT NULL DEFAULT 0 CHECK (calendar IN (0, 1));
-- What one group gets otherwise than all of its sheet, as JSON.
CREATE TABLE group_own_extras (
  group_id INTEGER PRIMARY KEY REFERENCES sheet_group (id),
  fields TEXT NOT NULL
) STRICT;

-- Whether members are asked how the work was shared, and who sees it: nobody is asked, staff alone, or each their own average too.
ALTER TABLE task ADD COLUMN shares TEXT NOT NULL DEFAULT 'no' CHECK (shares IN ('no', 'staff', 'own'));
CREATE TABLE work_share (
  task_id INTEGER NOT NULL REFERENCES task (id),
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  by_id INTEGER NOT NULL REFERENCES enrolment (id),
  -- JSON of the points, by enrolment.
  points TEXT NOT NULL,
  words TEXT NOT NULL,
  given_at TEXT NOT NULL,
  PRIMARY KEY (task_id, group_id, by_id)
) STRICT, WITHOUT ROWID;

-- A middle kind of talk: subjects are opened by staff, and threads within them by everybody.
ALTER TABLE group_extras RENAME COLUMN starts TO starts_was;
ALTER TABLE group_extras ADD COLUMN starts TEXT NOT NULL DEFAULT 'everybody' CHECK (starts IN ('everybody', 'threads', 'staff'));
UPDATE group_extras SET starts = starts_was;
ALTER TABLE group_extras DROP COLUMN starts_was;
-- The subject that a thread stands in; null for a subject.
ALTER TABLE talk_subject ADD COLUMN within_id INTEGER REFERENCES talk_subject (id);

-- Who wants what they have not read by mail, once a day at most.
CREATE TABLE talk_digest (
  person_id INTEGER PRIMARY KEY REFERENCES person (id),
  -- When it is looked again whether there is something to send, under which address the pages are, and up to which post it was sent.
  look_at TEXT NOT NULL,
  address TEXT NOT NULL,
  up_to INTEGER NOT NULL
) STRICT;
CREATE INDEX talk_digest_due ON talk_digest (look_at);

-- Works drawn by lot for a second reading, and what their second reader says of them. It changes no mark.
CREATE TABLE second_reading (
  id INTEGER PRIMARY KEY,
  task_id INTEGER NOT NULL REFERENCES task (id),
  group_id INTEGER REFERENCES sheet_group (id),
  student_id INTEGER REFERENCES enrolment (id),
  reader_id INTEGER NOT NULL REFERENCES enrolment (id),
  lot_number INTEGER NOT NULL,
  drawn_at TEXT NOT NULL,
  placements TEXT NOT NULL DEFAULT '{}',
  points REAL,
  feedback TEXT NOT NULL DEFAULT '',
  version INTEGER NOT NULL DEFAULT 0,
  read_at TEXT,
  CHECK ((group_id IS NULL) <> (student_id IS NULL))
) STRICT;
CREATE UNIQUE INDEX one_second_reading_each ON second_reading (task_id, ifnull(group_id, 0), ifnull(student_id, 0));

-- What the convener of a group may do besides: nothing, seat people without a group, or also take members out.
ALTER TABLE sheet ADD COLUMN convener_may TEXT NOT NULL DEFAULT 'no' CHECK (convener_may IN ('no', 'seat', 'both'));
-- Members whom their convener has asked to leave, and who have not answered.
CREATE TABLE leave_ask (
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  by_id INTEGER NOT NULL REFERENCES enrolment (id),
  asked_at TEXT NOT NULL,
  PRIMARY KEY (group_id, enrolment_id)
) STRICT, WITHOUT ROWID;
