-- Instants are UTC ISO 8601 text of one width. Codes are random and stand in addresses; ids stay inside.

-- access -----------------------------------------------------------------------------------------------------
CREATE TABLE person (
  id INTEGER PRIMARY KEY,
  email TEXT NOT NULL UNIQUE CHECK (email = lower(trim(email))),
  created_at TEXT NOT NULL
) STRICT;

CREATE TABLE sign_in_code (
  id INTEGER PRIMARY KEY,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  code_hash TEXT NOT NULL,
  created_at TEXT NOT NULL,
  expires_at TEXT NOT NULL,
  tries_left INTEGER NOT NULL CHECK (tries_left >= 0),
  used_at TEXT
) STRICT;
CREATE INDEX sign_in_code_by_person ON sign_in_code (person_id, created_at);

CREATE TABLE session (
  id INTEGER PRIMARY KEY,
  token_hash TEXT NOT NULL UNIQUE,
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  created_at TEXT NOT NULL,
  last_seen_at TEXT NOT NULL
) STRICT;

-- courses ----------------------------------------------------------------------------------------------------
CREATE TABLE course (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  course_code TEXT NOT NULL,
  title TEXT NOT NULL,
  zone TEXT NOT NULL,
  created_at TEXT NOT NULL
) STRICT;

CREATE TABLE section (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  course_id INTEGER NOT NULL REFERENCES course (id),
  name TEXT NOT NULL COLLATE NOCASE,
  position INTEGER NOT NULL,
  UNIQUE (course_id, name)
) STRICT;

-- roster -----------------------------------------------------------------------------------------------------
CREATE TABLE enrolment (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  course_id INTEGER NOT NULL REFERENCES course (id),
  person_id INTEGER NOT NULL REFERENCES person (id),
  name TEXT NOT NULL CHECK (name <> ''),
  role TEXT NOT NULL CHECK (role IN ('student', 'tutor', 'instructor')),
  section_id INTEGER REFERENCES section (id),
  status TEXT NOT NULL DEFAULT 'active' CHECK (status IN ('active', 'paused', 'left')),
  created_at TEXT NOT NULL,
  UNIQUE (course_id, person_id)
) STRICT;
CREATE INDEX enrolment_by_person ON enrolment (person_id);

-- How a course's roster was before its last change, so that one undo brings it back, seats included.
CREATE TABLE roster_undo (
  course_id INTEGER PRIMARY KEY REFERENCES course (id),
  at TEXT NOT NULL,
  what TEXT NOT NULL,
  before TEXT NOT NULL
) STRICT;

-- sheets -----------------------------------------------------------------------------------------------------
CREATE TABLE sheet (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  link TEXT NOT NULL UNIQUE,
  course_id INTEGER NOT NULL REFERENCES course (id),
  title TEXT NOT NULL,
  instructions TEXT NOT NULL DEFAULT '',
  contact TEXT NOT NULL DEFAULT '',
  -- The common limit and floor. A limit of 0 is no limit, here and below.
  seats INTEGER NOT NULL CHECK (seats >= 0),
  floor INTEGER NOT NULL CHECK (floor >= 1),
  -- House rules; what the choices mean stands in core/rules.ts.
  seats_each INTEGER NOT NULL DEFAULT 1 CHECK (seats_each >= 1),
  changing TEXT NOT NULL DEFAULT 'until-close' CHECK (changing IN ('until-close', 'by-asking', 'never')),
  names TEXT NOT NULL DEFAULT 'mates' CHECK (names IN ('mates', 'seated', 'after-close', 'everyone', 'nobody')),
  offers TEXT NOT NULL DEFAULT 'section' CHECK (offers IN ('section', 'course')),
  full_groups TEXT NOT NULL DEFAULT 'full' CHECK (full_groups IN ('full', 'line')),
  convener TEXT NOT NULL DEFAULT 'first' CHECK (convener IN ('first', 'lot', 'named', 'none')),
  lot_number INTEGER NOT NULL,
  visible_before INTEGER NOT NULL DEFAULT 1 CHECK (visible_before IN (0, 1)),
  opens_at TEXT,
  closes_at TEXT,
  published_at TEXT,
  archived_at TEXT,
  deleted_at TEXT,
  created_at TEXT NOT NULL,
  CHECK (opens_at IS NULL OR closes_at IS NULL OR opens_at < closes_at)
) STRICT;
CREATE INDEX sheet_by_course ON sheet (course_id);

