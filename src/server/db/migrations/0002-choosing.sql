-- Two more house rules, invitations, and calendars to subscribe to.

-- When a waiting line seats somebody, are the other lines left or kept? Until now one seat left them, several kept them.
ALTER TABLE sheet ADD COLUMN other_lines TEXT NOT NULL DEFAULT 'leave' CHECK (other_lines IN ('leave', 'keep'));
UPDATE sheet SET other_lines = 'keep' WHERE seats_each > 1;

-- May the member who answers for a group invite somebody who has none?
ALTER TABLE sheet ADD COLUMN invitations TEXT NOT NULL DEFAULT 'no' CHECK (invitations IN ('no', 'convener'));

-- How full the groups of a sheet are is counted without looking at the seats themselves.
CREATE INDEX seat_by_sheet_and_group ON seat (sheet_id, group_id);

-- invitations ------------------------------------------------------------------------------------------------
CREATE TABLE invitation (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  -- Who is invited, and by whom.
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  by_id INTEGER NOT NULL REFERENCES enrolment (id),
  made_at TEXT NOT NULL,
  -- Lapsed: the invited took a seat elsewhere.
  answer TEXT CHECK (answer IN ('accepted', 'declined', 'withdrawn', 'lapsed')),
  answered_at TEXT
) STRICT;
CREATE UNIQUE INDEX one_open_invitation_per_group ON invitation (group_id, enrolment_id) WHERE answer IS NULL;
CREATE INDEX invitation_by_enrolment ON invitation (sheet_id, enrolment_id);

-- calendars --------------------------------------------------------------------------------------------------
-- The private address of a person's calendar. It is kept as it is, to be shown again: whoever reads this file can
-- read the seats in it anyhow.
CREATE TABLE calendar_feed (
  person_id INTEGER PRIMARY KEY REFERENCES person (id),
  token TEXT NOT NULL UNIQUE,
  made_at TEXT NOT NULL
) STRICT;
