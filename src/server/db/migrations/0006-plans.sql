-- How names are put in order, and rules that could not be carried out.

ALTER TABLE course ADD COLUMN name_language TEXT NOT NULL DEFAULT 'en';
ALTER TABLE course ADD COLUMN name_particles TEXT NOT NULL DEFAULT 'skip' CHECK (name_particles IN ('count', 'skip'));

-- A house rule for the close or for late enrolments that could not be carried out, until it can. Told once.
CREATE TABLE rule_trouble (
  sheet_id INTEGER NOT NULL REFERENCES sheet (id),
  rule TEXT NOT NULL CHECK (rule IN ('close', 'late')),
  closes_at TEXT NOT NULL,
  why TEXT NOT NULL,
  since TEXT NOT NULL,
  PRIMARY KEY (sheet_id, rule)
) STRICT;
