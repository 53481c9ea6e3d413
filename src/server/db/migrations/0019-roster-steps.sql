-- Each change of a roster has a name of its own and its author, so that an undo takes back the one that its reader saw.
ALTER TABLE roster_undo ADD COLUMN step TEXT NOT NULL DEFAULT '';
ALTER TABLE roster_undo ADD COLUMN by_id INTEGER REFERENCES person (id);
