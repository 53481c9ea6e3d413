-- A course put away, or deleted, and sections that went away. All of it can be brought back.

ALTER TABLE course ADD COLUMN archived_at TEXT;
ALTER TABLE course ADD COLUMN deleted_at TEXT;

ALTER TABLE section ADD COLUMN removed_at TEXT;
-- Its name while it is removed: the column `name` holds something of no use then, so that another may have it.
ALTER TABLE section ADD COLUMN removed_name TEXT;
-- What its removal changed, as JSON, for bringing it back.
ALTER TABLE section ADD COLUMN removal TEXT;

-- The subject that the first groups of a sheet get, as JSON: its title, its first post, and the enrolment of its writer.
ALTER TABLE sheet ADD COLUMN first_subject TEXT;

-- Whoever comes late and finds no free seat may also begin a further group.
ALTER TABLE sheet RENAME COLUMN late_full TO late_full_was;
ALTER TABLE sheet ADD COLUMN late_full TEXT NOT NULL DEFAULT 'wait' CHECK (late_full IN ('wait', 'extra', 'group'));
UPDATE sheet SET late_full = late_full_was;
ALTER TABLE sheet DROP COLUMN late_full_was;
-- From when on somebody who joins the course is late: since the close, or already while the sheet is open.
ALTER TABLE sheet ADD COLUMN late_from TEXT NOT NULL DEFAULT 'close' CHECK (late_from IN ('close', 'opening'));
CREATE INDEX sheet_late_while_open ON sheet (opens_at)
  WHERE opens_at IS NOT NULL AND published_at IS NOT NULL AND archived_at IS NULL AND deleted_at IS NULL
    AND late = 'seat' AND late_from = 'opening';
CREATE INDEX ledger_of_enrolment ON ledger (sheet_id, enrolment_id) WHERE kind = 'seat-taken';

-- A task that each student of a list does alone; null where it is for all.
ALTER TABLE task ADD COLUMN list_id INTEGER REFERENCES people_list (id);
