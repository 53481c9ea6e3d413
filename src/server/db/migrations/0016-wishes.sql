-- Seats given by wishes: students rank topics, the close decides.
ALTER TABLE sheet RENAME COLUMN road TO road_was;
ALTER TABLE sheet ADD COLUMN road TEXT NOT NULL DEFAULT 'chosen' CHECK (road IN ('chosen', 'wished', 'made'));
UPDATE sheet SET road = road_was;
ALTER TABLE sheet DROP COLUMN road_was;
-- How many topics a list needs to count, how many it may have, and how many somebody may say that they cannot have.
ALTER TABLE sheet ADD COLUMN wishes_least INTEGER NOT NULL DEFAULT 3 CHECK (wishes_least >= 1);
ALTER TABLE sheet ADD COLUMN wishes_most INTEGER NOT NULL DEFAULT 10 CHECK (wishes_most >= wishes_least);
ALTER TABLE sheet ADD COLUMN cannot_most INTEGER NOT NULL DEFAULT 1 CHECK (cannot_most >= 0);
-- With how many named mates somebody may wish to sit.
ALTER TABLE sheet ADD COLUMN mates_most INTEGER NOT NULL DEFAULT 0 CHECK (mates_most BETWEEN 0 AND 3);
-- What students are told of each other's wishes.
ALTER TABLE sheet ADD COLUMN wish_worth TEXT NOT NULL DEFAULT 'nothing' CHECK (wish_worth IN ('nothing', 'demand', 'odds'));
-- What the close aims at.
ALTER TABLE sheet ADD COLUMN aim TEXT NOT NULL DEFAULT 'most-first'
  CHECK (aim IN ('most-first', 'nobody-far-down', 'least-total', 'in-turn'));

-- What one student wishes for on a sheet.
CREATE TABLE wish_list (
  id INTEGER PRIMARY KEY,
  -- Names the list in a record without names; only its student and staff know whose it is.
  code TEXT NOT NULL UNIQUE,
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  enrolment_id INTEGER NOT NULL REFERENCES enrolment (id),
  -- JSON: topics by rank, [[3], [5, 8]]; those that cannot be, [{"topic": 4, "reason": "…"}].
  ranks TEXT NOT NULL,
  cannot TEXT NOT NULL,
  -- JSON: addresses of those with whom they would sit, and whether that comes before their topics:
  -- {"people": ["a@x"], "first": false}. Nobody is told who named them, before they have named them too.
  mates TEXT NOT NULL,
  -- Counts up with every change.
  version INTEGER NOT NULL,
  changed_at TEXT NOT NULL,
  UNIQUE (sheet_id, enrolment_id)
) STRICT;

-- What a plan by wishes that was applied was made from, as JSON, so that everybody can be told why.
CREATE TABLE wish_settling (
  plan_id INTEGER PRIMARY KEY REFERENCES plan (id),
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  input TEXT NOT NULL,
  -- Whether the record without names is there for students.
  handed_out INTEGER NOT NULL DEFAULT 0 CHECK (handed_out IN (0, 1))
) STRICT;
CREATE INDEX wish_settling_of_sheet ON wish_settling (sheet_id);
