-- What went out to whose calendar, so that an entry that changes counts up (RFC 5545, SEQUENCE), and one that was saved
-- as a file can be cancelled under the same name.
CREATE TABLE calendar_entry (
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE,
  -- What it stands for, the same for as long as that.
  entry TEXT NOT NULL,
  -- As it went out last, as JSON.
  content TEXT NOT NULL,
  sequence INTEGER NOT NULL CHECK (sequence >= 0),
  changed_at TEXT NOT NULL,
  -- When it was saved as a file of its own and not taken back since; else null.
  saved_at TEXT,
  PRIMARY KEY (person_id, entry)
) STRICT, WITHOUT ROWID;
CREATE INDEX calendar_entry_by_change ON calendar_entry (changed_at);
