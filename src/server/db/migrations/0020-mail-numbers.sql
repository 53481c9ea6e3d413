-- Numbers of mails are never used twice: what is written to a mail after its transaction meets that mail, or none, also where
-- the newest one was recalled meanwhile (https://www.sqlite.org/autoinc.html).
CREATE TABLE mail_anew (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  code TEXT NOT NULL UNIQUE,
  recipient TEXT NOT NULL,
  subject TEXT NOT NULL,
  body TEXT NOT NULL,
  created_at TEXT NOT NULL,
  -- Kept: in the outbox, for want of a mail server. Waiting mail is sent, and tried again until it is failed.
  state TEXT NOT NULL DEFAULT 'kept' CHECK (state IN ('kept', 'waiting', 'sent', 'failed')),
  tries INTEGER NOT NULL DEFAULT 0,
  due_at TEXT,
  fault TEXT,
  ends_at TEXT,
  sheet_id INTEGER REFERENCES sheet (id) ON DELETE SET NULL,
  cause TEXT NOT NULL DEFAULT ''
) STRICT;
INSERT INTO mail_anew (id, code, recipient, subject, body, created_at, state, tries, due_at, fault, ends_at, sheet_id, cause)
  SELECT id, code, recipient, subject, body, created_at, state, tries, due_at, fault, ends_at, sheet_id, cause FROM mail;
DROP TABLE mail;
ALTER TABLE mail_anew RENAME TO mail;
CREATE INDEX mail_waiting ON mail (ends_at IS NULL, id) WHERE state = 'waiting';
CREATE INDEX mail_failed ON mail (id) WHERE state = 'failed';
CREATE INDEX mail_failed_of_sheet ON mail (sheet_id, id) WHERE state = 'failed';
CREATE INDEX mail_by_age ON mail (created_at);
CREATE INDEX mail_ending ON mail (ends_at) WHERE ends_at IS NOT NULL AND body <> '';
CREATE INDEX mail_by_cause ON mail (sheet_id, cause) WHERE cause <> '';
