-- Seating by hand and by plan, nudges, and a queue for mail.

-- mail -------------------------------------------------------------------------------------------------------
-- Kept: in the outbox, for want of a mail server. Waiting mail is sent, and tried again until it is failed.
ALTER TABLE mail ADD COLUMN state TEXT NOT NULL DEFAULT 'kept' CHECK (state IN ('kept', 'waiting', 'sent', 'failed'));
ALTER TABLE mail ADD COLUMN tries INTEGER NOT NULL DEFAULT 0;
ALTER TABLE mail ADD COLUMN due_at TEXT;
ALTER TABLE mail ADD COLUMN fault TEXT;
CREATE INDEX mail_waiting ON mail (due_at) WHERE state = 'waiting';

-- courses ----------------------------------------------------------------------------------------------------
-- May tutors seat people in the groups they look after?
ALTER TABLE course ADD COLUMN tutors_may TEXT NOT NULL DEFAULT 'see' CHECK (tutors_may IN ('see', 'seat'));

-- sheets -----------------------------------------------------------------------------------------------------
-- House rules for those who are left when the window closes, and for those who come later.
ALTER TABLE sheet ADD COLUMN at_close TEXT NOT NULL DEFAULT 'leave' CHECK (at_close IN ('leave', 'draft', 'seat'));
ALTER TABLE sheet ADD COLUMN late TEXT NOT NULL DEFAULT 'leave' CHECK (late IN ('leave', 'seat'));

-- Nudges that one student may get within a day.
ALTER TABLE sheet ADD COLUMN nudges_a_day INTEGER NOT NULL DEFAULT 2 CHECK (nudges_a_day BETWEEN 1 AND 10);

-- plans ------------------------------------------------------------------------------------------------------
-- People of a course whom plans keep apart or together, on every sheet of it.
CREATE TABLE keeping (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  course_id INTEGER NOT NULL REFERENCES course (id),
  kind TEXT NOT NULL CHECK (kind IN ('apart', 'together')),
  note TEXT NOT NULL DEFAULT '',
  expires_at TEXT,
  made_at TEXT NOT NULL
) STRICT;
CREATE INDEX keeping_by_course ON keeping (course_id);

CREATE TABLE keeping_member (
  keeping_id INTEGER NOT NULL REFERENCES keeping (id) ON DELETE CASCADE,
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  PRIMARY KEY (keeping_id, enrolment_id)
) STRICT, WITHOUT ROWID;

-- A plan that was kept for later, drafted at a close, or applied. Its content is JSON, with ids for people and groups.
CREATE TABLE plan (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  title TEXT NOT NULL,
  content TEXT NOT NULL,
  -- Where the sheet's ledger stood when it was made.
  position INTEGER NOT NULL,
  made_at TEXT NOT NULL,
  -- Nobody made a plan that follows from a house rule.
  made_by INTEGER REFERENCES person (id),
  applied_at TEXT,
  undone_at TEXT
) STRICT;
CREATE INDEX plan_by_sheet ON plan (sheet_id, id);

-- What the house rule for the close did, once for each closing time.
CREATE TABLE closing (
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  closes_at TEXT NOT NULL,
  done_at TEXT NOT NULL,
  plan_id INTEGER REFERENCES plan (id),
  PRIMARY KEY (sheet_id, closes_at)
) STRICT, WITHOUT ROWID;

-- nudges -----------------------------------------------------------------------------------------------------
-- When each student opened a sheet first and last.
CREATE TABLE visit (
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  first_at TEXT NOT NULL,
  last_at TEXT NOT NULL,
  PRIMARY KEY (sheet_id, enrolment_id)
) STRICT, WITHOUT ROWID;

CREATE TABLE nudge (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  subject TEXT NOT NULL,
  text TEXT NOT NULL,
  -- The sheet's public address, as it stands in the mail.
  address TEXT NOT NULL,
  -- Hours before the close at which it goes by itself; null went at once.
  before_close REAL CHECK (before_close > 0),
  made_at TEXT NOT NULL,
  made_by INTEGER NOT NULL REFERENCES person (id),
  sent_at TEXT
) STRICT;
CREATE INDEX nudge_by_sheet ON nudge (sheet_id, id);

CREATE TABLE nudged (
  nudge_id INTEGER NOT NULL REFERENCES nudge (id) ON DELETE CASCADE,
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  mail_id INTEGER REFERENCES mail (id),
  at TEXT NOT NULL,
  PRIMARY KEY (nudge_id, enrolment_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX nudged_by_enrolment ON nudged (enrolment_id, at);
