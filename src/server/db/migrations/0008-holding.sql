-- Since when somebody takes part: from the day they were added, or from the day they came back.
ALTER TABLE enrolment ADD COLUMN here_since TEXT NOT NULL DEFAULT '';
UPDATE enrolment SET here_since = created_at;
