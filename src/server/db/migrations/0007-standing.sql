-- Mail that is of use for a while only, and a row by which the server sees whether it can write.

-- Sign-in codes: until when the code works. They go before everything else, and not at all once that has passed.
ALTER TABLE mail ADD COLUMN ends_at TEXT;
DROP INDEX mail_waiting;
-- Codes first, then in the order in which mail was handed over.
CREATE INDEX mail_waiting ON mail (ends_at IS NULL, id) WHERE state = 'waiting';
CREATE INDEX mail_failed ON mail (id) WHERE state = 'failed';

CREATE TABLE pulse (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  at TEXT NOT NULL
) STRICT;
INSERT INTO pulse (id, at) VALUES (1, '');