CREATE TABLE topic (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  position INTEGER NOT NULL,
  title TEXT NOT NULL,
  brief TEXT NOT NULL DEFAULT '',
  place TEXT NOT NULL DEFAULT '',
  link TEXT NOT NULL DEFAULT '',
  starts_at TEXT,
  ends_at TEXT,
  seats INTEGER CHECK (seats >= 0),
  floor INTEGER CHECK (floor >= 1),
  created_at TEXT NOT NULL,
  removed_at TEXT,
  CHECK (ends_at IS NULL OR starts_at < ends_at)
) STRICT;
CREATE INDEX topic_by_sheet ON topic (sheet_id, position);

CREATE TABLE sheet_group (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  topic_id INTEGER NOT NULL REFERENCES topic (id),
  section_id INTEGER REFERENCES section (id),
  -- Exceptions of this one group; null follows the topic.
  offered INTEGER NOT NULL DEFAULT 1 CHECK (offered IN (0, 1)),
  seats INTEGER CHECK (seats >= 0),
  floor INTEGER CHECK (floor >= 1),
  place TEXT,
  link TEXT,
  starts_at TEXT,
  ends_at TEXT,
  convener_id INTEGER REFERENCES enrolment (id),
  CHECK (ends_at IS NULL OR starts_at < ends_at)
) STRICT;
CREATE UNIQUE INDEX one_group_per_topic_and_section ON sheet_group (topic_id, ifnull(section_id, 0));

-- Tutors and instructors who look after a group.
CREATE TABLE group_tutor (
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  PRIMARY KEY (group_id, enrolment_id)
) STRICT, WITHOUT ROWID;

-- The limit and floor a group has: its own, else its topic's, else the sheet's common one.
CREATE VIEW group_limit AS
SELECT g.id AS group_id, t.id AS topic_id, t.sheet_id, s.course_id, t.removed_at, g.offered,
       coalesce(g.seats, t.seats, s.seats) AS seats, coalesce(g.floor, t.floor, s.floor) AS floor
FROM sheet_group g JOIN topic t ON t.id = g.topic_id JOIN sheet s ON s.id = t.sheet_id;

-- seats ------------------------------------------------------------------------------------------------------
CREATE TABLE seat (
  id INTEGER PRIMARY KEY,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  extra INTEGER NOT NULL DEFAULT 0 CHECK (extra IN (0, 1)),
  taken_at TEXT NOT NULL,
  UNIQUE (enrolment_id, group_id)
) STRICT;
CREATE INDEX seat_by_group ON seat (group_id);
CREATE INDEX seat_by_sheet_and_enrolment ON seat (sheet_id, enrolment_id);

-- Who waits for a seat in a full group, in order of id.
CREATE TABLE line_place (
  id INTEGER PRIMARY KEY,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  joined_at TEXT NOT NULL,
  UNIQUE (group_id, enrolment_id)
) STRICT;
CREATE INDEX line_place_by_sheet ON line_place (sheet_id, enrolment_id);

