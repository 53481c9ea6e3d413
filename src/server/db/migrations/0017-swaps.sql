-- Seats that were given by wishes can be swapped, where everybody in it agrees.
ALTER TABLE sheet ADD COLUMN swaps TEXT NOT NULL DEFAULT 'no' CHECK (swaps IN ('no', 'offered'));
CREATE INDEX sheet_with_swaps ON sheet (id) WHERE swaps = 'offered';

-- What somebody would rather have than their seat. Without a row it is what they ranked above it.
CREATE TABLE swap_wish (
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  -- JSON: topics by rank, [[3], [5, 8]].
  ranks TEXT NOT NULL,
  -- Counts up with every change.
  version INTEGER NOT NULL,
  changed_at TEXT NOT NULL,
  PRIMARY KEY (sheet_id, enrolment_id)
) STRICT, WITHOUT ROWID;

-- A swap that was found, and offered to everybody in it.
CREATE TABLE swap (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  found_at TEXT NOT NULL,
  -- Until when it can be accepted.
  until TEXT NOT NULL,
  ended_at TEXT,
  ending TEXT CHECK (ending IN ('made', 'declined', 'lapsed', 'fallen')),
  CHECK ((ended_at IS NULL) = (ending IS NULL))
) STRICT;
CREATE INDEX swap_of_sheet ON swap (sheet_id, id);
CREATE INDEX swap_open ON swap (until) WHERE ended_at IS NULL;

-- One person’s part of a swap.
CREATE TABLE swap_part (
  swap_id INTEGER NOT NULL REFERENCES swap (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  from_group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  to_group_id INTEGER NOT NULL REFERENCES sheet_group (id),
  accepted_at TEXT,
  -- When they were told of it by mail; null where they were told of another shortly before.
  told_at TEXT,
  PRIMARY KEY (swap_id, enrolment_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX swap_part_of ON swap_part (enrolment_id, swap_id);
