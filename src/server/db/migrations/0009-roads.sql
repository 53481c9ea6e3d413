-- How groups come about, whom a sheet is for, and topics with one group for all sections.

-- Chosen by students, or made by the instructor: then nobody takes, moves or gives up a seat.
ALTER TABLE sheet ADD COLUMN road TEXT NOT NULL DEFAULT 'chosen' CHECK (road IN ('chosen', 'made'));
-- Whether a topic has one group for everybody, or one in each section. Null follows the sheet.
ALTER TABLE sheet ADD COLUMN mixed INTEGER NOT NULL DEFAULT 0 CHECK (mixed IN (0, 1));
ALTER TABLE topic ADD COLUMN mixed INTEGER CHECK (mixed IN (0, 1));
-- A group that its topic does not have any more, since it is mixed, or is not. It comes back as it was.
ALTER TABLE sheet_group ADD COLUMN removed_at TEXT;

DROP VIEW group_limit;
CREATE VIEW group_limit AS
SELECT g.id AS group_id, t.id AS topic_id, t.sheet_id, s.course_id, ifnull(t.removed_at, g.removed_at) AS removed_at,
       g.offered, coalesce(g.seats, t.seats, s.seats) AS seats, coalesce(g.floor, t.floor, s.floor) AS floor
FROM sheet_group g JOIN topic t ON t.id = g.topic_id JOIN sheet s ON s.id = t.sheet_id;

-- What of somebody who comes late and finds no free seat: left to the instructor, or one more seat in the smallest group.
ALTER TABLE sheet ADD COLUMN late_full TEXT NOT NULL DEFAULT 'wait' CHECK (late_full IN ('wait', 'extra'));
-- Up to where in the ledger instructors were told whom the rule for late enrolments seated, and when.
CREATE TABLE late_told (
  sheet_id INTEGER PRIMARY KEY REFERENCES sheet (id),
  position INTEGER NOT NULL,
  told_at TEXT
) STRICT;

-- lists of people ----------------------------------------------------------------------------------------------
-- People of a course under a title, with a note that only staff see.
CREATE TABLE people_list (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  course_id INTEGER NOT NULL REFERENCES course (id),
  title TEXT NOT NULL,
  note TEXT NOT NULL DEFAULT '',
  made_at TEXT NOT NULL,
  removed_at TEXT
) STRICT;
CREATE INDEX people_list_by_course ON people_list (course_id);

CREATE TABLE people_list_member (
  list_id INTEGER NOT NULL REFERENCES people_list (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  PRIMARY KEY (list_id, enrolment_id)
) STRICT, WITHOUT ROWID;

-- For whom a sheet is. Whoever it is not for never learns of it.
ALTER TABLE sheet ADD COLUMN for_whom TEXT NOT NULL DEFAULT 'course' CHECK (for_whom IN ('course', 'sections', 'list'));
ALTER TABLE sheet ADD COLUMN list_id INTEGER REFERENCES people_list (id);
CREATE TABLE sheet_section (
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  section_id INTEGER NOT NULL REFERENCES section (id),
  PRIMARY KEY (sheet_id, section_id)
) STRICT, WITHOUT ROWID;

-- roster ----------------------------------------------------------------------------------------------------------
-- What a roster file says of somebody besides, as JSON by the names of its columns: for staff, to mix groups by.
ALTER TABLE enrolment ADD COLUMN attributes TEXT NOT NULL DEFAULT '{}';

-- mail -------------------------------------------------------------------------------------------------------------
-- What mail was caused by that is held for a moment, so that what is undone within it is never told.
ALTER TABLE mail ADD COLUMN cause TEXT NOT NULL DEFAULT '';
CREATE INDEX mail_by_cause ON mail (sheet_id, cause) WHERE cause <> '';