-- A seat kept free, for a named person or for a use that the note says.
CREATE TABLE held_seat (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  enrolment_id INTEGER REFERENCES enrolment (id),
  note TEXT NOT NULL DEFAULT '',
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX held_seat_by_group ON held_seat (group_id);

-- A student's request to change seats, where the house rules want the instructor asked.
CREATE TABLE seat_request (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  from_group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  to_group_id INTEGER REFERENCES sheet_group (id),
  reason TEXT NOT NULL,
  made_at TEXT NOT NULL,
  answer TEXT CHECK (answer IN ('granted', 'declined', 'withdrawn')),
  answered_at TEXT,
  answered_by INTEGER REFERENCES person (id)
) STRICT;
CREATE UNIQUE INDEX one_open_request_per_student ON seat_request (sheet_id, enrolment_id) WHERE answer IS NULL;

-- Guards. They hold what the claims engine decides, should it ever decide wrongly.
CREATE TRIGGER seat_taken_within_the_rules BEFORE INSERT ON seat
BEGIN
  SELECT RAISE(ABORT, 'seat outside its sheet') WHERE NOT EXISTS (
    SELECT 1 FROM group_limit l JOIN enrolment e ON e.course_id = l.course_id
    WHERE l.group_id = NEW.group_id AND l.sheet_id = NEW.sheet_id AND l.removed_at IS NULL AND l.offered = 1
      AND e.id = NEW.enrolment_id);
  SELECT RAISE(ABORT, 'more seats than a student may hold') WHERE
    (SELECT count(*) FROM seat WHERE sheet_id = NEW.sheet_id AND enrolment_id = NEW.enrolment_id)
    >= (SELECT seats_each FROM sheet WHERE id = NEW.sheet_id);
  SELECT RAISE(ABORT, 'group past its limit') WHERE NEW.extra = 0 AND
    (SELECT count(*) FROM seat WHERE group_id = NEW.group_id)
    + (SELECT count(*) FROM held_seat WHERE group_id = NEW.group_id AND enrolment_id IS NOT NEW.enrolment_id)
    >= (SELECT iif(seats = 0, 1000000, seats) FROM group_limit WHERE group_id = NEW.group_id);
END;

-- A move is a seat given up and another taken, so a seat's place and owner never change in place.
CREATE TRIGGER seat_stays_where_it_is BEFORE UPDATE OF sheet_id, group_id, enrolment_id ON seat
BEGIN
  SELECT RAISE(ABORT, 'a seat is taken or given up, never turned into another');
END;

CREATE TRIGGER limit_of_topic_covers_seated AFTER UPDATE OF seats ON topic
BEGIN
  SELECT RAISE(ABORT, 'limit below the seats that are not extra') WHERE EXISTS (
    SELECT 1 FROM group_limit l WHERE l.topic_id = NEW.id AND l.seats > 0 AND
      (SELECT count(*) FROM seat WHERE group_id = l.group_id AND extra = 0) > l.seats);
END;

CREATE TRIGGER limit_of_sheet_covers_seated AFTER UPDATE OF seats ON sheet
BEGIN
  SELECT RAISE(ABORT, 'limit below the seats that are not extra') WHERE EXISTS (
    SELECT 1 FROM group_limit l WHERE l.sheet_id = NEW.id AND l.seats > 0 AND
      (SELECT count(*) FROM seat WHERE group_id = l.group_id AND extra = 0) > l.seats);
END;

CREATE TRIGGER limit_of_group_covers_seated AFTER UPDATE OF seats ON sheet_group
BEGIN
  SELECT RAISE(ABORT, 'limit below the seats that are not extra') WHERE EXISTS (
    SELECT 1 FROM group_limit l WHERE l.group_id = NEW.id AND l.seats > 0 AND
      (SELECT count(*) FROM seat WHERE group_id = l.group_id AND extra = 0) > l.seats);
END;

-- The answer given to each claim, by the asker's key, so that a retry gets the same answer and no second seat.
CREATE TABLE claim_answer (
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  claim_key TEXT NOT NULL,
  ask TEXT NOT NULL,
  refusal TEXT,
  at TEXT NOT NULL,
  PRIMARY KEY (enrolment_id, claim_key)
) STRICT, WITHOUT ROWID;

-- ledger -----------------------------------------------------------------------------------------------------
CREATE TABLE ledger (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  at TEXT NOT NULL,
  actor_id INTEGER REFERENCES person (id),
  kind TEXT NOT NULL,
  enrolment_id INTEGER REFERENCES enrolment (id),
  from_group_id INTEGER REFERENCES sheet_group (id),
  to_group_id INTEGER REFERENCES sheet_group (id),
  detail TEXT NOT NULL DEFAULT '{}'
) STRICT;
CREATE INDEX ledger_by_sheet ON ledger (sheet_id, id);

CREATE TRIGGER ledger_rows_stay_as_written BEFORE UPDATE ON ledger
BEGIN
  SELECT RAISE(ABORT, 'the ledger is only added to');
END;
CREATE TRIGGER ledger_rows_stay BEFORE DELETE ON ledger
BEGIN
  SELECT RAISE(ABORT, 'the ledger is only added to');
END;

-- announcements ----------------------------------------------------------------------------------------------
CREATE TABLE announcement (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  text TEXT NOT NULL,
  address TEXT NOT NULL,
  goes TEXT NOT NULL CHECK (goes IN ('now', 'opening')),
  made_at TEXT NOT NULL,
  made_by INTEGER NOT NULL REFERENCES person (id),
  sent_at TEXT,
  recipients INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX announcement_waiting ON announcement (id) WHERE sent_at IS NULL;

-- mail -------------------------------------------------------------------------------------------------------
CREATE TABLE mail (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  recipient TEXT NOT NULL,
  subject TEXT NOT NULL,
  body TEXT NOT NULL,
  created_at TEXT NOT NULL
) STRICT;
